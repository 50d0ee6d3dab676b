import { useState } from "react";
import { Problem, type JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { CauseLadder } from "../../pictures/CauseLadder";
import { NextCheck } from "./NextCheck";
import { Observations } from "./Observations";

/** What is wrong, how sure, why, and what to check next; every answer moves the ladder at once. */
export function Diagnosis({
  job,
  actions,
  diagnosis,
}: {
  job: JobSheet;
  actions: JobActions;
  diagnosis: JobDiagnosis;
}) {
  const [problem, setProblem] = useState<string>();
  const answer = (id: string, state: string | null, doubtful = false) => {
    const stored = diagnosis.observations.find((one) => one.id === id);
    const raw = (value: string | null, doubt: boolean) => (value === null ? null : `${value}${doubt ? "?" : ""}`);
    setProblem(undefined);
    actions
      .saveField(
        `evidence.${id}`,
        raw(state, doubtful),
        stored?.offRuns ? null : raw(stored?.state ?? null, stored?.doubtful ?? false),
      )
      .catch((failure: unknown) => setProblem(failure instanceof Problem ? failure.message : "It was not kept."));
  };
  return (
    <div className="grid gap-5">
      {problem && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {problem}
        </p>
      )}
      {diagnosis.warnings.map((warning) => (
        <p key={warning} className="m-0 border-l-4 border-amber pl-3">
          {warning}
        </p>
      ))}
      <CauseLadder causes={diagnosis.causes} />
      <NextCheck checks={diagnosis.checks} jobId={job.id} onAnswer={answer} />
      <div>
        <Observations observations={diagnosis.observations} onAnswer={answer} />
      </div>
    </div>
  );
}
