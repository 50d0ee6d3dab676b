import type { Schemas } from "../api/client";
import { useWidth } from "./useWidth";
import { celsiusOf, degree, degreesBy, degreeSign, pointOf } from "../parts/degrees";

type Row = Schemas["SeriesRow"];

const rowHeight = 44;
const marginLeft = 8;
const marginRight = 16;

/** One row a setup: its temperature at reference power with its interval on one scale; rows that cannot be told apart share a bracket, the reference is drawn in outline. */
export function SeriesPicture({ rows, reference }: { rows: readonly Row[]; reference: string }) {
  const [holder, width] = useWidth<HTMLDivElement>(420);
  const ranked = rows.filter((row) => row.rank !== null);
  const low = Math.min(...ranked.map((row) => row.atReferencePowerC! - row.halfWidthC!)) - 1;
  const high = Math.max(...ranked.map((row) => row.atReferencePowerC! + row.halfWidthC!)) + 1;
  const brackets = bracketsOf(ranked);
  const right = marginRight + 14 * brackets.length;
  const x = (celsius: number) =>
    marginLeft + ((celsius - low) / (high - low)) * Math.max(40, width - marginLeft - right);
  const y = (index: number) => index * rowHeight + rowHeight / 2;
  const ticks = ticksOf(pointOf(low), pointOf(high), Math.max(3, Math.floor((width - marginLeft - right) / 50)));
  return (
    <div ref={holder} className="min-w-0">
      <svg
        viewBox={`0 0 ${width} ${ranked.length * rowHeight + 24}`}
        width="100%"
        role="img"
        aria-label={ranked
          .map((row) => `${row.name}: ${degree(row.atReferencePowerC!, 1)} ± ${degreesBy(row.halfWidthC, 1)}`)
          .join("; ")}
        className="block"
      >
        {ticks.map((tick) => (
          <g key={tick}>
            <line
              x1={x(celsiusOf(tick))}
              x2={x(celsiusOf(tick))}
              y1={0}
              y2={ranked.length * rowHeight}
              className="stroke-hairline"
            />
            <text
              x={x(celsiusOf(tick))}
              y={ranked.length * rowHeight + 18}
              textAnchor="middle"
              className="fill-muted font-mono text-sm"
            >
              {tick} {degreeSign()}
            </text>
          </g>
        ))}
        {ranked.map((row, index) => (
          <g key={row.name}>
            <line
              x1={x(row.atReferencePowerC! - row.halfWidthC!)}
              x2={x(row.atReferencePowerC! + row.halfWidthC!)}
              y1={y(index)}
              y2={y(index)}
              className="stroke-ink"
              strokeWidth={3}
            />
            <circle
              cx={x(row.atReferencePowerC!)}
              cy={y(index)}
              r={8}
              className={row.name === reference ? "fill-card stroke-ink" : "fill-copper stroke-ink"}
              strokeWidth={2}
            />
          </g>
        ))}
        {brackets.map((bracket, index) => {
          const at = width - marginRight - 14 * index;
          return (
            <path
              key={bracket.letter}
              d={`M${at - 6} ${y(bracket.from) - 10} H${at} V${y(bracket.to) + 10} H${at - 6}`}
              className="fill-none stroke-teal"
              strokeWidth={2}
            />
          );
        })}
      </svg>
    </div>
  );
}

/** Letters that several rows share, from the first of them to the last. */
export function bracketsOf(ranked: readonly Row[]): { letter: string; from: number; to: number }[] {
  const letters = [...new Set(ranked.flatMap((row) => [...(row.group ?? "")]))].sort();
  return letters.flatMap((letter) => {
    const with_ = ranked.flatMap((row, index) => (row.group?.includes(letter) ? [index] : []));
    return with_.length > 1 ? [{ letter, from: with_[0]!, to: with_.at(-1)! }] : [];
  });
}

/** Round degrees within a range, at most so many. */
export function ticksOf(low: number, high: number, most = 7): number[] {
  const step = [1, 2, 5, 10, 20, 50].find((one) => (high - low) / one <= most) ?? 100;
  const ticks = [];
  for (let tick = Math.ceil(low / step) * step; tick <= high; tick += step) {
    ticks.push(tick);
  }
  return ticks;
}
