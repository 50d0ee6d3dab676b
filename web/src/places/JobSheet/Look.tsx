import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { Observation } from "./Observation";
import { TubeReadings } from "./TubeReadings";
import { useAnswer } from "./useAnswer";

/** What eye, ear and hand tell before anything is moved, all on one screen. */
export function Look({ job, actions, diagnosis }: { job: JobSheet; actions: JobActions; diagnosis: JobDiagnosis }) {
  const { answer, problem } = useAnswer(job, actions);
  return (
    <>
      <p className="mt-0 mb-3">
        Before anything is moved: some of this cannot be seen again once the machine has been opened.
      </p>
      {problem && (
        <p role="alert" className="font-semibold text-amber">
          {problem}
        </p>
      )}
      <div className="grid gap-x-8 gap-y-4 xl:grid-cols-2">
        {diagnosis.observations
          .filter((one) => one.untouched)
          .map((one) => (
            <div key={one.id} className="border-t border-hairline pt-2">
              <Observation one={one} onAnswer={answer} />
              {one.id === "tube-difference" && <TubeReadings job={job} actions={actions} means={diagnosis.tubes} />}
            </div>
          ))}
      </div>
    </>
  );
}
