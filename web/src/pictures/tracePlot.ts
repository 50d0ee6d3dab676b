import uPlot from "uplot";
import { clock } from "../parts/words";
import { channelsOf, loadStart, looksOf, shifted, tellerOf, type LaneKind, type Range, type SideTrace } from "./lanes";
import { colour, drawEvents, drawLimits, drawPhases } from "./traceDrawing";
import { celsiusUnit, pointOf, spanOf } from "../parts/degrees";

/** One line or envelope of a lane: its data and how it is drawn. */
interface Drawn {
  table: number;
  values: (number | null)[];
  look: uPlot.Series;
  /** Filled down to the one before it. */
  fills?: string;
}

/** What uPlot needs for one lane: data on a joined time base, series and filled bands. */
export function laneData(kind: LaneKind, sides: readonly SideTrace[]) {
  const told = tellerOf(kind);
  const times: number[][] = [];
  const drawn: Drawn[] = [];
  const looks = looksOf(sides);
  const line = (stroke: string, width: number, dash?: number[]): uPlot.Series => ({
    stroke,
    width,
    dash,
    spanGaps: true,
    points: { show: false },
  });
  const scaled = (values: readonly (number | null)[]) => values.map((value) => (value === null ? null : told(value)));

  sides.forEach((side, index) => {
    const look = looks[index]!;
    const stroke = colour(look.token);
    const front = index === sides.length - 1;
    if (kind.id === "residual") {
      if (front && side.fit) {
        times.push(side.fit.seconds.map((second) => second - loadStart(side.run)));
        drawn.push({ table: times.length - 1, values: scaled(side.fit.residualC), look: line(colour("ink"), 1) });
      }
      return;
    }
    const table = times.push(shifted(side)) - 1;
    const envelope = (lows: readonly (number | null)[], highs: readonly (number | null)[], share: number) => {
      drawn.push({ table, values: scaled(lows), look: line(stroke, 0) });
      drawn.push({
        table,
        values: scaled(highs),
        look: line(stroke, 0),
        fills: `color-mix(in srgb, ${stroke} ${share}%, transparent)`,
      });
    };
    const { main, also } = channelsOf(side, kind);
    if (kind.id === "temperature" && side.trace.cores) {
      envelope(side.trace.cores.lows, side.trace.cores.highs, 30);
    }
    if (main?.lows && main.highs) {
      envelope(main.lows, main.highs, 22);
    }
    for (const channel of also) {
      drawn.push({ table, values: scaled(channel.values), look: line(colour("edge"), 1) });
    }
    drawn.push({ table, values: main ? scaled(main.values) : [], look: line(stroke, look.width, look.dash) });
    if (kind.id === "temperature" && front && side.fit) {
      times.push(side.fit.seconds.map((second) => second - loadStart(side.run)));
      drawn.push({ table: times.length - 1, values: scaled(side.fit.fittedC), look: line(colour("ink"), 1.5, [2, 3]) });
    }
  });

  // Tables with their columns, in the order of their tables; uPlot joins them, and a row that only one has is no gap of the others.
  const order = times.flatMap((_, table) => drawn.filter((one) => one.table === table));
  const tables = times.map((time, table): uPlot.AlignedData => [
    time,
    ...order
      .filter((one) => one.table === table)
      .map((one) => (one.values.length > 0 ? one.values : time.map(() => null))),
  ]);
  const data =
    tables.length === 0
      ? ([[]] as uPlot.AlignedData)
      : tables.length === 1
        ? tables[0]!
        : uPlot.join(
            tables,
            tables.map((one) => one.map(() => 1)),
          );
  const bands = order.flatMap((one, index): uPlot.Band[] =>
    one.fills ? [{ series: [index + 1, index], fill: one.fills }] : [],
  );
  return { data, series: [{}, ...order.map((one) => one.look)] as uPlot.Series[], bands };
}

interface Frame {
  width: number;
  last: boolean;
  syncKey: string;
  limitC: number | null;
  view: Range;
  onZoom: (range: Range | undefined) => void;
  onCursor: (at: number | undefined) => void;
}

/** Options of a lane's plot. */
export function laneOptions(
  kind: LaneKind,
  sides: readonly SideTrace[],
  drawn: Pick<uPlot.Options, "series" | "bands">,
  frame: Frame,
): uPlot.Options {
  const font = `15px ${colour("font-mono") || "monospace"}`;
  const front = sides[sides.length - 1]!;
  const grid = { stroke: colour("hairline"), width: 1 };
  return {
    width: frame.width,
    height: kind.height + (frame.last ? 34 : 0),
    legend: { show: false },
    padding: [10, 0, frame.last ? 0 : 6, 0],
    cursor: {
      sync: { key: frame.syncKey, setSeries: false },
      drag: { x: true, y: false, setScale: false },
      points: { show: false },
      y: false,
    },
    scales: {
      x: { time: false, min: frame.view.from, max: frame.view.to },
      y: { range: (_, low, high) => yRange(kind, low, high, frame.limitC) },
    },
    axes: [
      {
        show: frame.last,
        stroke: colour("muted"),
        font,
        size: 34,
        grid,
        ticks: { show: false },
        incrs: [10, 30, 60, 120, 300, 600, 1200, 3600, 7200, 14400],
        space: 90,
        values: (_, splits) => splits.map((split) => clock(split)),
      },
      {
        stroke: colour("muted"),
        font,
        size: 58,
        grid,
        ticks: { show: false },
        space: 24,
        values: (_, splits) => splits.map((split) => +split.toFixed(2)),
      },
    ],
    ...drawn,
    hooks: {
      drawClear: [(plot) => drawPhases(plot, front)],
      draw: [
        (plot) => {
          drawLimits(plot, kind, sides, frame.limitC);
          drawEvents(plot, kind, front);
        },
      ],
      setCursor: [
        (plot) =>
          frame.onCursor(
            plot.cursor.left === undefined || plot.cursor.left < 0 ? undefined : plot.posToVal(plot.cursor.left, "x"),
          ),
      ],
      setSelect: [
        (plot) => {
          if (plot.select.width > 8) {
            frame.onZoom({
              from: plot.posToVal(plot.select.left, "x"),
              to: plot.posToVal(plot.select.left + plot.select.width, "x"),
            });
          }
          plot.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
        },
      ],
      ready: [(plot) => plot.over.addEventListener("dblclick", () => frame.onZoom(undefined))],
    },
  };
}

/** The limit belongs to the picture of the chip; other temperatures show their own range, everything else starts at zero. */
function yRange(kind: LaneKind, low: number | null, high: number | null, limitC: number | null): [number, number] {
  if (low == null || high == null) {
    return [0, 1];
  }
  if (kind.id === "temperature") {
    const bottom = Math.min(low, pointOf(20)) - spanOf(2);
    const top = Math.max(high + spanOf(4), limitC === null ? high : pointOf(limitC + 10));
    return [Math.floor(bottom / 10) * 10, Math.ceil(top / 10) * 10];
  }
  if (kind.id === "residual") {
    const most = Math.max(1, Math.abs(low), Math.abs(high)) * 1.1;
    return [-most, most];
  }
  if (kind.unit === celsiusUnit || low < 0) {
    const room = Math.max(1, (high - low) * 0.12);
    return [low - room, high + room];
  }
  return [0, Math.max(1e-9, high * 1.12)];
}
