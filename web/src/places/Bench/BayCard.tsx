import clsx from "clsx";
import { useState } from "react";
import { Link } from "react-router";
import { useBayTrace, type Bay, type useBayActions } from "../../api/bays";
import { Problem, type JobTag } from "../../api/client";
import { Button } from "../../parts/Button";
import { ago, clock } from "../../parts/words";
import { BayTrace } from "../../pictures/BayTrace";
import { StartRun } from "./StartRun";

const stages: Record<string, string> = {
  idle: "idle",
  load: "full load",
  "cool-down": "cool-down",
  done: "done",
  stopped: "stopped",
};

/** One bay, readable from a metre away: its number, how hot, what it does and what it waits for. */
export function BayCard({
  bay,
  jobs,
  actions,
  starting,
  onStarting,
}: {
  bay: Bay;
  jobs: readonly JobTag[];
  actions: ReturnType<typeof useBayActions>;
  starting: boolean;
  onStarting: (wanted: boolean) => void;
}) {
  const trace = useBayTrace(bay);
  const [problem, setProblem] = useState<string>();
  const run = bay.run;
  const running = run !== null && !run.over;
  const job = jobs.find((one) => one.id === run?.jobId);
  const limitC = run?.limitC ?? null;
  const chip = latest(trace.data?.channels["cpu-temperature"]);
  const watts = latest(trace.data?.channels["cpu-power"]);
  const hot = chip !== undefined && limitC !== null && chip >= limitC - 2;
  const say = (change: Promise<unknown>) => {
    setProblem(undefined);
    change.catch((failure: unknown) => setProblem(failure instanceof Problem ? failure.message : "It did not work."));
  };
  return (
    <article aria-label={`Bay ${bay.number}`} className="border border-hairline bg-card p-4">
      <header className="flex items-baseline gap-4">
        <h2 className="text-xl font-bold">Bay {bay.number}</h2>
        <span className="min-w-0 grow truncate text-muted">
          {job ? (
            <Link to={`/jobs/${job.id}`} className="text-teal underline underline-offset-4">
              {job.tag} {job.owner}
            </Link>
          ) : bay.online ? (
            "no job yet"
          ) : bay.lastSeenAt ? (
            `silent since ${ago(bay.lastSeenAt)}`
          ) : (
            "nothing connected"
          )}
        </span>
        {run && (
          <span className={clsx("font-semibold", running ? "text-teal" : "text-muted")}>{stages[run.stage]}</span>
        )}
      </header>
      <div className="mt-2 flex items-end gap-5">
        <p className={clsx("m-0 font-mono text-5xl font-bold", hot && "text-copper-text")}>
          {chip === undefined ? "—" : chip.toFixed(0)}
          <span className="text-2xl font-normal text-muted"> °C</span>
        </p>
        <p className="m-0 grow pb-1 leading-tight text-muted">
          {limitC !== null && <span className="block">limit {limitC} °C</span>}
          {watts !== undefined && <span className="block font-mono">{watts.toFixed(0)} W</span>}
        </p>
        {running && run.secondsLeft != null && run.secondsLeft > 0 && (
          <p className="m-0 pb-1 text-right leading-tight">
            <span className="block font-mono text-2xl font-bold">{clock(run.secondsLeft)}</span>
            <span className="text-muted">left, about</span>
          </p>
        )}
      </div>
      <p role="status" className="my-2 min-h-6 text-lg">
        {run?.says ?? (bay.online ? "Readings come in. Start a run when the machine stands ready." : "")}
      </p>
      {trace.data && <BayTrace readings={trace.data} limitC={limitC} />}
      {problem && (
        <p role="alert" className="my-2 font-semibold text-amber">
          {problem}
        </p>
      )}
      {!bay.online && (
        <p className="my-2 break-all">
          To connect, send readings to bay {bay.number} with the token <code className="font-mono">{bay.token}</code>.
        </p>
      )}
      <div className="mt-3">
        {running ? (
          <Button onClick={() => say(actions.stop(bay.id))}>Stop the run</Button>
        ) : starting ? (
          <StartRun
            jobs={jobs}
            onCancel={() => onStarting(false)}
            onStart={(wanted) =>
              say(
                actions.start(bay.id, wanted).then(() => {
                  onStarting(false);
                }),
              )
            }
          />
        ) : (
          <Button kind="main" disabled={!bay.online} onClick={() => onStarting(true)}>
            Start a run
          </Button>
        )}
      </div>
    </article>
  );
}

/** The last reading that is one. */
function latest(values: readonly (number | null)[] | undefined): number | undefined {
  for (let i = (values?.length ?? 0) - 1; i >= 0; i--) {
    const value = values![i];
    if (value != null) {
      return value;
    }
  }
  return undefined;
}
