import table from "../../../src/Remedos.Server/Jobs/job-fields.json";
import mountTable from "../../../src/Remedos.Server/Jobs/mount-fields.json";
import setupTable from "../../../src/Remedos.Server/Jobs/setup-fields.json";
import type { JobFieldValues, JobSheet } from "./client";

/** A field of a job, from the table that the server's checks, its history and its API are made from. */
export interface JobFieldRow {
  name: string;
  label: string;
  words: string;
  kind: string;
  unit?: string;
  /** Whether it cannot lie in days to come. */
  past?: boolean;
  least?: number;
  most?: number;
  choices?: readonly (readonly [string, string])[];
  wrong?: string;
}

/** A field of a job, or of one of its setups or mounts: `setup.2.paste`, `mount.2.1.print`. */
export type FieldName = keyof JobFieldValues | `setup.${number}.${string}` | `mount.${number}.${number}.${string}`;

const rowsOf = (rows: unknown) => new Map((rows as JobFieldRow[]).map((row) => [row.name, row]));
const tables = { job: rowsOf(table), setup: rowsOf(setupTable), mount: rowsOf(mountTable) };

/** A name's parts; the table that its row stands in comes first. */
function partsOf(name: FieldName): { of: keyof typeof tables; numbers: number[]; field: string } {
  const parts = name.split(".");
  return parts[0] === "setup" || parts[0] === "mount"
    ? { of: parts[0], numbers: parts.slice(1, -1).map(Number), field: parts.at(-1)! }
    : { of: "job", numbers: [], field: name };
}

export function fieldRow(name: FieldName): JobFieldRow {
  const { of, field } = partsOf(name);
  const row = tables[of].get(field);
  if (!row) {
    throw new Error(`${of}-fields.json has no ${field}`);
  }
  return row;
}

/** Whether a job has a field: its own always, a setup's or a mount's while that is there. */
export function hasField(job: JobSheet, name: FieldName): boolean {
  const { of, numbers, field } = partsOf(name);
  const setup = job.setups.find((one) => one.number === numbers[0]);
  return (
    tables[of].has(field) &&
    (of === "job" ||
      (setup !== undefined && (of === "setup" || setup.mounts.some((mount) => mount.number === numbers[1]))))
  );
}

/** What a field holds now; null where its setup or mount is gone. */
export function valueOf(job: JobSheet, name: FieldName): unknown {
  const { of, numbers, field } = partsOf(name);
  if (of === "job") {
    return job.fields[name as keyof JobFieldValues];
  }
  const setup = job.setups.find((one) => one.number === numbers[0]);
  const values = of === "setup" ? setup?.values : setup?.mounts.find((one) => one.number === numbers[1])?.values;
  return (values as Record<string, unknown> | undefined)?.[field] ?? null;
}

/** What can be chosen for a field, each with its words. */
export const choicesOf = (name: FieldName) => fieldRow(name).choices ?? [];

/** A choice in words. */
export const choiceWords = (name: FieldName, value: string | null) => choicesOf(name).find(([id]) => id === value)?.[1];
