import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import { choiceWords } from "../../api/jobFields";
import type { JobActions } from "../../api/jobs";
import { useParts } from "../../api/parts";
import { NumberField, TextField } from "../../parts/AutoField";
import { buttonLook } from "../../parts/Button";
import { FoundCauses } from "./FoundCauses";

/** What was found, what was done, and the cooler that was chosen; how it sits stands with its setup. */
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
  const route = choiceWords("decisionRoute", job.fields.decisionRoute ?? null);
  const parts = useParts();
  const coolers = (parts.data ?? [])
    .filter((part) => part.kind === "cooler" && part.retiredAt === null)
    .map((part) => part.name);
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      <div className="flex flex-wrap gap-3 sm:col-span-2">
        <Link to={`/jobs/${job.id}/decide`} className={buttonLook("plain")}>
          {route ? `The owner chose: ${route}` : "Decide what is done"}
        </Link>
        <Link to={`/jobs/${job.id}/repair`} className={buttonLook("plain")}>
          {job.plan ? "Its steps" : "Plan it step by step"}
        </Link>
        <Link to={`/coolers?job=${job.id}`} className={buttonLook("plain")}>
          Coolers for this machine
        </Link>
        <Link to={`/air?job=${job.id}`} className={buttonLook("plain")}>
          Its air
        </Link>
      </div>
      <div className="sm:col-span-2">
        <FoundCauses {...shared} diagnosis={diagnosis} />
      </div>
      <div className="sm:col-span-2">
        <TextField {...shared} name="repairFound" lines={2} placeholder="paste print, dust, tubes, fans" />
      </div>
      <div className="sm:col-span-2">
        <TextField {...shared} name="repairDone" lines={2} placeholder="as the owner will read it" />
      </div>
      <TextField {...shared} name="repairParts" />
      <NumberField {...shared} name="repairMinutes" />
      <TextField {...shared} name="repairCooler" suggestions={coolers} />
      <div>
        <TextField {...shared} name="repairKept" lines={2} />
        {job.fields.repairKept && (
          <Link to={`/jobs/${job.id}/bag`} className={buttonLook("quiet")}>
            Label for the bag
          </Link>
        )}
      </div>
    </div>
  );
}
