import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import type { Run, Trace } from "../api/client";
import { thinned, TraceSketch } from "./TraceSketch";

describe("thinned", () => {
  it("keeps the mean of each stretch and leaves out what is missing", () => {
    expect(thinned([0, 1, 2, 3], [1, 3, null, 7], 2)).toEqual([
      [0.5, 2],
      [3, 7],
    ]);
    expect(thinned([0, 1], [null, null], 5)).toEqual([]);
  });
});

describe("TraceSketch", () => {
  it("says in words what it shows", () => {
    const run = {
      analysis: {
        durationSeconds: 100,
        phases: [{ kind: "load", startSeconds: 10, endSeconds: 80 }],
        load: { sustainedTemperatureC: 81.6 },
      },
    } as unknown as Run;
    const trace = {
      seconds: [0, 50, 100],
      channels: [{ role: "cpu-temperature", values: [30, 80, 40] }],
    } as unknown as Trace;
    render(<TraceSketch title="After" run={run} trace={trace} limitC={92} top={104} />);
    expect(screen.getByRole("img", { name: "After: 82 °C under steady full load, limit 92 °C." })).toBeTruthy();
  });
});
