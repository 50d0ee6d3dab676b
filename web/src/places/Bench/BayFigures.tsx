import clsx from "clsx";
import { Link } from "react-router";
import { chipC, latest, useBayTrace, useBayTraceEachSecond, type Bay, type BayTrace } from "../../api/bays";
import type { JobTag, Schemas } from "../../api/client";
import { ago, clock } from "../../parts/words";
import { degree, degrees, degreeSign } from "../../parts/degrees";

const stages: Record<Schemas["GuidedStage"], string> = {
  hand: "waits for a hand",
  idle: "idle",
  load: "full load",
  "cool-down": "cool-down",
  done: "done",
  stopped: "stopped",
};

export const isRunning = (bay: Bay) => bay.run !== null && !bay.run.over;

/** Whose machine stands in the bay, and what it is doing. */
export function BayHeading({ bay, jobs, children }: { bay: Bay; jobs: readonly JobTag[]; children: React.ReactNode }) {
  const run = bay.run;
  const job = jobs.find((one) => one.id === run?.jobId);
  return (
    <header className="flex flex-wrap items-baseline gap-x-4 whitespace-nowrap">
      {children}
      <span className="min-w-0 grow truncate text-muted">
        {job ? (
          <Link to={`/jobs/${job.id}`} className="text-teal underline underline-offset-4">
            {job.tag} {job.owner}
          </Link>
        ) : bay.online ? (
          "no job yet"
        ) : bay.lastSeenAt ? (
          `last heard ${ago(bay.lastSeenAt)}`
        ) : (
          "nothing connected"
        )}
      </span>
      {isRunning(bay) && !bay.online && bay.lastSeenAt && (
        <span className="font-semibold text-amber">last heard {ago(bay.lastSeenAt)}</span>
      )}
      {run && (
        <span
          className={clsx(
            "font-semibold",
            run.stage === "hand" ? "text-amber" : isRunning(bay) ? "text-teal" : "text-muted",
          )}
        >
          {run.held ? `held at ${stages[run.stage]}` : stages[run.stage]}
          {!run.over && run.following > 0 && `, ${run.following} more`}
        </span>
      )}
    </header>
  );
}

/** How hot, against which limit, how many watts, and how long it will still take. */
export function BayFigures({ bay, large = false }: { bay: Bay; large?: boolean }) {
  const { data: chip, error } = useBayTrace(bay, chipC);
  const watts = latest(useBayTraceEachSecond(bay), "cpu-power");
  const run = bay.run;
  const limitC = run?.limitC ?? null;
  const hot = chip !== undefined && limitC !== null && chip >= limitC - 2;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-x-5">
      {error && <p className="m-0 w-full text-amber">{error.message}</p>}
      <p
        className={clsx(
          "m-0 font-mono font-bold",
          large ? "text-7xl" : "text-5xl",
          !bay.online ? "text-muted" : hot && "text-copper-text",
        )}
      >
        {chip === undefined ? "—" : degree(chip)}
        <span className="text-2xl font-normal text-muted"> {degreeSign()}</span>
      </p>
      <p className={clsx("m-0 grow pb-1 leading-tight text-muted", large && "text-xl")}>
        {limitC !== null && <span className="block">limit {degrees(limitC)}</span>}
        {watts !== undefined && <span className="block font-mono">{watts.toFixed(0)} W</span>}
      </p>
      {isRunning(bay) && run?.secondsLeft != null && run.secondsLeft > 0 && (
        <p className="m-0 pb-1 text-right leading-tight">
          <span className={clsx("block font-mono font-bold", large ? "text-4xl" : "text-2xl")}>
            {clock(run.secondsLeft)}
          </span>
          <span className="text-muted">left, about</span>
        </p>
      )}
    </div>
  );
}

/** The last half hour, drawn anew once a second. The figures beside it fetch what it shows. */
export function BayPicture({ bay, children }: { bay: Bay; children: (readings: BayTrace) => React.ReactNode }) {
  const readings = useBayTraceEachSecond(bay);
  return readings ? children(readings) : null;
}

/** Where it stands and what it waits for, in a sentence. */
export function BaySays({ bay }: { bay: Bay }) {
  return (
    <p role="status" className={clsx("my-2 min-h-6 text-lg", bay.run?.stage === "hand" && "font-semibold text-amber")}>
      {bay.run?.says ?? (bay.online ? "Readings come in. Start a run when the machine stands ready." : "")}
    </p>
  );
}
