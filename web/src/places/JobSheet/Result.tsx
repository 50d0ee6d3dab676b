import type { JobSheet, Run } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { HeatStaircase } from "../../pictures/HeatStaircase";
import { degrees, gigahertz, keepUnits, resistance, watts } from "../../parts/words";
import { TracePanel } from "./TracePanel";

/** What the latest runs show: where the heat sticks, the key figures, and the runs drawn over each other. Nothing until there is a run. */
export function Result({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const before = job.runs.filter((run) => run.side === "before").at(-1);
  const after = job.runs.filter((run) => run.side === "after").at(-1);
  if (!before && !after) {
    return null;
  }
  const limitC = (after ?? before)!.conditions.temperatureLimitC ?? null;
  return (
    <div className="mb-5">
      <Stairs before={before} after={after} limitC={limitC} />
      <Figures job={job} before={before} after={after} />
      <TracePanel job={job} actions={actions} />
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
