import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Steering } from "../api/air";

type Point = Steering["points"][number];

const width = 420;
const height = 230;
const edge = { left: 46, right: 22, top: 12, bottom: 34 };
const hottest = 100;
const coldest = 20;

const x = (c: number) => edge.left + ((width - edge.left - edge.right) * (c - coldest)) / (hottest - coldest);
const y = (percent: number) => edge.top + ((height - edge.top - edge.bottom) * (100 - percent)) / 100;

/** Moves one point of a curve; it stays hotter than the one before, and no slower. */
export function movePoint(points: readonly Point[], i: number, wanted: Point): Point[] {
  const before = points[i - 1];
  const after = points[i + 1];
  const c = Math.round(Math.min(after ? after.c - 1 : 120, Math.max(before ? before.c + 1 : 0, wanted.c)));
  const percent = Math.round(
    Math.min(after ? after.percent : 100, Math.max(before ? before.percent : 0, wanted.percent)),
  );
  return points.map((point, at) => (at === i ? { c, percent } : point));
}

/** A fan's curve, drawn by hand: points are dragged, or moved with the arrow keys. In °C, as firmware takes it. */
export function SteeringCurve({
  points,
  nowC,
  onChange,
}: {
  points: readonly Point[];
  /** What the source reads just now; null when it is not known. */
  nowC: number | null;
  onChange: (points: Point[]) => void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const [held, setHeld] = useState<number>();
  const at = (event: PointerEvent): Point => {
    const box = svg.current!.getBoundingClientRect();
    const px = ((event.clientX - box.left) * width) / box.width;
    const py = ((event.clientY - box.top) * height) / box.height;
    return {
      c: coldest + ((px - edge.left) * (hottest - coldest)) / (width - edge.left - edge.right),
      percent: 100 - ((py - edge.top) * 100) / (height - edge.top - edge.bottom),
    };
  };
  const onKey = (event: KeyboardEvent, i: number) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (step) {
      event.preventDefault();
      onChange(movePoint(points, i, { c: points[i]!.c + step[0]!, percent: points[i]!.percent + step[1]! }));
    } else if (event.key === "Delete" && points.length > 1) {
      onChange(points.filter((_, one) => one !== i));
    }
  };
  const first = points[0]!;
  const last = points[points.length - 1]!;
  const path = `M${x(coldest)},${y(first.percent)} ${points.map((point) => `L${x(point.c)},${y(point.percent)}`).join(" ")} L${x(hottest)},${y(last.percent)}`;
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${width} ${height}`}
      role="group"
      aria-label={`The fan's curve: ${points.map((point) => `${point.c} °C ${point.percent} %`).join(", ")}`}
      className="block w-full touch-none select-none"
      onPointerMove={(event) => held !== undefined && onChange(movePoint(points, held, at(event)))}
      onPointerUp={() => setHeld(undefined)}
      onPointerCancel={() => setHeld(undefined)}
    >
      {[0, 50, 100].map((percent) => (
        <g key={percent}>
          <line x1={edge.left} x2={width - edge.right} y1={y(percent)} y2={y(percent)} className="stroke-hairline" />
          <text x={edge.left - 6} y={y(percent) + 5} textAnchor="end" className="fill-muted font-mono text-[14px]">
            {percent}
          </text>
        </g>
      ))}
      {[20, 40, 60, 80, 100].map((c) => (
        <text key={c} x={x(c)} y={height - 12} textAnchor="middle" className="fill-muted font-mono text-[14px]">
          {c}
        </text>
      ))}
      <text x={edge.left + 6} y={edge.top + 13} className="fill-muted text-[14px]">
        fan %
      </text>
      <text x={width - edge.right} y={height - edge.bottom - 6} textAnchor="end" className="fill-muted text-[14px]">
        °C
      </text>
      {nowC !== null && (
        <line
          x1={x(nowC)}
          x2={x(nowC)}
          y1={edge.top}
          y2={height - edge.bottom}
          className="stroke-copper"
          strokeDasharray="4 4"
          strokeWidth={2}
        />
      )}
      <path d={path} className="fill-none stroke-teal" strokeWidth={3} />
      {points.map((point, i) => (
        <circle
          key={i}
          cx={x(point.c)}
          cy={y(point.percent)}
          r={held === i ? 12 : 9}
          role="slider"
          tabIndex={0}
          aria-label={`Point ${i + 1}`}
          aria-valuenow={point.percent}
          aria-valuetext={`${point.c} °C, ${point.percent} %`}
          className="cursor-grab fill-teal stroke-card outline-none focus-visible:stroke-ink"
          strokeWidth={3}
          onPointerDown={(event) => {
            event.preventDefault();
            (event.currentTarget as unknown as HTMLElement).focus();
            event.currentTarget.ownerSVGElement?.setPointerCapture(event.pointerId);
            setHeld(i);
          }}
          onKeyDown={(event) => onKey(event, i)}
        />
      ))}
    </svg>
  );
}
