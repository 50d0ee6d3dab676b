import { describe, expect, it } from "vitest";
import { amount } from "../../parts/useMoney";
import { fromLine, lineOf, sumOf } from "./lines";

describe("lines of a quote", () => {
  const typed = (more = {}) => ({ what: "Labour", quantity: "37", unit: "min", price: "48,00", ...more });

  it("adds up as the server does: an hour’s price by the minute, halves away from zero", () => {
    expect(lineOf(typed(), 2)).toMatchObject({ quantity: 37, unitMinor: 4800, netMinor: 2960 });
    expect(lineOf(typed({ unit: null, quantity: "2.5", price: "0.01" }), 2)?.netMinor).toBe(3);
    expect(lineOf(typed({ unit: null, quantity: "2.5", price: "-0.01" }), 2)?.netMinor).toBe(-3);
    expect(sumOf([{ netMinor: 2960 }, { netMinor: 433 }], 19)).toEqual({ net: 3393, tax: 645 });
    expect(sumOf([], 19)).toEqual({ net: 0, tax: 0 });
  });

  it("counts in the currency’s own minor unit", () => {
    expect(amount(1234, 0)).toBe("1234");
    expect(amount(1234, 3)).toBe("1.234");
    expect(lineOf(typed({ unit: null, quantity: "1", price: "1.234" }), 3)?.netMinor).toBe(1234);
    expect(fromLine({ what: "Paste", quantity: 1, unitMinor: 433 }, 2)).toEqual({
      what: "Paste",
      quantity: "1",
      unit: null,
      price: "4.33",
    });
  });

  it.each([[{ what: " " }], [{ quantity: "" }], [{ quantity: "0" }], [{ price: "dear" }]])(
    "says nothing yet of %o",
    (more) => expect(lineOf(typed(more), 2)).toBeUndefined(),
  );
});
