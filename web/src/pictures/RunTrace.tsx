import clsx from "clsx";
import { useEffect, useMemo, useRef, useState } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { useTheme } from "../parts/theme";
import { clock } from "../parts/words";
import {
  channelsOf,
  fullRange,
  loadStart,
  looksOf,
  shifted,
  valueAt,
  type LaneKind,
  type Look,
  type Range,
  type SideTrace,
  tellerOf,
  unitOf,
} from "./lanes";
import { PhaseBar, type Edges } from "./PhaseBar";
import { TraceBrush } from "./TraceBrush";
import { laneData, laneOptions } from "./tracePlot";
import { degree, degrees } from "../parts/degrees";

/** Tells the traces of a page apart. */
let nextTrace = 1;

/**
 * Runs drawn over time in stacked lanes with one time axis, laid over each other by the start of the load; the last is in front.
 * Drag in a lane or move the brush below to zoom, double-click to see all; the cursor reads all lanes off at once.
 */
export function RunTrace({
  sides,
  lanes,
  limitC,
  view,
  onView,
  onCursor,
  onEdges,
}: {
  sides: readonly SideTrace[];
  lanes: readonly LaneKind[];
  limitC: number | null;
  /** The stretch shown, s from load start; undefined for all. */
  view: Range | undefined;
  onView: (range: Range | undefined) => void;
  /** Told where the cursor last was. */
  onCursor?: (at: number) => void;
  /** Told the load's edges of the run in front when they have been moved, s since its first row. */
  onEdges?: (edges: Edges) => void;
}) {
  const holder = useRef<HTMLDivElement>(null);
  const plots = useRef<uPlot[]>([]);
  const [at, setAt] = useState<number>();
  const [moving, setMoving] = useState<number>();
  const { dark } = useTheme();
  const all = useMemo(() => fullRange(sides), [sides]);
  const shown = view ?? all;
  const latest = useRef({ shown, onView, onCursor, all });
  useEffect(() => {
    latest.current = { shown, onView, onCursor, all };
  });

  useEffect(() => {
    const element = holder.current;
    if (!element || lanes.length === 0) {
      return;
    }
    const sync = uPlot.sync(`trace-${nextTrace++}`);
    plots.current = lanes.map((kind, index) => {
      const place = element.querySelector<HTMLElement>(`[data-lane="${CSS.escape(kind.id)}"]`)!;
      const { data, ...drawn } = laneData(kind, sides);
      const frame = {
        width: place.clientWidth,
        last: index === lanes.length - 1,
        syncKey: sync.key,
        limitC,
        view: latest.current.shown,
        onZoom: (range: Range | undefined) => latest.current.onView(range && within(range, latest.current.all)),
        onCursor: (seconds: number | undefined) => {
          setAt(seconds);
          if (seconds !== undefined) {
            latest.current.onCursor?.(seconds);
          }
        },
      };
      return new uPlot(laneOptions(kind, sides, drawn, frame), data, place);
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
  }, [sides, lanes, limitC, dark]);

  const { from, to } = shown;
  useEffect(() => plots.current.forEach((plot) => plot.setScale("x", { min: from, max: to })), [from, to]);

  const looks = looksOf(sides);
  const front = sides[sides.length - 1]!;
  return (
    <figure className="m-0" aria-label={describe(sides, limitC)}>
      <div className="flex items-center">
        <PhaseBar run={front.run} label={front.label} view={shown} onMoving={setMoving} onEdges={onEdges} />
        <span className="w-24 shrink-0 pl-3 leading-tight text-muted">
          {at === undefined ? view ? "double-click shows all" : "drag to zoom" : <Moment at={at} />}
        </span>
      </div>
      <div ref={holder} className="relative">
        {lanes.map((kind) => (
          <div key={kind.id} className="flex border-t border-hairline">
            <div data-lane={kind.id} className="min-w-0 grow" />
            <ReadOff kind={kind} sides={sides} at={at} />
          </div>
        ))}
        {moving !== undefined && (
          <div className="pointer-events-none absolute inset-y-0 right-24 left-[58px]">
            <div
              className="absolute inset-y-0 border-l-2 border-teal"
              style={{ left: `${(100 * (moving - from)) / (to - from)}%` }}
            />
          </div>
        )}
      </div>
      <TraceBrush front={front} look={looks[looks.length - 1]!} all={all} view={shown} onView={onView} />
    </figure>
  );
}

function Moment({ at }: { at: number }) {
  return (
    <>
      <span className="block font-mono text-lg text-ink">{clock(at)}</span>
      <span className="text-sm">of load</span>
    </>
  );
}

/** A zoom as far as there is something to see; undefined when it shows all. */
function within(range: Range, all: Range): Range | undefined {
  const cut = { from: Math.max(all.from, range.from), to: Math.min(all.to, range.to) };
  return cut.from <= all.from && cut.to >= all.to ? undefined : cut;
}

export function LegendLine({ look }: { look: Look }) {
  const strokes = { copper: "stroke-copper", teal: "stroke-teal", edge: "stroke-edge" };
  return (
    <svg width="28" height="10" aria-hidden="true" className="shrink-0">
      <line
        x1="0"
        x2="28"
        y1="5"
        y2="5"
        strokeWidth={look.width + 0.5}
        strokeDasharray={look.dash.join(" ")}
        className={strokes[look.token]}
      />
    </svg>
  );
}

/** Beside a lane: its values under the cursor, else those under steady full load. */
function ReadOff({ kind, sides, at }: { kind: LaneKind; sides: readonly SideTrace[]; at: number | undefined }) {
  const front = sides[sides.length - 1]!;
  const cores = kind.id === "temperature" && at !== undefined ? front.trace.cores : null;
  const core = (values: readonly (number | null)[]) => {
    const value = valueAt(shifted(front), values, at!);
    return value === undefined ? "—" : degree(value);
  };
  return (
    <div className="flex w-24 shrink-0 flex-col py-1 pl-3 leading-tight">
      <span className="truncate text-muted" title={kind.title}>
        {kind.title}
      </span>
      {kind.id === "residual" ? (
        <Value value={residualOf(front, at)} kind={kind} strong />
      ) : (
        sides.map((side) => {
          const channel = channelsOf(side, kind).main;
          const value =
            at === undefined ? sustained(side, kind) : channel && valueAt(shifted(side), channel.values, at);
          return <Value key={side.run.id} value={value} kind={kind} strong={side === front} />;
        })
      )}
      {cores && (
        <span className="font-mono text-muted">
          {core(cores.lows)}–{core(cores.highs)}
        </span>
      )}
    </div>
  );
}

/** A lane's mean under steady full load: the analysis's own, else of what is drawn. */
function sustained(side: SideTrace, kind: LaneKind): number | null | undefined {
  const load = side.run.analysis.load;
  const trace = side.whole ?? side.trace;
  const read = load && kind.sustained?.(load);
  if (!load || read != null) {
    return read;
  }
  const values = channelsOf({ ...side, trace }, kind).main?.values ?? [];
  const within = values.filter(
    (value, i) =>
      value !== null && trace.seconds[i]! >= load.windowStartSeconds && trace.seconds[i]! <= load.windowEndSeconds,
  );
  return within.length === 0 ? undefined : within.reduce<number>((sum, value) => sum + value!, 0) / within.length;
}

function Value({ value, kind, strong }: { value: number | null | undefined; kind: LaneKind; strong: boolean }) {
  return (
    <span className={clsx("font-mono text-lg whitespace-nowrap", strong ? "font-bold" : "text-muted")}>
      {value == null ? "—" : tellerOf(kind)(value).toFixed(kind.digits).replace("-", "−")}
      <span className="text-sm font-normal text-muted"> {unitOf(kind)}</span>
    </span>
  );
}

/** Under the cursor what the fit leaves there, else what it leaves on the whole. */
function residualOf(side: SideTrace, at: number | undefined): number | undefined {
  if (!side.fit || at === undefined) {
    return side.fit?.quality.residualC;
  }
  return valueAt(side.fit.seconds, side.fit.residualC, at + loadStart(side.run));
}

/** The text alternative says what the picture shows. */
function describe(sides: readonly SideTrace[], limitC: number | null): string {
  const parts = sides.map(({ label, run }) => {
    const load = run.analysis.load;
    return load
      ? `${label}: ${degrees(load.sustainedTemperatureC)} sustained, peak ${degrees(load.peakTemperatureC)}`
      : `${label}: no load`;
  });
  return `Run trace. ${parts.join("; ")}${limitC === null ? "" : `; limit ${degrees(limitC)}`}.`;
}
