import { useState } from "react";
import { sentenceOf, type JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { changes, currentSetup } from "./setups";

/** Makes the next setup with one tap: what was changed on the machine that stands there now. */
export function NextSetup({ job, actions, onMade }: { job: JobSheet; actions: JobActions; onMade?: () => void }) {
  const [problem, setProblem] = useState<string>();
  const add = (kind: string) => {
    setProblem(undefined);
    actions
      .addSetup({ kind })
      .then(onMade)
      .catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not made.")));
  };
  return (
    <div role="group" aria-label="What is changed next" className="mt-3">
      <p className="m-0 mb-2">
        {job.setups.length === 1
          ? "What was changed?"
          : `Changed again? The next one is like ${currentSetup(job).name}, but for:`}
      </p>
      <div className="flex flex-wrap gap-2">
        {changes.map(([kind, words, hint]) => (
          <Button key={kind} onClick={() => add(kind)} title={hint}>
            {words}
          </Button>
        ))}
      </div>
      {problem && (
        <p role="alert" className="mt-2 mb-0 font-semibold text-amber">
          {problem}
        </p>
      )}
    </div>
  );
}
