import type { JobSheet, Run, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { HeatStaircase } from "../../pictures/HeatStaircase";
import { degreeBy, degrees, degreesBy } from "../../parts/degrees";
import { gigahertz, keepUnits, resistance, watts } from "../../parts/words";
import { CardStairs } from "./CardStairs";
import { loadWords } from "./loadWords";
import { Series } from "./Series";
import { shownPair } from "./setups";
import { TracePanel } from "./TracePanel";

/** What the pair's runs show: where the heat sticks, the key figures, other loads, a series, and the runs drawn over each other. Nothing until there is a run. */
export function Result({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const { before, after } = shownPair(job);
  const now = after ?? before;
  if (!now) {
    return job.runs.length > 0 ? <TracePanel job={job} actions={actions} /> : null;
  }
  const card = job.pair.subject === "graphics";
  return (
    <div className="mb-5">
      {card ? (
        <CardStairs now={now} before={after ? before : undefined} />
      ) : (
        <Stairs before={before} after={after} limitC={now.conditions.temperatureLimitC ?? null} />
      )}
      {card ? (
        <CardFigures job={job} now={now} before={after ? before : undefined} />
      ) : (
        <Figures job={job} before={before} after={after} />
      )}
      <OtherLoads job={job} />
      <Series job={job} actions={actions} />
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

/** The change as the largest figure, with what it is worth. */
function changeFigure(result: Schemas["ComparisonResult"]): Figure | undefined {
  const { change } = result;
  if (!change) {
    return undefined;
  }
  // Where both stand at the limit, watts and clock lead.
  if (result.before.atLimit && result.after.atLimit) {
    return {
      value: watts(result.after.powerW),
      beside: `was ${watts(result.before.powerW)}`,
      name: "held at its limit",
    };
  }
  return {
    value: degreesBy(change.atReferencePowerC),
    beside: `± ${degreeBy(change.halfWidthC, 1)} at ${watts(change.referencePowerW)}`,
    name:
      result.verdict === "no-measurable-change"
        ? "not measurable"
        : result.matters
          ? "measured, it matters"
          : "measured, too small",
  };
}

/** What changed beside the cooling: fans and sound, told apart. */
function besides(result: Schemas["ComparisonResult"] | undefined): Figure[] {
  const { noise, change } = result ?? {};
  const sound: Figure[] =
    noise?.afterDba == null
      ? []
      : [
          {
            value: `${noise.afterDba.toFixed(0)} dB(A)`,
            beside: noise.beforeDba == null ? "before not measured" : `was ${noise.beforeDba.toFixed(0)}`,
            name: noise.atEqualNoiseC == null ? "sound under load" : `at equal noise ${degreesBy(noise.atEqualNoiseC)}`,
          },
        ];
  const score: Figure[] =
    change?.scorePercent == null
      ? []
      : [
          {
            value: `${change.scorePercent > 0 ? "+" : "−"}${Math.abs(change.scorePercent).toFixed(1)} %`,
            beside: `± ${change.scoreHalfWidthPercent!.toFixed(1)}`,
            name: "work done in the same time",
          },
        ];
  const fans: Figure[] =
    change?.fanPartC == null || Math.abs(change.fanPartC) < 1.5
      ? []
      : [
          {
            value: degreesBy(change.asItRunsC),
            beside: `fans’ part ${degreesBy(change.fanPartC)}`,
            name: "as it runs now",
          },
        ];
  return [...fans, ...sound, ...score];
}

function Figures({ job, before, after }: { job: JobSheet; before?: Run; after?: Run }) {
  const now = (after ?? before)!.analysis;
  const was = after ? before?.analysis : undefined;
  const load = now.load;
  if (!load) {
    return null;
  }
  const result = job.verdict?.result.comparable ? job.verdict.result : undefined;
  const limit = now.limits.find((one) => one.clockLossPercent != null);
  const limitC = (after ?? before)!.conditions.temperatureLimitC;
  const first = (result && changeFigure(result)) ?? {
    value: degrees(load.sustainedTemperatureC),
    beside: limitC == null ? "limit not known" : `limit ${degrees(limitC)}`,
    name: `under ${loadWords(job.pair.load)}`,
  };
  const own = now.ownResistance ?? now.resistance;
  const figures: Figure[] = [
    first,
    {
      value: resistance(result?.after.resistanceCPerW ?? own?.valueCPerW),
      beside: result ? `was ${resistance(result.before.resistanceCPerW)} °C/W` : "°C/W",
      name: result ? "its own heat, at one fan speed" : "resistance of its own heat",
    },
    {
      value: watts(result?.after.sustainablePowerW ?? now.sustainablePowerW),
      beside: result?.before.sustainablePowerW
        ? `was ${watts(result.before.sustainablePowerW)}`
        : `ran at ${watts(load.sustainedPowerW)}`,
      name: result ? `it can hold at ${degrees(result.before.roomC)}` : "it can hold in this room",
    },
    {
      value: gigahertz(result?.after.clockMHz ?? load.sustainedClockMHz),
      beside:
        was?.load?.sustainedClockMHz != null
          ? `was ${gigahertz(result?.before.clockMHz ?? was.load.sustainedClockMHz)}`
          : limit
            ? `${limit.clockLossPercent!.toFixed(0)} % of its clock lost`
            : "no clock lost",
      name: "clock under steady load",
    },
    ...besides(result),
  ];
  return <FigureList figures={figures} />;
}

function CardFigures({ job, now, before }: { job: JobSheet; now: Run; before?: Run }) {
  const card = now.analysis.graphics;
  if (!card) {
    return null;
  }
  const was = before?.analysis.graphics;
  const result = job.verdict?.result.comparable ? job.verdict.result : undefined;
  const figures: Figure[] = [
    (result && changeFigure(result)) ?? {
      value: degrees(card.core.sustainedC),
      beside: card.core.limitC == null ? "limit not known" : `limit ${degrees(card.core.limitC)}`,
      name: "core under its own load",
    },
    {
      value: degrees(card.hotSpot?.sustainedC),
      beside: was?.hotSpot ? `was ${degrees(was.hotSpot.sustainedC)}` : "hottest place",
      name: "hot spot",
    },
    {
      value: resistance(card.resistance?.valueCPerW),
      beside: was?.resistance ? `was ${resistance(was.resistance.valueCPerW)} °C/W` : "°C/W",
      name: card.airIsCase ? "core to the case’s air" : "core to the room",
    },
    {
      value: watts(card.powerW),
      beside: was ? `was ${watts(was.powerW)}` : "sustained",
      name: "the card draws",
    },
    ...besides(result),
  ];
  return <FigureList figures={figures} />;
}

function FigureList({ figures }: { figures: readonly Figure[] }) {
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

/** Every other load of the pair, in a line: it never overturns the baseline's. */
function OtherLoads({ job }: { job: JobSheet }) {
  return (
    <>
      {job.otherLoads.map((line) => (
        <p key={line.load} className="mb-3 border-l-4 border-hairline pl-3">
          <strong>Under {loadWords(line.load)}:</strong> {keepUnits(line.sentence)}
        </p>
      ))}
    </>
  );
}

interface Figure {
  value: string;
  beside: string;
  name: string;
}
