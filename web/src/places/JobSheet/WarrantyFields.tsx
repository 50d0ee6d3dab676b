import clsx from "clsx";
import { FileDown } from "lucide-react";
import { useRef } from "react";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { ChoiceField, DateField, NumberField } from "../../parts/AutoField";
import { claimPdf } from "../../api/papers";
import { Button, buttonLook } from "../../parts/Button";
import type { Photos } from "./usePhotos";

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
      <DateField {...shared} name="purchasedOn" />
      <NumberField {...shared} name="warrantyMonths" />
      <div className="sm:col-span-2">
        <ChoiceField {...shared} name="warrantyEndedBy" />
      </div>
      <ChoiceField {...shared} name="warrantyRoute" />
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
        <a href={claimPdf(job.id)} target="_blank" rel="noreferrer" className={buttonLook("quiet")}>
          <FileDown size={18} aria-hidden="true" /> The claim, for the maker
        </a>
      </div>
    </div>
  );
}
