import type { Run, Trace } from "../api/client";
import { channelOf, laneKinds, loadStart } from "./lanes";
import { degrees, degreeTicks } from "../parts/degrees";

const width = 440;
const height = 180;
const edge = { left: 46, right: 8, top: 24, bottom: 30 };

/** Thins a line to a number of points by means of equal stretches, so that a page holds few of them. */
export function thinned(
  seconds: readonly number[],
  values: readonly (number | null)[],
  points: number,
): [number, number][] {
  const size = Math.max(1, Math.ceil(seconds.length / points));
  const result: [number, number][] = [];
  for (let start = 0; start < seconds.length; start += size) {
    let sum = 0;
    let count = 0;
    let time = 0;
    for (let i = start; i < Math.min(seconds.length, start + size); i++) {
      const value = values[i];
      if (value != null) {
        sum += value;
        time += seconds[i]!;
        count++;
      }
    }
    if (count > 0) {
      result.push([time / count, sum / count]);
    }
  }
  return result;
}

/** What a report shows of a run: the processor under its load, or the graphics card under its own. */
export function patientOf(run: Run, subject: string) {
  const { analysis, conditions } = run;
  const card = analysis.graphics;
  return subject === "graphics"
    ? {
        roles: ["gpu-temperature"],
        loads: card ? [card.load] : [],
        start: card?.load.startSeconds ?? 0,
        sustainedC: card?.core.sustainedC ?? null,
        peakC: card?.core.peakC ?? null,
        limitC: card?.core.limitC ?? null,
      }
    : {
        roles: laneKinds[0]!.roles,
        loads: analysis.phases.filter((phase) => phase.kind === "load"),
        start: loadStart(run),
        sustainedC: analysis.load?.sustainedTemperatureC ?? null,
        peakC: analysis.load?.peakTemperatureC ?? null,
        limitC: conditions.temperatureLimitC ?? null,
      };
}

/** The patient's temperature over a run as a small still picture, for paper. */
export function TraceSketch({
  title,
  run,
  subject,
  trace,
  top,
}: {
  title: string;
  run: Run;
  subject: string;
  trace: Trace;
  top: number;
}) {
  const { roles, loads, start, sustainedC, limitC } = patientOf(run, subject);
  const channel = channelOf(trace, roles);
  const duration = run.analysis.durationSeconds;
  const low = 10;
  const x = (second: number) => edge.left + ((width - edge.left - edge.right) * second) / duration;
  const y = (degree: number) =>
    height - edge.bottom - ((height - edge.top - edge.bottom) * (degree - low)) / (top - low);
  const line = channel ? thinned(trace.seconds, channel.values, 300) : [];
  const rungs = degreeTicks(low, top);
  const minutes = [0, 10, 20, 30].filter((minute) => start + minute * 60 <= duration);
  const words =
    sustainedC !== null
      ? `${title}: ${degrees(sustainedC)} under steady full load${limitC === null ? "" : `, limit ${degrees(limitC)}`}.`
      : `${title}: no load found.`;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={words} className="w-full">
      {loads.map((phase) => (
        <rect
          key={phase.startSeconds}
          x={x(phase.startSeconds)}
          width={x(phase.endSeconds) - x(phase.startSeconds)}
          y={edge.top}
          height={height - edge.top - edge.bottom}
          className="fill-shade"
        />
      ))}
      {rungs.map(({ c, label }) => (
        <g key={label}>
          <line x1={edge.left} x2={width - edge.right} y1={y(c)} y2={y(c)} className="stroke-hairline" />
          <text x={edge.left - 6} y={y(c) + 5} textAnchor="end" className="fill-muted font-mono text-[14px]">
            {label}
          </text>
        </g>
      ))}
      {minutes.map((minute) => (
        <text
          key={minute}
          x={x(start + minute * 60)}
          y={height - 10}
          textAnchor="middle"
          className="fill-muted font-mono text-[14px]"
        >
          {minute === 0 ? "0 min" : minute}
        </text>
      ))}
      {limitC !== null && (
        <>
          <line
            x1={edge.left}
            x2={width - edge.right}
            y1={y(limitC)}
            y2={y(limitC)}
            className="stroke-ink"
            strokeWidth="1.5"
          />
          <text x={width - edge.right} y={y(limitC) - 5} textAnchor="end" className="fill-ink text-[14px]">
            limit {degrees(limitC)}
          </text>
        </>
      )}
      <text x={edge.left} y={14} className="fill-ink text-[16px] font-bold">
        {title}
      </text>
      <polyline
        points={line.map(([second, degree]) => `${x(second).toFixed(1)},${y(degree).toFixed(1)}`).join(" ")}
        className="fill-none stroke-copper"
        strokeWidth="2"
      />
    </svg>
  );
}
