import { Printer } from "lucide-react";
import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
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

const settings = [
  ["office", "office"],
  ["home", "home"],
  ["pets-or-smoke", "pets or smoke"],
  ["workshop-dust", "workshop dust"],
  ["flour-dust", "flour dust"],
  ["cupboard", "in a cupboard"],
] as const;

const origins = [
  ["complete", "bought complete"],
  ["self-built", "self-built"],
] as const;

const lastDone = [
  ["nothing", "nothing"],
  ["cleaned", "cleaned"],
  ["repasted", "paste renewed"],
  ["cooler-changed", "cooler changed"],
  ["part-added", "part added"],
  ["firmware", "firmware updated"],
  ["moved", "moved"],
] as const;

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
  const { answer, problem } = useAnswer(actions, diagnosis);
  const asked = diagnosis?.observations.filter((one) => one.kind === "symptom") ?? [];
  const { fields } = job;
  const parts = [fields.processor, fields.board, fields.cooler, fields.case, fields.memory, fields.graphics];
  return (
    <div className="grid gap-4">
      <EarlierJobs {...shared} />
      <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <TextField {...shared} name="owner" label="Owner" />
        <TextField {...shared} name="contact" label="Contact" placeholder="phone, mail, when to call" />
        <div className="sm:col-span-2">
          <TextField
            {...shared}
            name="machine"
            label="Machine"
            lines={2}
            placeholder="what it is, cooler, age, where it stands"
          />
        </div>
        <div className="sm:col-span-2">
          <TextField
            {...shared}
            name="noticed"
            label="What the owner noticed"
            lines={2}
            placeholder="in the owner’s words"
          />
        </div>
        <TextField {...shared} name="serial" label="Serial number" />
        <NumberField {...shared} name="roomC" label="Room" unit="°C" />
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
          title="What it is made of"
          gist={parts.filter(Boolean).join(", ") || "not noted yet"}
          open={fields.temperatureLimitC === null}
        >
          <MachineParts {...shared} />
        </Fold>
        <Fold title="Age and place" gist={gist(job)}>
          <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
            <ChoiceField {...shared} name="origin" label="Bought or built" options={origins} />
            <DateField {...shared} name="builtOn" label="When it was built or bought" />
            <div className="sm:col-span-2">
              <ChoiceField {...shared} name="setting" label="Where it stands" options={settings} />
            </div>
            <div className="sm:col-span-2">
              <TextField {...shared} name="doneBefore" label="What was done to it before" lines={2} />
            </div>
            <div className="sm:col-span-2">
              <ChoiceField {...shared} name="lastDone" label="The last of it" options={lastDone} />
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

const words = (options: readonly (readonly [string, string])[], value: string | null) =>
  options.find(([id]) => id === value)?.[1];

function gist({ fields }: JobSheet) {
  const known = [
    words(origins, fields.origin),
    fields.builtOn && `since ${fields.builtOn.slice(0, 7)}`,
    words(settings, fields.setting),
    fields.lastDone && `last: ${words(lastDone, fields.lastDone)}`,
  ];
  return known.filter(Boolean).join(", ") || "not noted yet";
}
