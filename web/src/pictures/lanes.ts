import type { Run, Schemas, Trace, TraceChannel } from "../api/client";
import { celsiusUnit, degreeSign, pointOf, spanOf } from "../parts/degrees";

/** What a lane of the trace shows. */
export interface LaneKind {
  id: string;
  title: string;
  unit: string;
  /** Roles in order of preference; none for a column without a role, which `source` names. */
  roles: readonly string[];
  source?: string;
  /** Beside the first, on the same scale and thinner. */
  also?: readonly string[];
  height: number;
  digits: number;
  /** Its mean under steady full load, where the analysis has it. */
  sustained?: (load: Schemas["LoadFigures"]) => number | null | undefined;
  scale?: number;
}

/** From top to bottom. */
export const laneKinds: readonly LaneKind[] = [
  {
    id: "temperature",
    title: "Chip",
    unit: celsiusUnit,
    roles: ["cpu-temperature", "core-temperature", "cpu-control-temperature"],
    also: ["ambient-temperature"],
    height: 176,
    digits: 0,
    sustained: (load) => load.sustainedTemperatureC,
  },
  {
    id: "power",
    title: "Power",
    unit: "W",
    roles: ["cpu-power"],
    height: 84,
    digits: 0,
    sustained: (load) => load.sustainedPowerW,
  },
  {
    id: "clock",
    title: "Clock",
    unit: "GHz",
    roles: ["cpu-clock", "core-clock"],
    height: 76,
    digits: 2,
    scale: 0.001,
    sustained: (load) => load.sustainedClockMHz,
  },
  {
    id: "fan",
    title: "Fan",
    unit: "rpm",
    roles: ["cpu-fan-speed"],
    height: 76,
    digits: 0,
    sustained: (load) => load.sustainedFanRpm,
  },
  { id: "load", title: "Load", unit: "%", roles: ["cpu-load"], height: 64, digits: 0 },
  {
    id: "score",
    title: "Score",
    unit: "",
    roles: ["score"],
    height: 64,
    digits: 0,
    sustained: (load) => load.sustainedScore,
  },
  {
    id: "liquid",
    title: "Liquid",
    unit: celsiusUnit,
    roles: ["coolant-temperature", "tube-out-temperature"],
    also: ["tube-out-temperature", "tube-return-temperature"],
    height: 84,
    digits: 1,
  },
  { id: "pump", title: "Pump", unit: "rpm", roles: ["pump-speed"], height: 64, digits: 0 },
  { id: "case-air", title: "Case air", unit: celsiusUnit, roles: ["case-air-temperature"], height: 76, digits: 1 },
  { id: "case-fan", title: "Case fan", unit: "rpm", roles: ["case-fan-speed"], height: 64, digits: 0 },
  {
    id: "graphics",
    title: "Graphics",
    unit: celsiusUnit,
    roles: ["gpu-temperature"],
    also: ["gpu-hotspot-temperature", "gpu-memory-temperature"],
    height: 84,
    digits: 0,
  },
  { id: "graphics-power", title: "Graphics", unit: "W", roles: ["gpu-power"], height: 64, digits: 0 },
  { id: "graphics-fan", title: "Graphics fan", unit: "rpm", roles: ["gpu-fan-speed"], height: 64, digits: 0 },
  { id: "sound", title: "Sound", unit: "dBA", roles: ["sound-level"], height: 64, digits: 1 },
];

/** What the fit leaves over: measured minus fitted. */
export const residualLane: LaneKind = {
  id: "residual",
  title: "Off the fit",
  unit: celsiusUnit,
  roles: [],
  height: 72,
  digits: 1,
};

/** Turns a lane's values into the numbers that stand beside it: the fit's rest is a difference. */
export const tellerOf = ({ id, unit, scale = 1 }: LaneKind): ((value: number) => number) =>
  unit !== celsiusUnit ? (value) => value * scale : id === residualLane.id ? spanOf : pointOf;

export const unitOf = ({ unit }: LaneKind) => (unit === celsiusUnit ? degreeSign() : unit);

/** Shown until somebody chooses. */
export const usualLanes: readonly string[] = ["temperature", "power", "clock", "fan"];

type Channel = Schemas["ChannelSummary"];

/** The best column of a role in a run: of several the one with the most samples. */
function bestOf(run: Run, role: string): Channel | undefined {
  return run.analysis.channels
    .filter((channel) => channel.role === role && channel.samples > 0)
    .reduce<Channel | undefined>((best, one) => (best && best.samples >= one.samples ? best : one), undefined);
}

/** The columns of a run that a lane draws: its own first, then those beside it. */
export function columnsOf(run: Run, kind: LaneKind): { main: number | undefined; also: number[] } {
  const main =
    kind.source === undefined
      ? kind.roles.map((role) => bestOf(run, role)).find((channel) => channel !== undefined)
      : run.analysis.channels.find((channel) => channel.source === kind.source && channel.samples > 0);
  const also = (kind.also ?? []).map((role) => bestOf(run, role)?.column).filter((column) => column !== undefined);
  return { main: main?.column, also: also.filter((column) => column !== main?.column) };
}

