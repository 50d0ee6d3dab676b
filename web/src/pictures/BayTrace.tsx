import type { BayTrace as Readings } from "../api/bays";

const width = 600;
const height = 150;
const most = 300;

/** The chip's last half hour against its limit, small and still enough to be read from across the room. */
export function BayTrace({ readings, limitC }: { readings: Readings; limitC: number | null }) {
  const values = readings.channels["cpu-temperature"] ?? readings.channels["core-temperature"] ?? [];
  const points = outline(readings.seconds, values);
  const last = points.at(-1);
  if (!last) {
    return <p className="text-muted">No temperature yet.</p>;
  }
  const top = Math.max(limitC ?? 0, ...points.map(([, value]) => value)) + 8;
  const low = 15;
  const from = readings.seconds[0]!;
  const to = readings.seconds.at(-1)!;
  const x = (second: number) => (width * (second - from)) / Math.max(1, to - from);
  const y = (degree: number) => height - (height * (degree - low)) / (top - low);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`Chip at ${last[1].toFixed(0)} °C${limitC === null ? "" : `, limit ${limitC} °C`}`}
      className="h-28 w-full"
    >
      {limitC !== null && (
        <line
          x1={0}
          x2={width}
          y1={y(limitC)}
          y2={y(limitC)}
          className="stroke-ink"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <polyline
        points={points.map(([second, value]) => `${x(second).toFixed(1)},${y(value).toFixed(1)}`).join(" ")}
        className="fill-none stroke-copper"
        strokeWidth={2.5}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}

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
