import type { Staircase } from "./HeatStaircase";
import { degreeTicks } from "../parts/degrees";

/** A step as it is drawn. */
export interface Drawn {
  id: string;
  title: string;
  riseC: number;
  swollen: boolean;
  x: number;
  y: number;
  width: number;
  height: number;
  /** Which words have room inside. */
  fits: { title: boolean; degrees: boolean };
}

interface Flight {
  steps: Drawn[];
  /** Up, then level, step by step. */
  path: string;
  top: { x: number; y: number };
}

/** Places the stairs of both sides on one scale of degrees and one of resistance. */
export function layout({
  now,
  before,
  limitC,
  width,
  height,
  small,
}: {
  now: Staircase;
  before: Staircase | null;
  limitC: number | null;
  width: number;
  height: number;
  small: boolean;
}) {
  const left = small ? 1 : 46;
  const right = width - (small ? 1 : 8);
  const bottom = small ? 2 : 26;
  const highest = Math.max(now.chipC, before?.chipC ?? 0, limitC ?? 0);
  const lowest = Math.min(now.roomC, before?.roomC ?? now.roomC);
  const ceiling = small ? 8 : 40;
  const y = (c: number) => ceiling + ((height - bottom - ceiling) * (highest - c)) / Math.max(1, highest - lowest);
  const total = (stairs: Staircase) => stairs.steps.reduce((sum, step) => sum + step.resistanceCPerW, 0);
  // The last label wants room beside the top of the widest flight.
  const scale =
    ((right - left) * (small ? 1 : width < 500 ? 0.92 : 0.8)) / Math.max(total(now), before ? total(before) : 0, 1e-6);

  const flight = (stairs: Staircase): Flight => {
    let x = left;
    let path = `M${left},${y(stairs.roomC).toFixed(1)}`;
    const steps = stairs.steps.map((step): Drawn => {
      const wide = step.resistanceCPerW * scale;
      const top = y(step.fromC + step.riseC);
      const tall = y(step.fromC) - top;
      const drawn = {
        id: step.id,
        title: step.title,
        riseC: step.riseC,
        swollen: step.swollen,
        x,
        y: top,
        width: wide,
        height: tall,
        fits: { title: wide > step.title.length * 7.6 + 8 && tall > 44, degrees: wide > 58 && tall > 22 },
      };
      path += `V${top.toFixed(1)}H${(x + wide).toFixed(1)}`;
      x += wide;
      return drawn;
    });
    return { steps, path, top: { x, y: y(stairs.chipC) } };
  };

  const ticks = [];
  for (const { c, label } of degreeTicks(lowest, highest)) {
    // A tick that would run into the room's own label is left out.
    if (c - lowest > 4 || c === lowest) {
      ticks.push({ label, y: y(c) });
    }
  }
  return {
    left,
    right,
    roomY: y(now.roomC),
    limitY: limitC === null ? 0 : y(limitC),
    ticks,
    now: flight(now),
    before: before ? flight(before) : null,
  };
}
