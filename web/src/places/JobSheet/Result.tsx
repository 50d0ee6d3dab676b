import { useMemo, useState } from "react";
import type { JobSheet, Run, Trace } from "../../api/client";
import { useTrace } from "../../api/jobs";
import { HeatStaircase } from "../../pictures/HeatStaircase";
import { RunTrace } from "../../pictures/RunTrace";
import { loadStart, type Side, type SideTrace } from "../../pictures/lanes";
import { degrees, gigahertz, keepUnits, resistance, watts } from "../../parts/words";

type Range = { from: number; to: number };

/** What the latest runs show: the key figures, and both runs drawn over each other. Nothing until there is a run. */
export function Result({ job }: { job: JobSheet }) {
  const before = job.runs.filter((run) => run.side === "before").at(-1);
  const after = job.runs.filter((run) => run.side === "after").at(-1);
  const [zoom, setZoom] = useState<Range>();
  const traces = { before: useRunTrace(before, zoom), after: useRunTrace(after, zoom) };
  const beforeTrace = traces.before.data;
  const afterTrace = traces.after.data;
  const sides = useMemo(() => {
    const side = (name: Side, run: Run | undefined, trace: Trace | undefined): SideTrace[] =>
      run && trace && trace.runId === run.id ? [{ side: name, run, trace }] : [];
    return [...side("before", before, beforeTrace), ...side("after", after, afterTrace)];
  }, [before, after, beforeTrace, afterTrace]);
  if (!before && !after) {
    return null;
  }
  const limitC = (after ?? before)!.conditions.temperatureLimitC ?? null;
  const failed = traces.before.error ?? traces.after.error;
  return (
    <div className="mb-5">
      <Stairs before={before} after={after} limitC={limitC} />
      <Figures job={job} before={before} after={after} />
      {sides.length > 0 ? (
        <RunTrace sides={sides} limitC={limitC} onZoom={setZoom} />
      ) : (
        <p role="status" className={failed ? "font-semibold text-amber" : "text-muted"}>
          {failed ? `The trace could not be fetched: ${failed.message}` : "Fetching the trace …"}
        </p>
      )}
    </div>
  );
}

/** Where the heat sticks, as the staircase and as a sentence. */
function Stairs({ before, after, limitC }: { before?: Run; after?: Run; limitC: number | null }) {
  const now = (after ?? before)?.analysis.staircase;
  if (!now) {
    return null;
  }
  const was = after ? before?.analysis.staircase : null;
  return (
    <div className="mb-5">
      {was && was.sentence !== now.sentence && <p className="text-muted">Before: {keepUnits(was.sentence)}</p>}
      <p className="mb-2 text-xl">{keepUnits(now.sentence)}</p>
      <HeatStaircase now={now} before={was} limitC={limitC} />
    </div>
  );
}

/** The zoomed stretch of a run when the server keeps more points of it than the whole view shows. */
function useRunTrace(run: Run | undefined, zoom: Range | undefined) {
  const whole = useTrace(run?.id, run?.version);
  const start = run ? loadStart(run) : 0;
  const finer = zoom && whole.data && whole.data.level > 0;
  const part = useTrace(
    finer ? run?.id : undefined,
    run?.version,
    finer ? { from: zoom.from + start, to: zoom.to + start } : undefined,
  );
  return finer && part.data ? part : whole;
}

function Figures({ job, before, after }: { job: JobSheet; before?: Run; after?: Run }) {
  const now = (after ?? before)!.analysis;
  const was = after ? before?.analysis : undefined;
  const load = now.load;
  if (!load) {
    return null;
  }
  const change = job.verdict?.result.change;
  const limit = now.limits.find((one) => one.clockLossPercent != null);
  const limitC = (after ?? before)!.conditions.temperatureLimitC;
  const first: Figure = change
    ? {
        value: degrees(change.atReferencePowerC),
        beside: `± ${change.halfWidthC.toFixed(1)} at ${watts(change.referencePowerW)}`,
        name:
          job.verdict!.result.verdict === "no-measurable-change"
            ? "not measurable"
            : job.verdict!.result.matters
              ? "measured, it matters"
              : "measured, too small",
      }
    : {
        value: degrees(load.sustainedTemperatureC),
        beside: limitC == null ? "limit not known" : `limit ${degrees(limitC)}`,
        name: "under steady full load",
      };
  const figures: Figure[] = [
    first,
    {
      value: resistance(now.resistance?.valueCPerW),
      beside: was?.resistance ? `was ${resistance(was.resistance.valueCPerW)} °C/W` : "°C/W",
      name: "resistance, chip to room",
    },
    {
      value: watts(now.sustainablePowerW),
      beside:
        was?.sustainablePowerW == null
          ? `ran at ${watts(load.sustainedPowerW)}`
          : `was ${watts(was.sustainablePowerW)}`,
      name: "it can hold in this room",
    },
    {
      value: gigahertz(load.sustainedClockMHz),
      beside:
        was?.load?.sustainedClockMHz != null
          ? `was ${gigahertz(was.load.sustainedClockMHz)}`
          : limit
            ? `${limit.clockLossPercent!.toFixed(0)} % given up`
            : "nothing given up",
      name: "clock under steady load",
    },
  ];
  return (
    <dl aria-label="Key figures" className="mb-4 grid grid-cols-2 gap-x-6 gap-y-4 sm:grid-cols-4">
      {figures.map((figure) => (
        <div key={figure.name} className="flex flex-col">
          <dt className="order-3 text-muted">{figure.name}</dt>
          <dd className="m-0 font-mono text-3xl font-bold">{figure.value}</dd>
          <dd className="m-0 font-mono">{figure.beside}</dd>
        </div>
      ))}
    </dl>
  );
}

interface Figure {
  value: string;
  beside: string;
  name: string;
}
