import { Printer } from "lucide-react";
import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import { choiceWords } from "../../api/jobFields";
import type { JobActions } from "../../api/jobs";
import { ChoiceField, DateField, NumberField, TextField } from "../../parts/AutoField";
import { buttonLook } from "../../parts/Button";
import { Fold } from "../../parts/Fold";
import { EarlierJobs } from "./EarlierJobs";
import { MachineParts } from "./MachineParts";
import { Photos } from "./Photos";
import { Symptoms } from "./Symptoms";
import { useAnswer } from "./useAnswer";
import type { Photos as Adding } from "./usePhotos";
import { WarrantyFields } from "./WarrantyFields";

/** Who brought what, what they noticed, what it is made of, and what is still owed on it. */
export function Intake({
  job,
  actions,
  diagnosis,
  photos,
}: {
  job: JobSheet;
  actions: JobActions;
  diagnosis: JobDiagnosis | undefined;
  photos: Adding;
}) {
  const shared = { job, actions };
  const { answer, problem } = useAnswer(job, actions);
  const asked = diagnosis?.observations.filter((one) => one.kind === "symptom") ?? [];
  const { fields } = job;
  const parts = [fields.processor, fields.board, fields.cooler, fields.case, fields.memory, fields.graphics];
  return (
    <div className="grid gap-4">
      <EarlierJobs {...shared} />
      <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <TextField {...shared} name="owner" />
        <TextField {...shared} name="contact" placeholder="phone, mail, when to call" />
        <div className="sm:col-span-2">
          <TextField {...shared} name="machine" lines={2} placeholder="what it is, cooler, age, where it stands" />
        </div>
        <div className="sm:col-span-2">
          <TextField {...shared} name="noticed" lines={2} placeholder="in the owner’s words" />
        </div>
        <div className="sm:col-span-2">
          <ChoiceField {...shared} name="wish" />
        </div>
        <TextField {...shared} name="serial" />
        <NumberField {...shared} name="roomC" />
      </div>
      <div className="min-w-0">
        <Fold
          title="Ask the owner"
          gist={`${asked.filter((one) => one.state !== null).length} of ${asked.length} asked`}
          open
        >
          {problem && (
            <p role="alert" className="m-0 font-semibold text-amber">
              {problem}
            </p>
          )}
          <Symptoms observations={asked} onAnswer={answer} />
        </Fold>
        <Fold
          id="parts"
          title="What it is made of"
          gist={parts.filter(Boolean).join(", ") || "not noted yet"}
          open={fields.temperatureLimitC === null}
        >
          <MachineParts {...shared} />
        </Fold>
        <Fold title="Age and place" gist={gist(job)}>
          <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
            <ChoiceField {...shared} name="origin" />
            <DateField {...shared} name="builtOn" />
            <div className="sm:col-span-2">
              <ChoiceField {...shared} name="setting" />
            </div>
            <div className="sm:col-span-2">
              <TextField {...shared} name="doneBefore" lines={2} />
            </div>
            <div className="sm:col-span-2">
              <ChoiceField {...shared} name="lastDone" />
            </div>
          </div>
        </Fold>
        <Fold
          id="warranty"
          title="Warranty"
          gist={
            job.warranty.daysLeft == null
              ? "not known"
              : job.warranty.daysLeft > 0
                ? `${job.warranty.daysLeft} days left`
                : "run out"
          }
        >
          <WarrantyFields {...shared} photos={photos} />
        </Fold>
        <Fold id="pictures" title="Pictures" gist={job.photos.length === 0 ? "none yet" : String(job.photos.length)}>
          <Photos {...shared} photos={photos} />
        </Fold>
      </div>
      <Link to={`/jobs/${job.id}/tag`} className={`${buttonLook("plain")} justify-self-start`}>
        <Printer size={20} aria-hidden="true" /> Tag for the machine
      </Link>
    </div>
  );
}

function gist({ fields }: JobSheet) {
  const known = [
    choiceWords("origin", fields.origin),
    fields.builtOn && `since ${fields.builtOn.slice(0, 7)}`,
    choiceWords("setting", fields.setting),
    fields.lastDone && `last: ${choiceWords("lastDone", fields.lastDone)}`,
  ];
  return known.filter(Boolean).join(", ") || "not noted yet";
}
