import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf } from "../../api/client";
import { ownersFile, useErase, useOwners, type Owner } from "../../api/owners";
import { Button, buttonLook } from "../../parts/Button";
import { day } from "../../parts/words";
import { Line, Wrong } from "../SignIn/Line";
import { SettingField } from "./SettingField";

/** What an owner may ask for, all that is kept or that it go, and what goes by itself. */
export function Owners() {
  const [q, setQ] = useState("");
  const owners = useOwners(q);
  return (
    <section aria-label="Owners’ data" className="grid gap-3">
      <div>
        <h2 className="text-xl font-bold">Owners’ data</h2>
        <p className="m-0 text-muted">
          An owner may ask for all that is kept about them, or that it be erased. What was measured, found and charged
          stays, without the name.
        </p>
      </div>
      <Line label="Whose, by name or contact" type="search" value={q} onChange={(event) => setQ(event.target.value)} />
      {q.trim() !== "" && owners.data?.length === 0 && (
        <p role="status" className="m-0">
          Nobody by that name or contact.
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {owners.data?.map((owner) => (
          <One key={owner.jobs[0]!.id} owner={owner} />
        ))}
      </ul>
      <SettingField name="forgetOwnersAfterMonths" label="Erased by itself, months after hand-over" kind="optional" />
      <SettingField name="keepBillsYears" label="Bills name the owner for, years" kind="number" />
      <SettingField name="keepAccessMonths" label="Who came and went is kept for, months" kind="number" />
    </section>
  );
}

function One({ owner }: { owner: Owner }) {
  const erase = useErase();
  const [asking, setAsking] = useState(false);
  const [wrong, setWrong] = useState<string>();
  const jobs = owner.jobs.map((job) => job.id);
  return (
    <li className="border-t border-hairline py-3">
      <p className="m-0">
        <strong className="text-lg">{owner.owner ?? "no name"}</strong>
        {owner.contact && <span className="text-muted"> · {owner.contact}</span>}
      </p>
      <p className="m-0 text-muted">
        {owner.jobs.map((job, i) => (
          <span key={job.id}>
            {i > 0 && ", "}
            <Link to={`/jobs/${job.id}`} className="text-teal underline underline-offset-4">
              {job.tag}
            </Link>{" "}
            {job.handedOverAt ? `left ${day(job.handedOverAt)}` : "is here"}
          </span>
        ))}
      </p>
      <div className="mt-2 flex flex-wrap gap-3">
        <a className={buttonLook("plain")} href={ownersFile(jobs)} download>
          All that is kept
        </a>
        {!asking && <Button onClick={() => setAsking(true)}>Erase …</Button>}
      </div>
      {asking && (
        <div role="alertdialog" aria-label="Erase an owner’s data" className="mt-3 border-l-4 border-amber pl-3">
          <p className="m-0 mb-2">
            Name, contact, proofs of purchase and links to the owner’s page go from {owner.jobs.length}{" "}
            {owner.jobs.length === 1 ? "job" : "jobs"}, and cannot be brought back. What the owner said and other
            pictures stay: look through them first.
          </p>
          <div className="flex flex-wrap gap-3">
            <Button
              kind="main"
              disabled={erase.isPending}
              onClick={() =>
                erase
                  .mutateAsync(jobs)
                  .then(() => setAsking(false))
                  .catch((failure: unknown) => setWrong(sentenceOf(failure, "Nothing was erased.")))
              }
            >
              Erase for good
            </Button>
            <Button onClick={() => setAsking(false)}>Leave it</Button>
          </div>
          <Wrong sentence={wrong} />
        </div>
      )}
    </li>
  );
}
