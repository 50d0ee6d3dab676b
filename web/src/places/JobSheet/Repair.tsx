import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { useParts } from "../../api/parts";
import { ChoiceField, DateField, NumberField, TextField } from "../../parts/AutoField";
import { buttonLook } from "../../parts/Button";
import { coolerKinds } from "./coolerKinds";
import { FoundCauses } from "./FoundCauses";

const routes = [
  ["repair", "repair it"],
  ["cooler", "another cooler"],
  ["cap", "cap the power"],
  ["leave", "leave it"],
] as const;

/** What was found, what was done, and how the cooler sits now. */
export function Repair({
  job,
  actions,
  diagnosis,
}: {
  job: JobSheet;
  actions: JobActions;
  diagnosis: JobDiagnosis | undefined;
}) {
  const shared = { job, actions };
  const parts = useParts();
  const coolers = (parts.data ?? [])
    .filter((part) => part.kind === "cooler" && part.retiredAt === null)
    .map((part) => part.name);
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      <div className="flex flex-wrap gap-3 sm:col-span-2">
        <Link to={`/coolers?job=${job.id}`} className={buttonLook("plain")}>
          Coolers for this machine
        </Link>
        <Link to={`/air?job=${job.id}`} className={buttonLook("plain")}>
          Its air
        </Link>
      </div>
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="decisionRoute" label="What the owner chose" options={routes} />
      </div>
      <div className="sm:col-span-2">
        <FoundCauses {...shared} diagnosis={diagnosis} />
      </div>
      <div className="sm:col-span-2">
        <TextField
          {...shared}
          name="repairFound"
          label="Found"
          lines={2}
          placeholder="paste print, dust, tubes, fans"
        />
      </div>
      <div className="sm:col-span-2">
        <TextField
          {...shared}
          name="repairDone"
          label="Done and replaced"
          lines={2}
          placeholder="as the owner will read it"
        />
      </div>
      <TextField {...shared} name="repairParts" label="Parts" />
      <NumberField {...shared} name="repairMinutes" label="Time at the bench" unit="min" />
      <TextField {...shared} name="repairPaste" label="Paste" />
      <TextField
        {...shared}
        name="repairPasteMethod"
        label="How it was put on"
        placeholder="one dot, cross, spread film"
      />
      <DateField {...shared} name="mountedAt" label="Cooler mounted" withTime />
      <div className="sm:col-span-2">
        <ChoiceField
          {...shared}
          name="repairCoolerKind"
          label="Cooler now, if it is another kind"
          options={coolerKinds}
        />
      </div>
      <TextField {...shared} name="repairCooler" label="Cooler that goes on, by name" suggestions={coolers} />
    </div>
  );
}
