import type { Run, Schemas, Trace, TraceChannel } from "../api/client";

/** What a lane of the trace shows, from top to bottom. */
export interface LaneKind {
  id: string;
  title: string;
  unit: string;
  /** Roles in order of preference. */
  roles: readonly string[];
  /** Beside the first, on the same scale and thinner. */
  also?: readonly string[];
  height: number;
  digits: number;
  /** Its mean under steady full load. */
  sustained: (load: Schemas["LoadFigures"]) => number | null;
  scale?: number;
}

export const laneKinds: readonly LaneKind[] = [
  {
    id: "temperature",
    title: "Chip",
    unit: "°C",
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
    roles: ["cpu-clock"],
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
];

export type Side = "before" | "after";

/** A run ready to be drawn: its trace, shifted so that the load starts at 0. */
export interface SideTrace {
  side: Side;
  run: Run;
  trace: Trace;
}

/** Where the longest load of a run begins, s since its first row; 0 when it has none. */
export function loadStart(run: Run): number {
  const loads = run.analysis.phases.filter((phase) => phase.kind === "load");
  loads.sort((a, b) => b.endSeconds - b.startSeconds - (a.endSeconds - a.startSeconds));
  return loads[0]?.startSeconds ?? 0;
}

export const channelOf = (trace: Trace, roles: readonly string[]): TraceChannel | undefined =>
  roles.map((role) => trace.channels.find((channel) => channel.role === role)).find((channel) => channel !== undefined);

export const shifted = ({ run, trace }: SideTrace): number[] => {
  const start = loadStart(run);
  return trace.seconds.map((second) => second - start);
};

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
