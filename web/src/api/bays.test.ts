import { describe, expect, it } from "vitest";
import { outline } from "../pictures/BayTrace";
import { joined, type BayTrace } from "./bays";

const stretch = (fromSequence: number, temperatures: (number | null)[], more: BayTrace["channels"] = {}): BayTrace => ({
  fromSequence,
  seconds: temperatures.map((_, i) => fromSequence + i),
  channels: { "cpu-temperature": temperatures, ...more },
});

describe("joined", () => {
  it("puts what is new behind what is there", () => {
    const both = joined(stretch(1, [40, 41]), stretch(3, [42]));
    expect(both).toEqual(stretch(1, [40, 41, 42]));
    expect(joined(both, stretch(4, []))).toBe(both);
  });

  it("begins anew where the two do not meet", () => {
    expect(joined(stretch(1, [40]), stretch(7, [50, 51])).fromSequence).toBe(7);
  });

  it("leaves a gap where a channel came or went", () => {
    const both = joined(stretch(1, [40]), stretch(2, [41], { "cpu-power": [90] }));
    expect(both.channels["cpu-power"]).toEqual([null, 90]);
  });

  it("forgets what is older than its picture", () => {
    const many = stretch(
      1,
      Array.from({ length: 1800 }, () => 40),
    );
    const both = joined(many, stretch(1801, [99, 98]));
    expect([both.fromSequence, both.seconds.length, both.channels["cpu-temperature"]!.at(-1)]).toEqual([3, 1800, 98]);
  });
});

describe("outline", () => {
  it("keeps the highest of each stretch and nothing where nothing was read", () => {
    const values = Array.from({ length: 3000 }, (_, i) => (i === 1234 ? 95 : 60));
    const points = outline(
      values.map((_, i) => i),
      values,
    );
    expect(points.length).toBeLessThanOrEqual(300);
    expect(Math.max(...points.map(([, value]) => value))).toBe(95);
    expect(outline([0, 1], [null, null])).toEqual([]);
  });
});
