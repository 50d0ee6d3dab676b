import table from "../../../src/Remedos.Server/Jobs/job-fields.json";
import type { JobFieldValues } from "./client";

/** A field of a job, from the table that the server's checks, its history and its API are made from. */
export interface JobFieldRow {
  name: string;
  label: string;
  words: string;
  kind: string;
  unit?: string;
  least?: number;
  most?: number;
  choices?: readonly (readonly [string, string])[];
  wrong?: string;
}

export type FieldName = keyof JobFieldValues;

const rows = new Map((table as unknown as JobFieldRow[]).map((row) => [row.name, row]));

export function fieldRow(name: FieldName): JobFieldRow {
  const row = rows.get(name);
  if (!row) {
    throw new Error(`job-fields.json has no ${name}`);
  }
  return row;
}

/** What can be chosen for a field, each with its words. */
export const choicesOf = (name: FieldName) => fieldRow(name).choices ?? [];

/** A choice in words. */
export const choiceWords = (name: FieldName, value: string | null) => choicesOf(name).find(([id]) => id === value)?.[1];
