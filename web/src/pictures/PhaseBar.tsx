import clsx from "clsx";
import { useState, type KeyboardEvent, type PointerEvent } from "react";
import type { Run } from "../api/client";
import { clock } from "../parts/words";
import { loadStart, longestLoad, type Range } from "./lanes";

/** Where a load begins and ends, s since the run's first row. */
export interface Edges {
  startSeconds: number;
  endSeconds: number;
}

const shortestLoad = 45;

/** The phases of the run in front, above its lanes. The load's edges can be dragged, or moved with the arrow keys and kept with Enter. */
export function PhaseBar({
  run,
  label,
  view,
  onMoving,
  onEdges,
}: {
  run: Run;
  label: string;
  view: Range;
  /** Told where an edge is while it moves, s from load start. */
  onMoving?: (at: number | undefined) => void;
  onEdges?: (edges: Edges) => void;
}) {
  const load = longestLoad(run);
  const zero = loadStart(run);
  const [moved, setMoved] = useState<{ version: number; edges: Edges }>();
  const edges = moved?.version === run.version ? moved.edges : load;
  const share = (seconds: number) => (100 * (seconds - zero - view.from)) / (view.to - view.from);
  if (!load || !edges) {
    return <div className="grow" />;
  }

  const move = (which: keyof Edges, seconds: number) => {
    const other = which === "startSeconds" ? edges.endSeconds : edges.startSeconds;
    const bounds =
      which === "startSeconds" ? [0, other - shortestLoad] : [other + shortestLoad, run.analysis.durationSeconds];
    const to = Math.round(Math.max(bounds[0]!, Math.min(bounds[1]!, seconds)));
    setMoved({
      version: run.version,
      edges: { startSeconds: edges.startSeconds, endSeconds: edges.endSeconds, [which]: to },
    });
    onMoving?.(to - zero);
  };
  const keep = () => {
    onMoving?.(undefined);
    if (moved?.version === run.version) {
      onEdges?.(moved.edges);
    }
  };
  const put = () => {
    onMoving?.(undefined);
    setMoved(undefined);
  };

  return (
    <div className="relative ml-[58px] h-11 grow overflow-hidden" role="group" aria-label={`Phases of ${label}`}>
      {run.analysis.phases.map((phase) => {
        const isLoad = phase === load;
        const from = isLoad ? edges.startSeconds : phase.startSeconds;
        const to = isLoad ? edges.endSeconds : phase.endSeconds;
        const left = Math.max(0, share(from));
        const width = Math.min(100, share(to)) - left;
        return width <= 0 ? null : (
          <span
            key={`${phase.kind}${phase.startSeconds}`}
            className={clsx(
              "absolute inset-y-0 flex items-center justify-center overflow-hidden whitespace-nowrap",
              isLoad ? "bg-shade font-semibold" : "text-muted",
            )}
            style={{ left: `${left}%`, width: `${width}%` }}
          >
            {width > 12 && <span className={clsx(width < 30 && "max-sm:hidden")}>{phase.kind}</span>}
            {width > 30 && isLoad && <>&nbsp;{clock(edges.endSeconds - edges.startSeconds)}</>}
          </span>
        );
      })}
      {onEdges &&
        (["startSeconds", "endSeconds"] as const).map((which) => {
          const at = share(edges[which]);
          return at < -1 || at > 101 ? null : (
            <Grip
              key={which}
              at={Math.max(0, Math.min(100, at))}
              name={which === "startSeconds" ? "Load begins" : "Load ends"}
              seconds={edges[which]}
              zero={zero}
              onMove={(seconds) => move(which, seconds)}
              onKeep={keep}
              onPut={put}
              secondsPer={(pixels, width) => (pixels / width) * (view.to - view.from)}
            />
          );
        })}
    </div>
  );
}

/** One edge of the load: a bar with a target as wide as a thumb. */
function Grip({
  at,
  name,
  seconds,
  zero,
  onMove,
  onKeep,
  onPut,
  secondsPer,
}: {
  at: number;
  name: string;
  seconds: number;
  zero: number;
  onMove: (seconds: number) => void;
  onKeep: () => void;
  onPut: () => void;
  secondsPer: (pixels: number, width: number) => number;
}) {
  const [from, setFrom] = useState<{ x: number; seconds: number }>();
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    if (from) {
      onMove(from.seconds + secondsPer(event.clientX - from.x, event.currentTarget.parentElement!.clientWidth));
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 10 : 1;
    const actions: Record<string, () => void> = {
      ArrowLeft: () => onMove(seconds - step),
      ArrowRight: () => onMove(seconds + step),
      Enter: onKeep,
      Escape: onPut,
    };
    const act = actions[event.key];
    if (act) {
      event.preventDefault();
      event.stopPropagation();
      act();
    }
  };
  return (
    <span
      role="slider"
      tabIndex={0}
      aria-label={name}
      aria-valuenow={Math.round(seconds)}
      aria-valuetext={`${clock(seconds - zero)}, arrow keys move it, Enter keeps it`}
      className="absolute top-0 -ml-[22px] flex h-11 w-11 cursor-ew-resize touch-none justify-center"
      style={{ left: `${at}%` }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom({ x: event.clientX, seconds });
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => {
        setFrom(undefined);
        onKeep();
      }}
      onPointerCancel={() => {
        setFrom(undefined);
        onPut();
      }}
      onKeyDown={onKeyDown}
    >
      <span className="h-full w-1 rounded-sm bg-teal" />
    </span>
  );
}
