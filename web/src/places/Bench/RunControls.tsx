import { useState } from "react";
import type { Bay, BayActions } from "../../api/bays";
import { sentenceOf, type JobTag } from "../../api/client";
import { Button } from "../../parts/Button";
import { isRunning } from "./BayFigures";
import { StartRun } from "./StartRun";

/** The one next thing to do with a bay, and beside it what else can be done; what was refused is told. */
export function RunControls({
  bay,
  jobs,
  actions,
  starting,
  onStarting,
  all = false,
}: {
  bay: Bay;
  jobs: readonly JobTag[];
  actions: BayActions;
  starting: boolean;
  onStarting: (wanted: boolean) => void;
  /** Whether to offer everything, or only what is needed at a glance. */
  all?: boolean;
}) {
  const [problem, setProblem] = useState<string>();
  const run = bay.run;
  const say = (change: Promise<unknown>) => {
    setProblem(undefined);
    change.catch((failure: unknown) => setProblem(sentenceOf(failure, "It did not work.")));
  };
  return (
    <div className="my-3">
      {problem && (
        <p role="alert" className="my-2 font-semibold text-amber">
          {problem}
        </p>
      )}
      {isRunning(bay) ? (
        <div className="flex flex-wrap gap-3">
          {run?.stage === "hand" && (
            <Button kind="main" onClick={() => say(actions.goOn(bay.id))}>
              Done, go on
            </Button>
          )}
          {all && run?.stage !== "hand" && (
            <Button onClick={() => say(actions.hold(bay.id, !run?.held))}>
              {run?.held ? "Let it go on" : "Hold it here"}
            </Button>
          )}
          <Button onClick={() => say(actions.stop(bay.id))}>Stop the run</Button>
        </div>
      ) : starting ? (
        <StartRun
          bay={bay}
          jobs={jobs}
          onCancel={() => onStarting(false)}
          onStart={(wanted) => say(actions.start(bay.id, wanted).then(() => onStarting(false)))}
        />
      ) : (
        <div className="flex flex-wrap gap-3">
          <Button kind="main" disabled={!bay.online} onClick={() => onStarting(true)}>
            Start a run
          </Button>
          {run?.over && (
            <Button disabled={!bay.online} onClick={() => say(actions.again(bay.id))}>
              The same again
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
