import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { day, keepUnits } from "../../parts/words";

/** What this workshop already knows of the machine, or of its owner. */
export function EarlierJobs({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const [problem, setProblem] = useState<string>();
  if (job.earlier.length === 0) {
    return null;
  }
  const takeOver = (id: string) =>
    actions.takeOver(id).catch((failure: unknown) => setProblem(sentenceOf(failure, "Nothing was taken over.")));
  return (
    <ul aria-label="Here before" className="m-0 grid list-none gap-2 p-0">
      {job.earlier.map((earlier) => (
        <li key={earlier.id} className={earlier.sameMachine ? "border-l-4 border-teal pl-3" : "pl-4"}>
          <p className="m-0 flex flex-wrap items-center gap-x-3">
            <strong>{earlier.sameMachine ? "This machine was here before" : "Of the same owner"}:</strong>
            <Link
              to={`/jobs/${earlier.id}`}
              className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
            >
              {earlier.tag}, {day(earlier.handedOverAt ?? earlier.createdAt)}
            </Link>
            {!earlier.sameMachine && <span className="text-muted">{earlier.machine}</span>}
            {earlier.sameMachine && <Button onClick={() => void takeOver(earlier.id)}>Take over what is known</Button>}
          </p>
          {earlier.since && <p className="m-0 text-lg font-bold">{keepUnits(earlier.since)}</p>}
          {earlier.sameMachine && (
            <p className="m-0">
              {[
                earlier.causes.join(", "),
                earlier.found && `found: ${earlier.found}`,
                earlier.done && `done: ${earlier.done}`,
              ]
                .filter(Boolean)
                .join("; ")}
              .
            </p>
          )}
        </li>
      ))}
      {problem && (
        <li role="alert" className="font-semibold text-amber">
          {problem}
        </li>
      )}
    </ul>
  );
}
