import { useEffect, useState } from "react";
import type { JobSheet } from "../../api/client";
import { fieldRow, hasField, valueOf, type FieldName } from "../../api/jobFields";
import type { JobActions } from "../../api/jobs";
import { formatOf, parserOf, type FieldValue } from "../../parts/fieldText";
import { hold, keptDrafts, saverOf } from "../../parts/saving";
import { minorIn, useCurrency } from "../../parts/useMoney";

const typedKinds = ["line", "text", "number", "temperature", "whole", "money", "date", "choice"];

/**
 * Sends what was typed into this job on this browser and never left it, also into sections that are folded now.
 * @returns The fields of it that wait for somebody: to choose between two values, to mend one, or for the server.
 */
export function useWaitingDrafts(job: JobSheet, actions: JobActions): readonly FieldName[] {
  const { id } = job;
  const minor = minorIn(useCurrency());
  const [waiting, setWaiting] = useState<readonly FieldName[]>([]);
  useEffect(() => {
    const drafts = keptDrafts()
      .filter((key) => key.startsWith(`${id}:`))
      .map((key) => key.slice(id.length + 1) as FieldName)
      .filter((name) => hasField(job, name) && typedKinds.includes(fieldRow(name).kind))
      .map((name) => ({
        name,
        saver: saverOf<string, FieldValue>(`${id}:${name}`, valueOf(job, name) as FieldValue, {
          parse: parserOf(fieldRow(name).kind, minor),
          format: formatOf(fieldRow(name).kind, minor),
          save: (value, base) => actions.saveField(name, value, base),
        }),
      }));
    const look = () =>
      setWaiting(
        drafts
          .filter(({ saver }) => ["conflict", "wrong", "unsaved"].includes(saver.snapshot().state.kind))
          .map(({ name }) => name),
      );
    const ends = drafts.flatMap(({ saver }) => [saver.subscribe(look), hold(saver)]);
    return () => ends.forEach((end) => end());
    // Only when the job is opened: what is typed from then on has its field.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [id]);
  return waiting;
}

/** Where a field stands on the sheet. */
export const sectionOf = (name: FieldName) =>
  /^(setup|mount)\./.test(name)
    ? /^\w+\.1\./.test(name)
      ? "before"
      : "after"
    : /^(repair|decision)/.test(name)
      ? "repair"
      : name.startsWith("tube")
        ? "look"
        : name === "recheckOn"
          ? "handover"
          : "intake";
