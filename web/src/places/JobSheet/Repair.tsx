import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { ChoiceField, DateField, NumberField, TextField } from "../../parts/AutoField";
import { buttonLook } from "../../parts/Button";
import { coolerKinds } from "./coolerKinds";
import { FoundCauses } from "./FoundCauses";

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
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      <Link to={`/coolers?job=${job.id}`} className={`${buttonLook("plain")} justify-self-start sm:col-span-2`}>
        Coolers for this machine
      </Link>
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
    </div>
  );
}
