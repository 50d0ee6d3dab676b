import type { NewLine } from "../../api/papers";
import { amount } from "../../parts/useMoney";
import { readNumber } from "../../parts/words";

/** A line as it stands in its boxes. */
export interface Typed {
  what: string;
  quantity: string;
  /** min for labour, whose price is an hour's. */
  unit: string | null;
  price: string;
}

export const fromLine = (
  line: { what: string; quantity: number; unit?: string | null; unitMinor: number },
  digits: number,
): Typed => ({
  what: line.what,
  quantity: String(line.quantity),
  unit: line.unit ?? null,
  // What costs nothing yet is asked for: nobody bills a nought by accident.
  price: line.unitMinor === 0 ? "" : amount(line.unitMinor, digits),
});

/** Halves go away from zero, as on the server. */
const rounded = (value: number) => Math.sign(value) * Math.round(Math.abs(value) + 1e-9);

/** A line with its sum; undefined while it says nothing yet. */
export function lineOf(typed: Typed, digits: number): (NewLine & { netMinor: number }) | undefined {
  const quantity = readNumber(typed.quantity);
  const price = readNumber(typed.price);
  if (quantity === undefined || price === undefined || quantity <= 0 || typed.what.trim() === "") {
    return undefined;
  }
  const unitMinor = Math.round(price * 10 ** digits);
  return {
    what: typed.what.trim(),
    quantity,
    unit: typed.unit,
    unitMinor,
    netMinor: rounded((quantity * unitMinor) / (typed.unit === "min" ? 60 : 1)),
  };
}

/** What a paper of these lines comes to, in the minor unit. */
export function sumOf(lines: readonly { netMinor: number }[], taxPercent: number) {
  const net = lines.reduce((sum, line) => sum + line.netMinor, 0);
  return { net, tax: rounded((net * taxPercent) / 100) };
}
