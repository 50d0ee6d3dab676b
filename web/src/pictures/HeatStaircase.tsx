import clsx from "clsx";
import { ChevronRight } from "lucide-react";
import { Collapsible } from "radix-ui";
import type { Schemas } from "../api/client";
import { layout, type Drawn } from "./staircase";
import { useWidth } from "./useWidth";
import { degreeBy, degrees, degreesBy, degreeSign } from "../parts/degrees";

export type Staircase = Schemas["HeatStaircase"];

const looks: Record<string, string> = {
  "case-air": "fill-teal-soft",
  bulk: "fill-teal-soft",
  cooler: "fill-shade",
  chip: "fill-copper-soft",
};

/**
 * The heat path from the room to the chip: each step as wide as its resistance and as tall as the degrees lost there, under the limit
 * as a hatched ceiling. What was before stands behind as an outline.
 */
export function HeatStaircase({
  now,
  before,
  limitC,
  small = false,
  paper = false,
}: {
  now: Staircase;
  before?: Staircase | null;
  limitC: number | null;
  /** As on a tag: steps alone, no words. */
  small?: boolean;
  /** As on the owner's page: lower, and without the table of steps. */
  paper?: boolean;
}) {
  const [holder, measured] = useWidth<HTMLDivElement>(small ? 340 : 760);
  const width = Math.max(small ? 120 : 300, measured);
  const height = small ? 64 : paper ? 180 : width < 500 ? 260 : 320;
  const picture = layout({ now, before: before ?? null, limitC, width, height, small });
  return (
    <figure className="m-0" aria-label={small ? undefined : "Heat staircase"}>
      <div ref={holder}>
        <svg
          viewBox={`0 0 ${width} ${height}`}
          width="100%"
          role="img"
          aria-label={words(now, before ?? null, limitC)}
          className="block"
        >
          <Ceiling picture={picture} limitC={limitC} small={small} />
          {picture.before && (
            <path
              d={picture.before.path}
              className="fill-none stroke-edge"
              strokeWidth={small ? 1 : 1.5}
              strokeDasharray="5 4"
            />
          )}
          {picture.now.steps.map((step) => (
            <Step key={step.id} step={step} small={small} />
          ))}
          <path d={picture.now.path} className="fill-none stroke-teal" strokeWidth={small ? 2 : 3} />
          {picture.now.steps
            .filter((step) => step.swollen)
            .map(({ id, x, y, width: wide, height: tall }) => (
              <rect
                key={id}
                {...{ x, y, width: wide, height: tall }}
                className="fill-none stroke-copper"
                strokeWidth={small ? 2 : 4}
              />
            ))}
          {!small && <Labels picture={picture} now={now} before={before ?? null} limitC={limitC} />}
        </svg>
      </div>
      {!small && !paper && <Legend now={now} />}
      {!small && !paper && now.expected && <ExpectedLine expected={now.expected} />}
    </figure>
  );
}

function Ceiling({
  picture,
  limitC,
  small,
}: {
  picture: ReturnType<typeof layout>;
  limitC: number | null;
  small: boolean;
}) {
  if (limitC === null) {
    return null;
  }
  const { left, right, limitY } = picture;
  const lines = [];
  for (let x = left - limitY; x < right; x += small ? 7 : 10) {
    const from = Math.max(x, left);
    const to = Math.min(x + limitY, right);
    lines.push(
      <line key={x} x1={from} y1={limitY - (from - x)} x2={to} y2={limitY - (to - x)} className="stroke-hairline" />,
    );
  }
  return (
    <g>
      {lines}
      <line x1={left} x2={right} y1={limitY} y2={limitY} className="stroke-ink" strokeWidth={small ? 1 : 1.5} />
    </g>
  );
}

function Step({ step, small }: { step: Drawn; small: boolean }) {
  const middle = step.x + step.width / 2;
  const inside = step.y + step.height / 2;
  const rise = degreesBy(step.riseC);
  return (
    <g>
      <rect x={step.x} y={step.y} width={step.width} height={step.height} className={looks[step.id]} />
      {!small && step.fits.title && (
        <text x={middle} y={inside - 3} textAnchor="middle" className="fill-ink text-[15px]">
          {step.title}
        </text>
      )}
      {!small && step.fits.degrees && (
        <text
          x={middle}
          y={inside + (step.fits.title ? 16 : 6)}
          textAnchor="middle"
          className="fill-ink font-mono text-[17px] font-bold"
        >
          {rise}
        </text>
      )}
    </g>
  );
}

/** Words that cross a line stay readable. */
const halo = { paintOrder: "stroke", strokeWidth: 5, strokeLinejoin: "round" } as const;

