import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { CauseLadder } from "../../pictures/CauseLadder";
import { NextCheck } from "./NextCheck";
import { Observations } from "./Observations";
import { TubeReadings } from "./TubeReadings";
import { useAnswer } from "./useAnswer";

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
  const { answer, problem } = useAnswer(job, actions);
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
      {diagnosis.notes.map((note) => (
        <p key={note} className="m-0 border-l-4 border-teal pl-3">
          {note}
        </p>
      ))}
      {diagnosis.causes.length > 0 && (
        <>
          <CauseLadder causes={diagnosis.causes} />
          <NextCheck checks={diagnosis.checks} jobId={job.id} sure={diagnosis.sure} onAnswer={answer}>
            {(check) =>
              check.id === "tube-difference" && <TubeReadings job={job} actions={actions} means={diagnosis.tubes} />
            }
          </NextCheck>
        </>
      )}
      <div className="min-w-0">
        <Observations observations={diagnosis.observations} onAnswer={answer} />
      </div>
    </div>
  );
}
