import { describe, expect, it } from "vitest";
import type { Run, Trace } from "../api/client";
import { channelOf, columnsOf, eventsOf, fullRange, lanesOf, loadStart, looksOf, shifted, valueAt } from "./lanes";

type Loose = Record<string, unknown>;
const run = (analysis: Loose, more: Loose = {}) => ({ analysis, marks: [], ...more }) as unknown as Run;
const withPhases = (...phases: [kind: string, startSeconds: number, endSeconds: number][]) =>
  run({ phases: phases.map(([kind, startSeconds, endSeconds]) => ({ kind, startSeconds, endSeconds })) });
const channel = (column: number, role: string, source = role, samples = 100) => ({
  column,
  role,
  source,
  samples,
  unit: "C",
});
const trace = {
  seconds: [0, 1, 2, 10],
  channels: [{ role: "core-temperature" }, { role: "cpu-power" }],
} as unknown as Trace;

describe("time", () => {
  it("lays runs over each other by the start of their longest load", () => {
    const two = withPhases(["load", 10, 70], ["idle", 70, 700], ["load", 700, 1900]);
    expect(loadStart(two)).toBe(700);
    expect(shifted({ run: two, trace })).toEqual([-700, -699, -698, -690]);
    expect(loadStart(withPhases())).toBe(0);
  });

  it("shows as far as any of the runs goes", () => {
    const early = run({ phases: [{ kind: "load", startSeconds: 60, endSeconds: 300 }], durationSeconds: 400 });
    const late = run({ phases: [{ kind: "load", startSeconds: 200, endSeconds: 300 }], durationSeconds: 500 });
    expect(fullRange([{ run: early }, { run: late }])).toEqual({ from: -200, to: 340 });
  });
});

describe("lanes", () => {
  const some = run({
    channels: [
      channel(1, "cpu-temperature", "Tdie", 40),
      channel(2, "cpu-temperature", "Package", 90),
      channel(3, "ambient-temperature"),
      channel(4, "gpu-power", "card", 0),
      channel(5, "other", "VRM"),
      channel(6, "other", "empty", 0),
    ],
  });

  it("takes the first role that the trace has", () => {
    expect(channelOf(trace, ["cpu-temperature", "core-temperature"])?.role).toBe("core-temperature");
    expect(channelOf(trace, ["cpu-fan-speed"])).toBeUndefined();
  });

  it("offers what a run can fill, columns without a role last and under their own names", () => {
    expect(lanesOf([some]).map((kind) => kind.id)).toEqual(["temperature", "column VRM"]);
    expect(lanesOf([some])[1]).toMatchObject({ title: "VRM", unit: "°C" });
  });

  it("draws the fullest column of a role, and what stands beside it", () => {
    const [chip, vrm] = lanesOf([some]);
    expect(columnsOf(some, chip!)).toEqual({ main: 2, also: [3] });
    expect(columnsOf(some, vrm!)).toEqual({ main: 5, also: [] });
  });

  it("never draws two runs alike", () => {
    const side = (name: "before" | "after", foreign = false) => ({ side: name, foreign });
    expect(looksOf([side("after")])).toEqual([{ token: "copper", width: 2, dash: [] }]);
    const many = looksOf([
      side("before", true),
      side("before"),
      side("before"),
      side("before"),
      side("after"),
      side("after"),
    ]);
    expect(new Set(many.map(({ token, dash }) => `${token} ${dash.join()}`)).size).toBe(many.length);
    expect(many.at(-2)).toEqual({ token: "teal", width: 2, dash: [] });
  });
});

describe("events", () => {
  it("tells what was read and what was marked, in order", () => {
    const one = run(
      {
        phases: [{ kind: "load", startSeconds: 100, endSeconds: 900 }],
        load: { settledAtSeconds: 600 },
        recovery: { halfSeconds: 12 },
      },
      { marks: [{ seconds: 300, text: "panel off" }] },
    );
    expect(eventsOf(one)).toEqual([
      { seconds: 300, words: "panel off", marked: true },
      { seconds: 600, words: "level from here", marked: false },
      { seconds: 912, words: "half cooled", marked: false },
    ]);
    expect(eventsOf(run({ phases: [], load: null, recovery: null }))).toEqual([]);
  });
});

describe("reading off", () => {
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
