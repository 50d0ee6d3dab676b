import type { CurvePoint } from "../api/records";
import { ticks } from "./TradeOff";

const width = 460;
const height = 190;
const edge = { left: 58, right: 12, top: 10, bottom: 28 };

/** The corners of a line that keeps its height until the next step. */
export function stairs(points: readonly { at: number; value: number }[], from: number, to: number): [number, number][] {
  const corners: [number, number][] = [[0, from]];
  let value = from;
  for (const point of points) {
    corners.push([point.at, value], [point.at, point.value]);
    value = point.value;
  }
  corners.push([to, value]);
  return corners;
}

/** The share of a series that still works, by age, with its interval; marks stand where one was seen that still worked. */
export function SurvivalCurve({
  name,
  curve,
  working,
}: {
  name: string;
  curve: readonly CurvePoint[];
  /** Ages at which coolers that still worked were seen, months. */
  working: readonly number[];
}) {
  const oldest = Math.max(12, ...curve.map((point) => point.months), ...working) * 1.05;
  const x = (months: number) => edge.left + ((width - edge.left - edge.right) * months) / oldest;
  const y = (share: number) => edge.top + (height - edge.top - edge.bottom) * (1 - share);
  const path = (corners: readonly [number, number][]) =>
    corners.map(([months, share]) => `${x(months).toFixed(1)},${y(share).toFixed(1)}`).join(" ");
  const line = (of: (point: CurvePoint) => number) =>
    stairs(
      curve.map((point) => ({ at: point.months, value: of(point) })),
      1,
      oldest,
    );
  const shareAt = (months: number) => [...curve].reverse().find((point) => point.months <= months)?.share ?? 1;
  const words = curve
    .map((point) => `${(100 * point.share).toFixed(0)} % beyond ${point.months.toFixed(0)} months`)
    .join(", ");
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`${name}, how many still work: ${words}.`}
      className="w-full"
    >
      <polygon
        points={`${path(line((point) => point.high))} ${path([...line((point) => point.low)].reverse())}`}
        className="fill-teal-soft"
      />
      {[0, 0.5, 1].map((share) => (
        <g key={share}>
          <line x1={edge.left} x2={width - edge.right} y1={y(share)} y2={y(share)} className="stroke-hairline" />
          <text x={edge.left - 6} y={y(share) + 5} textAnchor="end" className="fill-muted font-mono text-[14px]">
            {100 * share} %
          </text>
        </g>
      ))}
      {ticks(0, oldest, 5).map((months) => (
        <text
          key={months}
          x={x(months)}
          y={height - 8}
          textAnchor="middle"
          className="fill-muted font-mono text-[14px]"
        >
          {months === 0 ? "0 months" : months}
        </text>
      ))}
      <polyline points={path(line((point) => point.share))} className="fill-none stroke-teal" strokeWidth="2.5" />
      {working.map((months, i) => (
        <line
          key={`${months}-${i}`}
          x1={x(months)}
          x2={x(months)}
          y1={y(shareAt(months)) - 6}
          y2={y(shareAt(months)) + 6}
          className="stroke-ink"
          strokeWidth="2"
        />
      ))}
    </svg>
  );
}
