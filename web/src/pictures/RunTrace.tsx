import clsx from "clsx";
import { useEffect, useMemo, useRef, useState } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { useTheme } from "../parts/theme";
import { clock } from "../parts/words";
import { channelOf, laneKinds, loadStart, shifted, valueAt, type LaneKind, type SideTrace } from "./lanes";

/**
 * Runs drawn over time in stacked lanes with one time axis, before and after laid over each other by the start of the load.
 * Drag to zoom, double-click to see all; the cursor reads all lanes off at once.
 */
export function RunTrace({
  sides,
  limitC,
  onZoom,
}: {
  sides: readonly SideTrace[];
  limitC: number | null;
  /** Told the zoomed stretch, seconds from load start; undefined for all. */
  onZoom?: (range: { from: number; to: number } | undefined) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const plots = useRef<uPlot[]>([]);
  const zoom = useRef<{ from: number; to: number } | undefined>(undefined);
  const [at, setAt] = useState<number>();
  const [zoomed, setZoomed] = useState(false);
  const { dark } = useTheme();

  const lanes = useMemo(
    () => laneKinds.filter((kind) => sides.some((side) => channelOf(side.trace, kind.roles))),
    [sides],
  );

  useEffect(() => {
    const element = holder.current;
    if (!element || lanes.length === 0) {
      return;
    }
    const all = fullRange(sides);
    const sync = uPlot.sync(`trace-${crypto.randomUUID()}`);
    let applying = false;
    const onScale = (range: { from: number; to: number }) => {
      if (applying) {
        return;
      }
      applying = true;
      const whole = range.from <= all.from && range.to >= all.to;
      zoom.current = whole ? undefined : range;
      setZoomed(!whole);
      plots.current.forEach((plot) => plot.setScale("x", { min: range.from, max: range.to }));
      onZoom?.(zoom.current);
      applying = false;
    };
    const start = zoom.current ?? all;
    plots.current = lanes.map((kind, index) => {
      const place = element.querySelector<HTMLElement>(`[data-lane="${kind.id}"]`)!;
      return new uPlot(
        options(kind, sides, {
          width: place.clientWidth,
          last: index === lanes.length - 1,
          syncKey: sync.key,
          limitC,
          start,
          all,
          onScale,
          onCursor: setAt,
        }),
        data(kind, sides),
        place,
      );
    });
    const resize = new ResizeObserver(() =>
      plots.current.forEach((plot) =>
        plot.setSize({ width: plot.root.parentElement!.clientWidth, height: plot.height }),
      ),
    );
    resize.observe(element);
    return () => {
      resize.disconnect();
      plots.current.forEach((plot) => plot.destroy());
      plots.current = [];
    };
  }, [sides, lanes, limitC, onZoom, dark]);

  return (
    <figure className="m-0" aria-label={describe(sides, limitC)}>
      <div className="mb-1 flex flex-wrap items-baseline gap-x-5 text-muted">
        <Legend sides={sides} />
        <span className="ml-auto min-h-6 font-mono">
          {at === undefined ? (zoomed ? "double-click: see all" : "drag: zoom") : `${clock(at)} after load start`}
        </span>
      </div>
      <div ref={holder}>
        {lanes.map((kind) => (
          <div key={kind.id} className="flex border-t border-hairline">
            <div data-lane={kind.id} className="min-w-0 grow" />
            <ReadOff kind={kind} sides={sides} at={at} />
          </div>
        ))}
      </div>
    </figure>
  );
}

function Legend({ sides }: { sides: readonly SideTrace[] }) {
  const room = sides.some((side) => channelOf(side.trace, laneKinds[0]!.also ?? []));
  const together = sides.length > 1;
  return (
    <>
      {sides.map(({ side }) => (
        <LegendLine
          key={side}
          words={side}
          look={!together ? "stroke-copper" : side === "after" ? "stroke-teal" : "stroke-edge"}
          width={side === "after" ? 3 : 2}
          dash={side === "before" && together ? "5 3" : undefined}
        />
      ))}
      {room && <LegendLine words="room" look="stroke-edge" width={1} />}
    </>
  );
}

function LegendLine({ words, look, width, dash }: { words: string; look: string; width: number; dash?: string }) {
  return (
    <span className="inline-flex items-center gap-2">
      <svg width="28" height="10" aria-hidden="true">
        <line x1="0" x2="28" y1="5" y2="5" strokeWidth={width} strokeDasharray={dash} className={look} />
      </svg>
      {words}
    </span>
  );
}

/** Beside a lane: its values under the cursor, else those under steady full load. */
function ReadOff({ kind, sides, at }: { kind: LaneKind; sides: readonly SideTrace[]; at: number | undefined }) {
  return (
    <div className="flex w-24 shrink-0 flex-col py-1 pl-3 leading-tight">
      <span className="text-muted">{kind.title}</span>
      {sides.map((side) => {
        const channel = channelOf(side.trace, kind.roles);
        const load = side.run.analysis.load;
        const value =
          at === undefined ? load && kind.sustained(load) : channel && valueAt(shifted(side), channel.values, at);
        return (
          <span key={side.side} className={clsx("font-mono text-lg", isBack(side, sides) ? "text-muted" : "font-bold")}>
            {value == null ? "—" : (value * (kind.scale ?? 1)).toFixed(kind.digits)}
            <span className="text-sm font-normal text-muted"> {kind.unit}</span>
          </span>
        );
      })}
    </div>
  );
}

const isBack = (side: SideTrace, sides: readonly SideTrace[]) => side.side === "before" && sides.length > 1;

/** The text alternative says what the picture shows. */
function describe(sides: readonly SideTrace[], limitC: number | null): string {
  const parts = sides.map(({ side, run }) => {
    const load = run.analysis.load;
    return load
      ? `${side}: ${load.sustainedTemperatureC.toFixed(0)} °C sustained, peak ${load.peakTemperatureC.toFixed(0)} °C`
      : `${side}: no load`;
  });
  return `Run trace. ${parts.join("; ")}${limitC === null ? "" : `; limit ${limitC} °C`}.`;
}

function fullRange(sides: readonly SideTrace[]) {
  const ends = sides.map(({ run }) => [-loadStart(run), run.analysis.durationSeconds - loadStart(run)] as const);
  return { from: Math.min(...ends.map(([from]) => from)), to: Math.max(...ends.map(([, to]) => to)) };
}

/** Both sides on one time base; rows that only one side has are gaps of the other, which uPlot joins. */
function data(kind: LaneKind, sides: readonly SideTrace[]): uPlot.AlignedData {
  const scale = kind.scale ?? 1;
  const tables = sides.map((side): uPlot.AlignedData => {
    const main = channelOf(side.trace, kind.roles);
    const also = kind.also ? channelOf(side.trace, kind.also) : undefined;
    const column = (values: readonly (number | null)[] | null | undefined) =>
      (values ?? side.trace.seconds.map(() => null)).map((value) => (value === null ? null : value * scale));
    return [
      shifted(side),
      column(main?.values),
      column(main?.lows ?? null),
      column(main?.highs ?? null),
      ...(kind.also ? [column(also?.values)] : []),
    ];
  });
  return tables.length === 1
    ? tables[0]!
    : uPlot.join(
        tables,
        tables.map((table) => table.map(() => 1)),
      );
}

interface Drawing {
  width: number;
  last: boolean;
  syncKey: string;
  limitC: number | null;
  start: { from: number; to: number };
  all: { from: number; to: number };
  onScale: (range: { from: number; to: number }) => void;
  onCursor: (at: number | undefined) => void;
}

function options(kind: LaneKind, sides: readonly SideTrace[], drawing: Drawing): uPlot.Options {
  const colour = (token: string) => getComputedStyle(document.documentElement).getPropertyValue(token).trim();
  const alone = sides.length === 1;
  const font = `15px ${colour("--font-mono") || "monospace"}`;
  const series: uPlot.Series[] = [{}];
  const bands: uPlot.Band[] = [];
  for (const { side } of sides) {
    const stroke = alone ? colour("--copper") : side === "after" ? colour("--teal") : colour("--edge");
    const base: uPlot.Series = {
      stroke,
      width: side === "after" || alone ? 2 : 1.5,
      spanGaps: true,
      points: { show: false },
    };
    const at = series.length;
    series.push({ ...base, ...(alone || side === "after" ? {} : { dash: [6, 4] }) });
    series.push({ ...base, width: 0 }, { ...base, width: 0 });
    bands.push({ series: [at + 2, at + 1], fill: `color-mix(in srgb, ${stroke} 22%, transparent)` });
    if (kind.also) {
      series.push({ ...base, stroke: colour("--edge"), width: 1 });
    }
  }
  return {
    width: drawing.width,
    height: kind.height + (drawing.last ? 34 : 0),
    legend: { show: false },
    padding: [10, 0, drawing.last ? 0 : 6, 0],
    cursor: {
      sync: { key: drawing.syncKey, setSeries: false },
      drag: { x: true, y: false, setScale: false },
      points: { show: false },
    },
    scales: {
      x: { time: false, min: drawing.start.from, max: drawing.start.to },
      y: { range: (_, low, high) => yRange(kind, low, high, drawing.limitC) },
    },
    axes: [
      {
        show: drawing.last,
        stroke: colour("--muted"),
        font,
        size: 34,
        grid: { stroke: colour("--hairline"), width: 1 },
        ticks: { show: false },
        incrs: [10, 30, 60, 120, 300, 600, 1200, 3600, 7200, 14400],
        space: 90,
        values: (_, splits) => splits.map((split) => clock(split)),
      },
      {
        stroke: colour("--muted"),
        font,
        size: 58,
        grid: { stroke: colour("--hairline"), width: 1 },
        ticks: { show: false },
        space: 24,
        values: (_, splits) => splits.map((split) => split.toFixed(kind.id === "clock" ? 1 : 0)),
      },
    ],
    series,
    bands,
    hooks: {
      drawClear: [(plot) => drawPhases(plot, sides, colour("--shade"))],
      draw: [(plot) => drawLimits(plot, kind, sides, drawing.limitC, colour)],
      setCursor: [
        (plot) =>
          drawing.onCursor(
            plot.cursor.left === undefined || plot.cursor.left < 0 ? undefined : plot.posToVal(plot.cursor.left, "x"),
          ),
      ],
      setSelect: [
        (plot) => {
          if (plot.select.width > 8) {
            drawing.onScale({
              from: plot.posToVal(plot.select.left, "x"),
              to: plot.posToVal(plot.select.left + plot.select.width, "x"),
            });
          }
          plot.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
        },
      ],
      ready: [(plot) => plot.over.addEventListener("dblclick", () => drawing.onScale(drawing.all))],
    },
  };
}

/** The limit belongs to the picture; power, clock and fan start at zero or near their own range. */
function yRange(kind: LaneKind, low: number, high: number, limitC: number | null): [number, number] {
  if (kind.id === "temperature") {
    return [Math.floor((Math.min(low, 20) - 2) / 10) * 10, Math.ceil(Math.max(high + 4, (limitC ?? 0) + 10) / 10) * 10];
  }
  return [0, Math.max(1e-9, high * 1.12)];
}

/** The load phase stands on a shade of its own, in every lane. */
function drawPhases(plot: uPlot, sides: readonly SideTrace[], shade: string) {
  const { ctx, bbox } = plot;
  const run = sides[sides.length - 1]?.run;
  if (!run) {
    return;
  }
  ctx.save();
  ctx.beginPath();
  ctx.rect(bbox.left, bbox.top, bbox.width, bbox.height);
  ctx.clip();
  ctx.fillStyle = shade;
  for (const phase of run.analysis.phases.filter((p) => p.kind === "load")) {
    const left = plot.valToPos(phase.startSeconds - loadStart(run), "x", true);
    const right = plot.valToPos(phase.endSeconds - loadStart(run), "x", true);
    ctx.fillRect(left, bbox.top, right - left, bbox.height);
  }
  ctx.restore();
}

function drawLimits(
  plot: uPlot,
  kind: LaneKind,
  sides: readonly SideTrace[],
  limitC: number | null,
  colour: (token: string) => string,
) {
  const { ctx, bbox } = plot;
  const ratio = devicePixelRatio;
  ctx.save();
  ctx.beginPath();
  ctx.rect(bbox.left, bbox.top, bbox.width, bbox.height);
  ctx.clip();
  ctx.textAlign = "left";
  ctx.textBaseline = "alphabetic";
  ctx.font = `${15 * ratio}px ${colour("--font-sans") || "sans-serif"}`;
  if (kind.id === "temperature" && limitC !== null) {
    const y = plot.valToPos(limitC, "y", true);
    ctx.strokeStyle = colour("--ink");
    ctx.lineWidth = 1.5 * ratio;
    ctx.beginPath();
    ctx.moveTo(bbox.left, y);
    ctx.lineTo(bbox.left + bbox.width, y);
    ctx.stroke();
    ctx.fillStyle = colour("--ink");
    ctx.fillText(`limit ${limitC} °C`, bbox.left + 8 * ratio, y - 5 * ratio);
  }
  for (const { run, side } of sides) {
    for (const limit of run.analysis.limits) {
      const belongs = limit.kind === "thermal" ? kind.id === "temperature" : kind.id === "power";
      if (!belongs) {
        continue;
      }
      const x = plot.valToPos(limit.firstSeconds - loadStart(run), "x", true);
      ctx.strokeStyle = colour("--copper");
      ctx.lineWidth = 1.5 * ratio;
      ctx.setLineDash([3 * ratio, 3 * ratio]);
      ctx.beginPath();
      ctx.moveTo(x, bbox.top);
      ctx.lineTo(x, bbox.top + bbox.height);
      ctx.stroke();
      ctx.setLineDash([]);
      ctx.fillStyle = colour("--copper-text");
      const words = limit.kind === "thermal" ? "gives up from here" : "power budget out";
      ctx.fillText(sides.length > 1 ? `${side}: ${words}` : words, x + 6 * ratio, bbox.top + bbox.height - 8 * ratio);
    }
  }
  ctx.restore();
}
