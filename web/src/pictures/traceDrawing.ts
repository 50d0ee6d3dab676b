import type uPlot from "uplot";
import { eventsOf, loadStart, type LaneKind, type SideTrace } from "./lanes";
import { degrees, pointOf } from "../parts/degrees";

/** Reads a token's colour as it stands in the present theme. */
export const colour = (token: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${token}`).trim();

function clipped(plot: uPlot, draw: (ctx: CanvasRenderingContext2D) => void) {
  const { ctx, bbox } = plot;
  ctx.save();
  ctx.beginPath();
  ctx.rect(bbox.left, bbox.top, bbox.width, bbox.height);
  ctx.clip();
  ctx.setLineDash([]);
  ctx.textAlign = "left";
  ctx.textBaseline = "alphabetic";
  ctx.font = `${15 * devicePixelRatio}px ${colour("font-sans") || "sans-serif"}`;
  draw(ctx);
  ctx.restore();
}

/** The load stands on a shade of its own, in every lane. */
export function drawPhases(plot: uPlot, front: SideTrace) {
  clipped(plot, (ctx) => {
    ctx.fillStyle = colour("shade");
    for (const phase of front.run.analysis.phases.filter((p) => p.kind === "load")) {
      const left = plot.valToPos(phase.startSeconds - loadStart(front.run), "x", true);
      const right = plot.valToPos(phase.endSeconds - loadStart(front.run), "x", true);
      ctx.fillRect(left, plot.bbox.top, right - left, plot.bbox.height);
    }
  });
}

function vertical(plot: uPlot, ctx: CanvasRenderingContext2D, x: number, token: string, dash: number[]) {
  ctx.strokeStyle = colour(token);
  ctx.lineWidth = 1.5 * devicePixelRatio;
  ctx.setLineDash(dash.map((length) => length * devicePixelRatio));
  ctx.beginPath();
  ctx.moveTo(x, plot.bbox.top);
  ctx.lineTo(x, plot.bbox.top + plot.bbox.height);
  ctx.stroke();
  ctx.setLineDash([]);
}

/** Where words begin that belong to a vertical line: right of it, or left of it where they would be cut off. */
function beside(ctx: CanvasRenderingContext2D, bbox: uPlot.BBox, x: number, words: string): number {
  const width = ctx.measureText(words).width;
  const gap = 6 * devicePixelRatio;
  return x + gap + width > bbox.left + bbox.width ? Math.max(bbox.left + gap, x - width - gap) : x + gap;
}

/** The temperature limit, and from where on each run gave up. */
export function drawLimits(plot: uPlot, kind: LaneKind, sides: readonly SideTrace[], limitC: number | null) {
  const ratio = devicePixelRatio;
  clipped(plot, (ctx) => {
    const { bbox } = plot;
    if (kind.id === "temperature" && limitC !== null) {
      const y = plot.valToPos(pointOf(limitC), "y", true);
      ctx.strokeStyle = colour("ink");
      ctx.lineWidth = 1.5 * ratio;
      ctx.beginPath();
      ctx.moveTo(bbox.left, y);
      ctx.lineTo(bbox.left + bbox.width, y);
      ctx.stroke();
      ctx.fillStyle = colour("ink");
      ctx.fillText(`limit ${degrees(limitC)}`, bbox.left + 8 * ratio, y - 5 * ratio);
    }
    const rowEnds: number[] = [];
    for (const { run, label } of sides) {
      for (const limit of run.analysis.limits) {
        if (kind.id !== (limit.kind === "thermal" ? "temperature" : "power")) {
          continue;
        }
        const x = plot.valToPos(limit.firstSeconds - loadStart(run), "x", true);
        vertical(plot, ctx, x, "copper", [3, 3]);
        ctx.fillStyle = colour("copper-text");
        const said = limit.kind === "thermal" ? "throttles from here" : "power budget out";
        const words = sides.length > 1 ? `${label}: ${said}` : said;
        // Words that would collide step up a row.
        const left = beside(ctx, bbox, x, words);
        const free = rowEnds.findIndex((end) => end < left - 8 * ratio);
        const row = free < 0 ? rowEnds.length : free;
        rowEnds[row] = left + ctx.measureText(words).width;
        ctx.fillText(words, left, bbox.top + bbox.height - (8 + 17 * row) * ratio);
      }
    }
  });
}

/** What happened in the run in front: a line through every lane, its words in the first. Words that would collide step down a row. */
export function drawEvents(plot: uPlot, kind: LaneKind, front: SideTrace) {
  const ratio = devicePixelRatio;
  const rowEnds: number[] = [];
  clipped(plot, (ctx) => {
    const { bbox } = plot;
    for (const event of eventsOf(front.run)) {
      if (!event.marked && kind.id !== "temperature") {
        continue;
      }
      const x = plot.valToPos(event.seconds - loadStart(front.run), "x", true);
      if (x < bbox.left - 1 || x > bbox.left + bbox.width) {
        continue;
      }
      vertical(plot, ctx, x, event.marked ? "ink" : "edge", event.marked ? [1, 4] : [1, 3]);
      if (kind.id !== "temperature") {
        continue;
      }
      const width = ctx.measureText(event.words).width;
      const left = beside(ctx, bbox, x, event.words);
      const free = rowEnds.findIndex((end) => end < left - 8 * ratio);
      const row = free < 0 ? rowEnds.length : free;
      rowEnds[row] = left + width;
      ctx.fillStyle = colour(event.marked ? "ink" : "muted");
      ctx.fillText(event.words, left, bbox.top + bbox.height - (30 + 19 * row) * ratio);
    }
  });
}
