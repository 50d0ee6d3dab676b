import type { Parsed } from "./saving";
import { readNumber } from "./words";

export type FieldValue = string | number | null;

const asText = (text: string): Parsed<FieldValue> => ({ value: !text || text.trim() === "" ? null : text });

const asNumber = (text: string): Parsed<FieldValue> => {
  if (text.trim() === "") {
    return { value: null };
  }
  const value = readNumber(text);
  return value === undefined ? { sentence: "This is no number. Comma and point are both fine." } : { value };
};

const asMoment = (text: string): Parsed<FieldValue> => {
  const at = text === "" ? null : new Date(text);
  return at && Number.isNaN(at.getTime())
    ? { sentence: "Expected a date and a time." }
    : { value: at?.toISOString() ?? null };
};

/** An amount as it is typed; kept in hundredths. */
const asMoney = (text: string): Parsed<FieldValue> => {
  const read = asNumber(text);
  return "value" in read && typeof read.value === "number" ? { value: Math.round(100 * read.value) } : read;
};

/** How the text of a kind of field is read. */
export const parserOf = (kind: string) =>
  kind === "number" || kind === "whole"
    ? asNumber
    : kind === "money"
      ? asMoney
      : kind === "instant"
        ? asMoment
        : asText;
