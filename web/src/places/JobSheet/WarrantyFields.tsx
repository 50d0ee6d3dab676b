import clsx from "clsx";
import { useRef } from "react";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { ChoiceField, DateField, NumberField } from "../../parts/AutoField";
import { Button } from "../../parts/Button";
import type { Photos } from "./usePhotos";

const enders = [
  ["case", "opening the case"],
  ["cooler", "taking the cooler off"],
  ["nothing", "neither"],
] as const;

const routes = [
  ["claim", "claim it"],
  ["here", "repair it here"],
] as const;

/** When and for how long, what ends it, the proof, and what the owner chose. */
export function WarrantyFields({ job, actions, photos }: { job: JobSheet; actions: JobActions; photos: Photos }) {
  const shared = { job, actions };
  const proof = useRef<HTMLInputElement>(null);
  const runs = (job.warranty.daysLeft ?? 0) > 0;
  return (
    <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
      {job.warranty.sentence && (
        <p className={clsx("m-0 text-lg sm:col-span-2", runs && "border-l-4 border-amber pl-3")}>
          {job.warranty.sentence}
        </p>
      )}
      <DateField {...shared} name="purchasedOn" label="Date of purchase" />
      <NumberField {...shared} name="warrantyMonths" label="Term" unit="months" />
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="warrantyEndedBy" label="What ends it early" options={enders} />
      </div>
      <ChoiceField {...shared} name="warrantyRoute" label="The owner chose to" options={routes} />
      <div>
        <Button onClick={() => proof.current?.click()}>Picture of the proof of purchase</Button>
        <input
          ref={proof}
          type="file"
          accept="image/*"
          hidden
          onChange={(event) => {
            void photos.add([...(event.target.files ?? [])], "proof");
            event.target.value = "";
          }}
        />
      </div>
    </div>
  );
}
