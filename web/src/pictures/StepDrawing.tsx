import clsx from "clsx";
import type { PlanStep } from "../api/repair";

/** The small picture of a step, where words fail. */
export function StepDrawing({ step, className }: { step: PlanStep; className?: string }) {
  const drawn = drawings[step.drawing ?? ""];
  return drawn ? (
    <svg viewBox="0 0 240 180" role="img" aria-label={drawn.words(step)} className={clsx("text-ink", className)}>
      {drawn.draw(step)}
    </svg>
  ) : null;
}

interface Drawing {
  words: (step: PlanStep) => string;
  draw: (step: PlanStep) => React.ReactNode;
}

const line = "fill-none stroke-ink [stroke-width:2]";
const soft = "fill-shade stroke-edge [stroke-width:1.5]";

const drawings: Record<string, Drawing> = {
  "screw-order": {
    words: (step) => `Screws in the order ${(step.screws ?? []).join(", ")}, counted round the ring.`,
    draw: (step) => <ScrewOrder order={step.screws ?? [1, 3, 2, 4]} />,
  },
  "paste-dot": {
    words: (step) => `${step.dots ?? 1} of paste on the chip’s face.`,
    draw: (step) => (
      <>
        <Chip />
        {dotsAt(step.dots ?? 1).map(([x, y]) => (
          <circle key={`${x}-${y}`} cx={x} cy={y} r={(step.dots ?? 1) === 1 ? 15 : 9} className="fill-copper" />
        ))}
      </>
    ),
  },
  "paste-spread": {
    words: () => "Paste spread to every edge and corner of the bare chip.",
    draw: () => (
      <>
        <rect x="30" y="20" width="180" height="140" className={soft} />
        <rect x="75" y="50" width="90" height="80" className="fill-copper" />
        <rect x="75" y="50" width="90" height="80" className={line} />
      </>
    ),
  },
  "air-way": {
    words: () =>
      "Air in at the front, through the cooler, out at the rear; the struts are on the side where it leaves.",
    draw: () => (
      <>
        <rect x="30" y="20" width="180" height="140" className={line} />
        <Fan x={42} y={90} out="right" />
        <Fan x={118} y={90} out="right" />
        <Fan x={196} y={60} out="right" />
        {[
          [2, 90],
          [70, 90],
          [146, 76],
          [206, 60],
        ].map(([x, y]) => (
          <Arrow key={x} x={x!} y={y!} />
        ))}
        <text x="36" y="153" className="fill-muted text-[13px]">
          front
        </text>
        <text x="176" y="153" className="fill-muted text-[13px]">
          rear
        </text>
      </>
    ),
  },
  "radiator-up": {
    words: () => "The radiator’s highest point stands above the pump: air gathers there.",
    draw: () => (
      <>
        <rect x="40" y="14" width="160" height="24" className={soft} />
        {[52, 64, 76].map((x) => (
          <circle key={x} cx={x} cy="20" r="3" className="fill-teal-soft stroke-teal" />
        ))}
        <text x="90" y="58" className="fill-muted text-[13px]">
          air gathers up here
        </text>
        <path d="M60 38 C60 90 110 70 116 112 M76 38 C80 80 126 70 130 112" className={line} />
        <circle cx="124" cy="134" r="24" className={soft} />
        <text x="124" y="139" textAnchor="middle" className="fill-ink text-[14px]">
          pump
        </text>
      </>
    ),
  },
  pads: {
    words: () =>
      "A card’s board: chip in the middle, memory round it, converters at its end, each with its own thickness of pad.",
    draw: () => (
      <>
        <rect x="8" y="24" width="224" height="132" className={line} />
        <rect x="92" y="66" width="50" height="50" className="fill-copper-soft stroke-ink" />
        {[
          [60, 48],
          [60, 84],
          [60, 120],
          [156, 48],
          [156, 84],
          [156, 120],
        ].map(([x, y]) => (
          <rect key={`${x}-${y}`} x={x} y={y! - 10} width="20" height="24" className="fill-teal-soft stroke-teal" />
        ))}
        <rect x="192" y="40" width="18" height="100" className="fill-shade stroke-edge" />
        <text x="58" y="172" className="fill-muted text-[13px]">
          memory
        </text>
        <text x="170" y="172" className="fill-muted text-[13px]">
          converters
        </text>
      </>
    ),
  },
  prints: {
    words: () => "Prints that paste leaves.",
    draw: () => null,
  },
};