/** Every lane that one of these runs can fill; columns without a role come last, under their own names. */
export function lanesOf(runs: readonly Run[]): LaneKind[] {
  const others = new Map<string, LaneKind>();
  for (const channel of runs.flatMap((run) => run.analysis.channels)) {
    if (channel.role === "other" && channel.samples > 0 && !others.has(channel.source)) {
      others.set(channel.source, {
        id: `column ${channel.source}`,
        title: channel.source,
        unit: channel.unit === "C" ? celsiusUnit : channel.unit,
        roles: [],
        source: channel.source,
        height: 64,
        digits: 1,
      });
    }
  }
  return [
    ...laneKinds.filter((kind) => runs.some((run) => columnsOf(run, kind).main !== undefined)),
    ...others.values(),
  ];
}

export type Side = "before" | "after";

/** A run ready to be drawn: its trace, laid by the start of its load. */
export interface SideTrace {
  /** What the legend calls it. */
  label: string;
  side: Side;
  /** Of another job than the one on the sheet. */
  foreign?: boolean;
  run: Run;
  trace: Trace;
  /** The run at its coarsest when `trace` is a zoomed stretch of it. */
  whole?: Trace;
  fit?: Schemas["FittedLine"];
}

/** Where the longest load of a run begins, s since its first row; 0 when it has none. */
export function loadStart(run: Run): number {
  return longestLoad(run)?.startSeconds ?? 0;
}

export function longestLoad(run: Run): Schemas["Phase"] | undefined {
  const loads = run.analysis.phases.filter((phase) => phase.kind === "load");
  return loads.sort((a, b) => b.endSeconds - b.startSeconds - (a.endSeconds - a.startSeconds))[0];
}

export const channelOf = (trace: Trace, roles: readonly string[]): TraceChannel | undefined =>
  roles.map((role) => trace.channels.find((channel) => channel.role === role)).find((channel) => channel !== undefined);

/** What a lane draws of a run. */
export function channelsOf(
  { run, trace }: SideTrace,
  kind: LaneKind,
): { main: TraceChannel | undefined; also: TraceChannel[] } {
  const { main, also } = columnsOf(run, kind);
  const find = (column: number | undefined) => trace.channels.find((channel) => channel.column === column);
  return { main: find(main), also: also.map(find).filter((channel) => channel !== undefined) };
}

export const shifted = ({ run, trace }: Pick<SideTrace, "run" | "trace">): number[] => {
  const start = loadStart(run);
  return trace.seconds.map((second) => second - start);
};

/** How a run's line is drawn: a token, a width and a dash. */
export interface Look {
  token: "copper" | "teal" | "edge";
  width: number;
  dash: number[];
}

const dashes: Record<Side, number[][]> = {
  before: [
    [6, 4],
    [2, 3],
    [10, 3, 2, 3],
  ],
  after: [[], [10, 4], [3, 3]],
};

/** A run alone is the heat itself; before lies behind, dashed, after in front; runs of other jobs in copper. Shape tells as much as colour. */
export function looksOf(sides: readonly Pick<SideTrace, "side" | "foreign">[]): Look[] {
  if (sides.length === 1) {
    return [{ token: "copper", width: 2, dash: [] }];
  }
  const seen = new Map<string, number>();
  return sides.map(({ side, foreign }) => {
    const token = foreign ? "copper" : side === "after" ? "teal" : "edge";
    const before = seen.get(token) ?? 0;
    seen.set(token, before + 1);
    const kinds = dashes[foreign ? "before" : side];
    return { token, width: token === "teal" ? 2 : 1.5, dash: kinds[before % kinds.length]! };
  });
}

/** The value of a channel nearest to a time; undefined outside its run or in a gap. */
export function valueAt(
  seconds: readonly number[],
  values: readonly (number | null)[],
  at: number,
): number | undefined {
  if (seconds.length === 0 || at < seconds[0]! - 2 || at > seconds[seconds.length - 1]! + 2) {
    return undefined;
  }
  let low = 0;
  let high = seconds.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (seconds[middle]! <= at) {
      low = middle;
    } else {
      high = middle;
    }
  }
  const nearest = at - seconds[low]! <= seconds[high]! - at ? low : high;
  return values[nearest] ?? undefined;
}

/** A stretch of time, s from the start of the load. */
export interface Range {
  from: number;
  to: number;
}

/** The stretch that shows all of these runs. */
export function fullRange(sides: readonly Pick<SideTrace, "run">[]): Range {
  const ends = sides.map(({ run }) => [-loadStart(run), run.analysis.durationSeconds - loadStart(run)] as const);
  return { from: Math.min(...ends.map(([from]) => from)), to: Math.max(...ends.map(([, to]) => to)) };
}

/** What happened in a run, s since its first row: what was read off it, and what somebody marked. */
export function eventsOf(run: Run): { seconds: number; words: string; marked: boolean }[] {
  const { load, recovery } = run.analysis;
  const end = longestLoad(run)?.endSeconds;
  const read: [number | null | undefined, string][] = [
    [load?.settledAtSeconds, "level from here"],
    [recovery?.halfSeconds != null && end !== undefined ? end + recovery.halfSeconds : null, "half cooled"],
  ];
  return [
    ...read.flatMap(([seconds, words]) => (seconds == null ? [] : [{ seconds, words, marked: false }])),
    ...run.marks.map((mark) => ({ seconds: mark.seconds, words: mark.text, marked: true })),
  ].sort((a, b) => a.seconds - b.seconds);
}
