import { useEffect, useRef } from "react";
import type { JobFieldValues, JobSheet, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { usePartActions, useParts, type Part } from "../../api/parts";
import { ChoiceField, NumberField, TextField } from "../../parts/AutoField";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";

/** The fields that hold parts, with the kind of part that each holds. */
const slots = [
  ["processor", "processor"],
  ["board", "board"],
  ["cooler", "cooler"],
  ["case", "case"],
  ["memory", "memory"],
  ["graphics", "graphics"],
] as const;

/** What of a part belongs into which field of the job. */
const facts = (part: Part): [keyof JobFieldValues, string | number | null | undefined][] => [
  ["temperatureLimitC", part.values.processor?.temperatureLimitC],
  ["ratedPowerW", part.values.processor?.sustainedPowerW],
  ["coolerKind", part.values.cooler?.kind],
  ["memoryHeightMm", part.values.memory?.heightMm],
];

/** What the job knows of a part that the workshop does not. */
function valuesOf(kind: string, name: string, fields: JobFieldValues): Schemas["PartValues"] {
  const { temperatureLimitC, ratedPowerW, coolerKind, memoryHeightMm } = fields;
  switch (kind) {
    case "processor":
      return temperatureLimitC !== null && ratedPowerW !== null
        ? { processor: { name, temperatureLimitC, sustainedPowerW: ratedPowerW, socket: null } }
        : {};
    case "cooler":
      return coolerKind === null ? {} : { cooler: { id: "", name, kind: coolerKind, measured: false } };
    case "memory":
      return memoryHeightMm === null ? {} : { memory: { name, heightMm: memoryHeightMm } };
    default:
      return {};
  }
}

/** What the machine is made of: the workshop's parts, or any words. */
export function MachineParts({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const shared = { job, actions };
  const parts = useParts();
  const { keep } = usePartActions();
  const known = (parts.data ?? []).filter((part) => part.retiredAt === null);
  // What was typed here and is saved by now brings what is known of the part; opening the sheet alone writes nothing.
  const typed = useRef(new Set<(typeof slots)[number][0]>());
  useEffect(() => {
    for (const [field, kind] of slots) {
      const part = typed.current.has(field)
        ? parts.data?.find((one) => one.kind === kind && one.name === job.fields[field])
        : undefined;
      if (part) {
        typed.current.delete(field);
        for (const [fact, value] of facts(part)) {
          if (value != null && job.fields[fact] === null) {
            telling(actions.saveField(fact, value, null), "What is known of the part could not be noted.");
          }
        }
      }
    }
  }, [parts.data, job.fields, actions]);
  const missing = (kind: string, name: string | null) =>
    name !== null && parts.data !== undefined && known.every((part) => part.kind !== kind || part.name !== name);
  const boxed = known.find((part) => part.kind === "processor" && part.name === job.fields.processor)?.values.processor
    ?.boxCooler;
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      {slots.map(([field, kind]) => {
        const ours = known.filter((part) => part.kind === kind);
        const name = job.fields[field];
        return (
          <div key={field}>
            <TextField
              {...shared}
              name={field}
              suggestions={ours.map((part) => part.name)}
              onText={() => typed.current.add(field)}
            />
            {kind === "cooler" && name === null && known.some((part) => part.kind === kind && part.name === boxed) && (
              <Button
                kind="quiet"
                className="-ml-2"
                onClick={() => {
                  typed.current.add(field);
                  telling(actions.saveField(field, boxed!, null));
                }}
              >
                It has its box cooler, {boxed}
              </Button>
            )}
            {missing(kind, name) && (
              <Button
                kind="quiet"
                className="-ml-2"
                onClick={() => telling(keep({ kind, name: name!, values: valuesOf(kind, name!, job.fields) }))}
              >
                Add it to the workshop’s parts
              </Button>
            )}
          </div>
        );
      })}
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="coolerKind" />
      </div>
      <NumberField {...shared} name="temperatureLimitC" />
      <NumberField {...shared} name="ratedPowerW" />
      <NumberField {...shared} name="memoryHeightMm" />
      <TextField {...shared} name="fans" placeholder="how many, where" />
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="fansSteeredBy" />
      </div>
      {job.fields.fansSteeredBy === "fixed" && <NumberField {...shared} name="fansFixedRpm" />}
      {job.fields.coolerKind === "liquid" && (
        <div className="sm:col-span-2">
          <ChoiceField {...shared} name="radiatorAt" />
        </div>
      )}
    </div>
  );
}
