import type { JobSheet } from "../../api/client";
import type { FieldName } from "../../api/jobFields";
import type { JobActions } from "../../api/jobs";
import { useParts } from "../../api/parts";
import { ChoiceField, DateField, NumberField, TextField } from "../../parts/AutoField";
import { lastMount, type Setup } from "./setups";

/** Which fields a change of its kind asks for first; the rest follow. */
const asked: Record<string, readonly string[]> = {
  repair: ["paste", "pasteMethod", "mountingKit"],
  "other-cooler": ["cooler", "coolerKind", "paste", "pasteMethod"],
  "other-paste": ["paste", "pasteMethod"],
  fans: ["fans", "steering", "caseAir"],
  setting: ["settings", "steering"],
  card: ["cardPaste"],
};

const all = [
  "cooler",
  "coolerKind",
  "paste",
  "pasteMethod",
  "mountingKit",
  "fans",
  "steering",
  "caseAir",
  "settings",
  "cardPaste",
];

/** The difference that a setup is, when its cooler was put on, and what the paste showed when it was lifted. */
export function SetupFields({ setup, job, actions }: { setup: Setup; job: JobSheet; actions: JobActions }) {
  const parts = useParts();
  const coolers = (parts.data ?? [])
    .filter((part) => part.kind === "cooler" && part.retiredAt === null)
    .map((part) => part.name);
  const shared = { job, actions };
  const name = (field: string): FieldName => `setup.${setup.number}.${field}`;
  const mount = (field: string): FieldName => `mount.${setup.number}.${lastMount(setup).number}.${field}`;
  const values = setup.values as Record<string, unknown>;
  const first = asked[setup.kind] ?? [];
  const fields = [...first, ...all.filter((field) => !first.includes(field) && values[field] !== null)];
  const rest = all.filter((field) => !fields.includes(field));
  const field = (one: string) =>
    one === "coolerKind" ? (
      <div key={one} className="sm:col-span-2">
        <ChoiceField {...shared} name={name(one)} />
      </div>
    ) : (
      <TextField key={one} {...shared} name={name(one)} suggestions={one === "cooler" ? coolers : undefined} />
    );
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      {fields.map(field)}
      <DateField {...shared} name={mount("mountedAt")} />
      <NumberField {...shared} name={name("priceMinor")} />
      <TextField {...shared} name={name("changed")} placeholder="display, memory, driver" />
      <TextField {...shared} name={mount("torque")} placeholder="across, in three rounds" />
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name={mount("print")} />
      </div>
      <div className="sm:col-span-2">
        <TextField {...shared} name={name("failedWhy")} hint="An abandoned attempt stays here, outside the verdict." />
      </div>
      {rest.length > 0 && (
        <details className="sm:col-span-2">
          <summary className="min-h-11 cursor-pointer py-2 text-teal">Something else was changed too</summary>
          <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">{rest.map(field)}</div>
        </details>
      )}
    </div>
  );
}
