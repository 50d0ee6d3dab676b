import { describe, expect, it } from "vitest";
import type { Run, Trace } from "../api/client";
import { channelOf, loadStart, shifted, valueAt } from "./lanes";

const run = (phases: { kind: string; startSeconds: number; endSeconds: number }[]) =>
  ({ analysis: { phases } }) as unknown as Run;
const trace = {
  seconds: [0, 1, 2, 10],
  channels: [{ role: "core-temperature" }, { role: "cpu-power" }],
} as unknown as Trace;

describe("lanes", () => {
  it("lays runs over each other by the start of their longest load", () => {
    const two = run([
      { kind: "load", startSeconds: 10, endSeconds: 70 },
      { kind: "idle", startSeconds: 70, endSeconds: 700 },
      { kind: "load", startSeconds: 700, endSeconds: 1900 },
    ]);
    expect(loadStart(two)).toBe(700);
    expect(shifted({ side: "after", run: two, trace })).toEqual([-700, -699, -698, -690]);
    expect(loadStart(run([]))).toBe(0);
  });

  it("takes the first role that the trace has", () => {
    expect(channelOf(trace, ["cpu-temperature", "core-temperature"])?.role).toBe("core-temperature");
    expect(channelOf(trace, ["cpu-fan-speed"])).toBeUndefined();
  });

  it("reads the nearest value, nothing in a gap and nothing outside", () => {
    const seconds = [0, 1, 2, 10];
    expect(valueAt(seconds, [5, 6, null, 8], 0.4)).toBe(5);
    expect(valueAt(seconds, [5, 6, null, 8], 0.6)).toBe(6);
    expect(valueAt(seconds, [5, 6, null, 8], 2)).toBeUndefined();
    expect(valueAt(seconds, [5, 6, null, 8], 9)).toBe(8);
    expect(valueAt(seconds, [5, 6, null, 8], 40)).toBeUndefined();
    expect(valueAt([], [], 1)).toBeUndefined();
  });
});
