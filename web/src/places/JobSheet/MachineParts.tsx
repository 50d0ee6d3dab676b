import { useEffect, useRef } from "react";
import type { JobFieldValues, JobSheet, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { usePartActions, useParts, type Part } from "../../api/parts";
import { ChoiceField, NumberField, TextField } from "../../parts/AutoField";
import { Button } from "../../parts/Button";
import { coolerKinds } from "./coolerKinds";

const sources = [
  ["cpu", "the processor"],
  ["coolant", "the liquid"],
  ["gpu", "the graphics card"],
  ["cpu-gpu", "the hotter of both"],
  ["board", "the board"],
  ["fixed", "nothing, fixed"],
] as const;

/** The fields that hold parts, with the kind of part that each holds. */
const slots = [
  ["processor", "processor", "Processor"],
  ["board", "board", "Board"],
  ["cooler", "cooler", "Cooler"],
  ["case", "case", "Case"],
  ["memory", "memory", "Memory"],
  ["graphics", "graphics", "Graphics card"],
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
            void actions.saveField(fact, value, null);
          }
        }
      }
    }
  }, [parts.data, job.fields, actions]);
  const missing = (kind: string, name: string | null) =>
    name !== null && parts.data !== undefined && known.every((part) => part.kind !== kind || part.name !== name);
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      {slots.map(([field, kind, label]) => {
        const ours = known.filter((part) => part.kind === kind);
        const name = job.fields[field];
        return (
          <div key={field}>
            <TextField
              {...shared}
              name={field}
              label={label}
              suggestions={ours.map((part) => part.name)}
              onText={() => typed.current.add(field)}
            />
            {missing(kind, name) && (
              <Button
                kind="quiet"
                className="-ml-2"
                onClick={() =>
                  keep({
                    kind,
                    name: name!,
                    values: valuesOf(kind, name!, job.fields),
                  })
                }
              >
                Add it to the workshop’s parts
              </Button>
            )}
          </div>
        );
      })}
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="coolerKind" label="Kind of cooler" options={coolerKinds} />
      </div>
      <NumberField {...shared} name="temperatureLimitC" label="Processor’s temperature limit" unit="°C" />
      <NumberField {...shared} name="ratedPowerW" label="Processor’s rated power" unit="W" />
      <NumberField {...shared} name="memoryHeightMm" label="Memory stands above its slot" unit="mm" />
      <TextField {...shared} name="fans" label="Fans" placeholder="how many, where" />
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="fansSteeredBy" label="Fans follow" options={sources} />
      </div>
    </div>
  );
}
