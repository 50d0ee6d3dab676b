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
        graphics: {
          load: { startSeconds: 20, endSeconds: 90 },
          core: { sustainedC: 71.2, peakC: 75, limitC: 88 },
        },
      },
      conditions: { temperatureLimitC: 92 },
    } as unknown as Run;
    const trace = {
      seconds: [0, 50, 100],
      channels: [
        { role: "cpu-temperature", values: [30, 80, 40] },
        { role: "gpu-temperature", values: [31, 71, 41] },
      ],
    } as unknown as Trace;
    const sketch = { title: "After", run, trace, top: 104 };
    const { rerender } = render(<TraceSketch {...sketch} subject="processor" />);
    expect(screen.getByRole("img", { name: "After: 82 °C under steady full load, limit 92 °C." })).toBeTruthy();
    // The card as the patient: its own line, load and limit.
    rerender(<TraceSketch {...sketch} subject="graphics" />);
    expect(screen.getByRole("img", { name: "After: 71 °C under steady full load, limit 88 °C." })).toBeTruthy();
  });
});
