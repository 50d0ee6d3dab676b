import type { Parsed } from "./saving";
import { celsiusOf, typedDegrees } from "./degrees";
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

/** A temperature as this workshop reads it; kept in °C. */
const asTemperature = (text: string): Parsed<FieldValue> => {
  const read = asNumber(text);
  return "value" in read && typeof read.value === "number" ? { value: celsiusOf(read.value) } : read;
};

/** An amount as it is typed; kept in the currency's minor unit. */
const asMoney =
  (minor: number) =>
  (text: string): Parsed<FieldValue> => {
    const read = asNumber(text);
    return "value" in read && typeof read.value === "number" ? { value: Math.round(minor * read.value) } : read;
  };

/** How the text of a kind of field is read; money by how many of the minor unit are one. */
export const parserOf = (kind: string, minor: number) =>
  kind === "number" || kind === "whole"
    ? asNumber
    : kind === "temperature"
      ? asTemperature
      : kind === "money"
        ? asMoney(minor)
        : kind === "instant"
          ? asMoment
          : asText;

/** How a value stands in its box. */
export const formatOf = (kind: string, minor: number) => (value: FieldValue) =>
  value === null
    ? ""
    : kind === "money"
      ? String(Number(value) / minor)
      : kind === "temperature"
        ? typedDegrees(Number(value))
        : String(value);
