import { memo } from "react";
import type { BayTrace as Readings } from "../api/bays";
import { celsiusUnit, degrees } from "../parts/degrees";

const width = 600;
const height = 150;
const most = 300;

/** A line of a bay's picture: what it shows, in which colour, and the least that its scale spans. */
export interface BayLane {
  title: string;
  unit: string;
  channels: readonly string[];
  stroke: string;
  from: number;
  to: number;
}

export const chipLane: BayLane = {
  title: "Chip",
  unit: celsiusUnit,
  channels: ["cpu-temperature", "core-temperature", "cpu-control-temperature"],
  stroke: "stroke-copper",
  from: 15,
  to: 60,
};

/** The last half hour of a channel, small and still enough to be read from across the room; for the chip against its limit. */
export const BayTrace = memo(function BayTrace({
  readings,
  limitC = null,
  lane = chipLane,
  className = "h-28",
}: {
  readings: Readings;
  limitC?: number | null;
  lane?: BayLane;
  className?: string;
}) {
  const channel = lane.channels.find((name) => readings.channels[name]?.some((value) => value != null));
  const points = channel ? outline(readings.seconds, readings.channels[channel]!) : [];
  const last = points.at(-1);
  if (!last) {
    return <p className="text-muted">{lane === chipLane ? "No temperature yet." : ""}</p>;
  }
  const said = (value: number) => (lane.unit === celsiusUnit ? degrees(value) : `${value.toFixed(0)} ${lane.unit}`);
  const highest = Math.max(lane.to, ...points.map(([, value]) => value));
  const top = limitC === null ? highest * 1.06 : Math.max(limitC, highest) + 8;
  const from = readings.seconds[0]!;
  const to = readings.seconds.at(-1)!;
  const x = (second: number) => (width * (second - from)) / Math.max(1, to - from);
  const y = (value: number) => height - (height * (value - lane.from)) / (top - lane.from);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`${lane.title} at ${said(last[1])}${limitC === null ? "" : `, limit ${said(limitC)}`}`}
      className={`w-full ${className}`}
    >
      {limitC !== null && (
        <line
          x1={0}
          x2={width}
          y1={y(limitC)}
          y2={y(limitC)}
          className="stroke-ink"
          strokeDasharray="6 4"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <line x1={0} x2={width} y1={height} y2={height} className="stroke-hairline" vectorEffect="non-scaling-stroke" />
      <polyline
        points={points.map(([second, value]) => `${x(second).toFixed(1)},${y(value).toFixed(1)}`).join(" ")}
        className={`fill-none ${lane.stroke}`}
        strokeWidth={2.5}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
});

/** At most so many points: the highest of each stretch, because that is what a limit asks about. */
export function outline(seconds: readonly number[], values: readonly (number | null)[]): [number, number][] {
  const size = Math.max(1, Math.ceil(seconds.length / most));
  const points: [number, number][] = [];
  for (let start = 0; start < seconds.length; start += size) {
    let best = -1;
    for (let i = start; i < Math.min(seconds.length, start + size); i++) {
      const value = values[i];
      if (value != null && (best < 0 || value > values[best]!)) {
        best = i;
      }
    }
    if (best >= 0) {
      points.push([seconds[best]!, values[best]!]);
    }
  }
  return points;
}