function Labels({
  picture,
  now,
  before,
  limitC,
}: {
  picture: ReturnType<typeof layout>;
  now: Staircase;
  before: Staircase | null;
  limitC: number | null;
}) {
  const { left, limitY, roomY, right, ticks } = picture;
  const top = picture.now.top;
  const was = picture.before?.top;
  const headroom = limitC === null ? undefined : limitC - now.chipC;
  // The label of the end stands beside it where there is room, else before it.
  const side = (x: number) =>
    right - x > 150 ? { x: x + 12, textAnchor: "start" as const } : { x: x - 10, textAnchor: "end" as const };
  // At the limit there is no room below the ceiling's line: the label stands above it.
  const beside = (y: number, below: number) => (limitC !== null && Math.abs(y - limitY) < 16 ? limitY - 10 : y + below);
  // Without room on the right the chip's label stands left of the last step, clear of the headroom's.
  const narrow = right - top.x <= 150;
  const end =
    narrow && beside(top.y, 0) === top.y
      ? { x: picture.now.steps[picture.now.steps.length - 1]!.x - 8, textAnchor: "end" as const }
      : side(top.x);
  return (
    <g>
      {ticks.map((tick) => (
        <text
          key={tick.label}
          x={left - 8}
          y={tick.y + 5}
          textAnchor="end"
          className="fill-muted font-mono text-[15px]"
        >
          {tick.label}
        </text>
      ))}
      <line x1={left} x2={right} y1={roomY} y2={roomY} className="stroke-hairline" />
      <text x={left + 4} y={roomY + 19} className="fill-muted text-[15px]">
        room {degrees(now.roomC, 1)}
      </text>
      {limitC !== null && (
        <text x={left + 8} y={limitY - 8} className="fill-ink text-[16px] font-bold">
          limit {degrees(limitC)}
        </text>
      )}
      {was && before && (
        <>
          <circle cx={was.x} cy={was.y} r={5} className="fill-paper stroke-edge" strokeWidth={2} />
          <text
            {...side(was.x)}
            {...halo}
            y={beside(was.y, was.y < top.y ? -8 : 20)}
            className="fill-muted stroke-paper text-[16px]"
          >
            {degrees(before.chipC)} before
          </text>
        </>
      )}
      <circle cx={top.x} cy={top.y} r={6} className="fill-teal" />
      <text
        {...end}
        {...halo}
        y={beside(top.y, narrow ? 18 : 7)}
        className="fill-teal stroke-paper text-[20px] font-bold"
      >
        {degrees(now.chipC)}
        {before ? " after" : ""}
      </text>
      {headroom !== undefined && headroom >= 3 && (
        <>
          <line x1={top.x} x2={top.x} y1={top.y - 8} y2={limitY} className="stroke-teal" strokeDasharray="2 3" />
          <text x={top.x - 8} y={(top.y + limitY) / 2 + 5} textAnchor="end" className="fill-teal text-[16px] font-bold">
            {degreesBy(headroom)} headroom
          </text>
        </>
      )}
    </g>
  );
}

/** Says the same in words, step by step, with what is expected; one tap says from what that is known. */
function Legend({ now }: { now: Staircase }) {
  return (
    <dl className="mt-1 grid grid-cols-1 gap-x-8 min-[560px]:grid-cols-2">
      {now.steps.map((step) => (
        <div key={step.id} className="flex items-baseline gap-2 border-t border-hairline py-1">
          <dt className={clsx("grow", step.swollen && "font-bold text-copper-text")}>
            {step.title}
            {step.swollen && " ◂ stuck"}
          </dt>
          <dd className="m-0 font-mono whitespace-nowrap">
            <strong>{degreeBy(step.riseC)}</strong>
            {step.halfWidthC != null && step.halfWidthC >= 0.5 && (
              <span className="text-muted"> ± {degreeBy(step.halfWidthC)}</span>
            )}{" "}
            {degreeSign()}
          </dd>
          <dd className="m-0 w-24 text-right text-muted">
            {step.expectedC != null && `expected ${degreeBy(step.expectedC)}`}
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** Where a sound machine would have stood, and from what that is known. */
export function ExpectedLine({ expected }: { expected: Schemas["ExpectedTop"] }) {
  const half = degreeBy(expected.halfWidthC);
  return (
    <Collapsible.Root className="mt-1">
      <Collapsible.Trigger className="flex min-h-11 w-full items-center gap-2 text-left">
        <ChevronRight aria-hidden size={18} className="shrink-0 transition-transform in-data-[state=open]:rotate-90" />
        <span>
          Expected of {expected.byParts ? "this machine" : "one of its kind"}, sound:{" "}
          <strong className="font-mono">{degrees(expected.chipC)}</strong> <span className="text-muted">± {half}</span>
        </span>
      </Collapsible.Trigger>
      <Collapsible.Content className="pb-2 pl-7">
        <p className="m-0">
          {expected.at.charAt(0).toUpperCase()}
          {expected.at.slice(1)}; from {expected.sources.join("; ")}.
        </p>
        {expected.missing.length > 0 && (
          <p className="m-0 text-muted">Note {expected.missing.join(", ")}: then it could be told more closely.</p>
        )}
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

function words(now: Staircase, before: Staircase | null, limitC: number | null): string {
  const steps = now.steps
    .map((step) => `${step.title} ${degreesBy(step.riseC)}${step.swollen ? ", swollen" : ""}`)
    .join("; ");
  const was = before ? ` Before: ${degrees(before.chipC)}.` : "";
  const limit = limitC === null ? "" : ` Limit ${degrees(limitC)}.`;
  return `From the room at ${degrees(now.roomC)} to the chip at ${degrees(now.chipC)}: ${steps}.${limit}${was}`;
}
