import { minus } from "./degrees";
/** Numbers as a technician reads them: sensible digits, a true minus, the unit behind a thin space. */

export function watts(value: number | null | undefined): string {
  return value == null ? "—" : `${minus(value.toFixed(0))} W`;
}

export function resistance(value: number | null | undefined): string {
  return value == null ? "—" : minus(value.toFixed(2));
}

export function gigahertz(megahertz: number | null | undefined): string {
  return megahertz == null ? "—" : `${(megahertz / 1000).toFixed(2)} GHz`;
}

export function rpm(value: number | null | undefined): string {
  return value == null ? "—" : `${Math.round(value / 10) * 10} rpm`;
}

/** Keeps a number and its unit on one line, in a sentence of the server's. */
export const keepUnits = (sentence: string) =>
  sentence.replace(/(\d) (°[CF]|W\b|%|GHz|MHz|rpm|mm\b|ml\b|mV\b|A\b|min\b|h\b|s\b)/g, "$1\u00a0$2");

/** Minutes and seconds of a time in a run. */
export function clock(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, "0");
  const sign = seconds < 0 && whole > 0 ? "−" : "";
  return hours > 0 ? `${sign}${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${sign}${minutes}:${rest}`;
}

/** Reads minutes and seconds as `clock` writes them, or plain minutes; seconds, or undefined when it is neither. */
export function readClock(text: string): number | undefined {
  const plain = text.trim().replace("−", "-");
  const parts = /^(-?)(?:(\d+):)?(\d+):(\d{1,2})$/.exec(plain);
  if (parts) {
    const seconds = 3600 * Number(parts[2] ?? 0) + 60 * Number(parts[3]) + Number(parts[4]);
    return parts[1] ? -seconds : seconds;
  }
  const minutes = readNumber(plain);
  return minutes === undefined ? undefined : 60 * minutes;
}

export function megabytes(bytes: number): string {
  return bytes < 1e6
    ? `${Math.max(1, Math.round(bytes / 1e3))} kB`
    : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
}

/** Reads a number as anybody types it, comma or point; undefined when it is none. */
export function readNumber(text: string): number | undefined {
  const plain = text
    .trim()
    .replace("−", "-")
    .replace(/\s*(°\s*[CcFf]|W|%|rpm|min)?$/, "")
    .replace(",", ".");
  return /^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : undefined;
}

const dayFormat = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });
const momentFormat = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

const dateOnly = /^(\d{4})-(\d{2})-(\d{2})$/;

/** A day. A date without a time is that day everywhere, whatever zone the reader is in. */
export function day(at: string | Date): string {
  const parts = typeof at === "string" ? dateOnly.exec(at) : null;
  return dayFormat.format(parts ? new Date(Number(parts[1]), Number(parts[2]) - 1, Number(parts[3])) : new Date(at));
}

export const moment = (at: string | Date) => momentFormat.format(new Date(at));

/** How long ago, in the coarsest unit that says it. */
export function ago(at: string, now = Date.now()): string {
  const minutes = Math.max(0, Math.round((now - new Date(at).getTime()) / 60000));
  return minutes < 1
    ? "just now"
    : minutes < 60
      ? `${minutes} min ago`
      : minutes < 48 * 60
        ? `${Math.round(minutes / 60)} h ago`
        : `${Math.round(minutes / 1440)} days ago`;
}

/** Local date and time as an <input type="datetime-local"> wants it. */
export function toLocalInput(at: string | null): string {
  if (!at) {
    return "";
  }
  const date = new Date(at);
  return new Date(date.getTime() - date.getTimezoneOffset() * 60000).toISOString().slice(0, 16);
}

/** A date so many months from now, as an <input type="date"> wants it. */
export function inMonths(months: number, from = new Date()): string {
  const last = new Date(from.getFullYear(), from.getMonth() + months + 1, 0).getDate();
  const date = new Date(from.getFullYear(), from.getMonth() + months, Math.min(from.getDate(), last));
  const two = (number: number) => String(number).padStart(2, "0");
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

const hourFormat = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const weekdayFormat = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short" });

/** A time of the day. */
export const hourOf = (at: string | number) => hourFormat.format(new Date(at));

/** A day by its name in the week. */
export const weekday = (at: string | Date) =>
  weekdayFormat.format(typeof at === "string" && dateOnly.test(at) ? new Date(`${at}T12:00`) : new Date(at));

/** When something is: today by its hour alone, else by its day as well. */
export const when = (at: string, now: string): string =>
  new Date(at).toDateString() === new Date(now).toDateString() ? hourOf(at) : `${weekday(at)}, ${hourOf(at)}`;

/** Minutes as anybody says them. */
export function duration(minutes: number): string {
  const whole = Math.max(1, Math.round(minutes));
  return whole < 100
    ? `${whole} min`
    : whole < 48 * 60
      ? `${Math.floor(whole / 60)} h${whole % 60 >= 5 ? ` ${Math.round((whole % 60) / 5) * 5} min` : ""}`
      : `${Math.round(whole / 1440)} days`;
}