function Chip() {
  return (
    <>
      <rect x="50" y="15" width="140" height="150" className={line} />
      <rect x="72" y="38" width="96" height="104" className={soft} />
    </>
  );
}

function dotsAt(dots: number): [number, number][] {
  return dots === 1
    ? [[120, 90]]
    : dots === 2
      ? [
          [120, 68],
          [120, 112],
        ]
      : [
          [120, 90],
          [92, 60],
          [148, 60],
          [92, 120],
          [148, 120],
        ];
}

/** Screws round the base, each with its turn; the first in full colour. */
function ScrewOrder({ order }: { order: readonly number[] }) {
  const places = ring(order.length);
  return (
    <>
      <rect x="70" y="40" width="100" height="100" className={soft} />
      {order.slice(1).map((screw, i) => {
        const [from, to] = [places[order[i]! - 1]!, places[screw - 1]!];
        return (
          <line
            key={screw}
            x1={from[0]}
            y1={from[1]}
            x2={to[0]}
            y2={to[1]}
            className="stroke-teal [stroke-dasharray:4_4] [stroke-width:1.5]"
          />
        );
      })}
      {order.map((screw, turn) => {
        const [x, y] = places[screw - 1]!;
        return (
          <g key={screw}>
            <circle
              cx={x}
              cy={y}
              r="17"
              className={turn === 0 ? "fill-teal" : "fill-card stroke-ink [stroke-width:2]"}
            />
            <text
              x={x}
              y={y + 6}
              textAnchor="middle"
              className={clsx("text-[18px] font-bold", turn === 0 ? "fill-on-teal" : "fill-ink")}
            >
              {turn + 1}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** Places round a ring, the first at the upper left, clockwise: four stand at a square's corners. */
function ring(count: number): [number, number][] {
  return Array.from({ length: count }, (_, i) => {
    const angle = (-3 * Math.PI) / 4 + (i * 2 * Math.PI) / count;
    const stretch = count === 4 ? Math.SQRT2 : 1.15;
    return [120 + 52 * stretch * Math.cos(angle), 90 + 52 * stretch * Math.sin(angle)];
  });
}

function Fan({ x, y, out }: { x: number; y: number; out: "left" | "right" }) {
  const side = out === "right" ? x + 6 : x - 6;
  return (
    <>
      <rect x={x - 6} y={y - 26} width="12" height="52" className={soft} />
      <line x1={side} y1={y - 26} x2={side} y2={y + 26} className="stroke-ink [stroke-width:4]" />
    </>
  );
}

function Arrow({ x, y }: { x: number; y: number }) {
  return (
    <path
      d={`M${x} ${y - 6} h16 v-8 l14 14 l-14 14 v-8 h-16 z`}
      className="fill-teal-soft stroke-teal [stroke-width:1.5]"
    />
  );
}

/** What paste looks like on the base once it has been lifted. */
export function PrintDrawing({ print, className }: { print: string; className?: string }) {
  return (
    <svg viewBox="0 0 120 100" aria-hidden="true" className={className}>
      <rect x="20" y="10" width="80" height="80" className={soft} />
      {print === "full" && <rect x="24" y="14" width="72" height="72" rx="6" className="fill-copper" />}
      {print === "thin" && (
        <path d="M34 26 h52 v48 h-52 z" className="fill-copper-soft stroke-copper [stroke-dasharray:3_3]" />
      )}
      {print === "ring-or-spot" && (
        <>
          <circle cx="60" cy="50" r="28" className="fill-none stroke-copper [stroke-width:9]" />
          <circle cx="60" cy="50" r="6" className="fill-copper-soft" />
        </>
      )}
      {print === "untouched" && <circle cx="60" cy="50" r="13" className="fill-copper" />}
      {print === "dried" && (
        <>
          <rect x="24" y="14" width="72" height="72" rx="4" className="fill-copper-soft" />
          <path
            d="M24 40 l18 8 l10 -14 l16 22 l12 -10 l16 8 M46 14 l4 20 M62 56 l-4 30 M80 46 l6 -32"
            className="fill-none stroke-ink [stroke-width:2]"
          />
        </>
      )}
    </svg>
  );
}
