import { afterEach, describe, expect, it } from "vitest";
import { noticeDegrees, others, tellFor } from "../api/degrees";
import { celsiusOf, degree, degrees, degreesBy, degreeTicks, tellIn, typedDegrees } from "./degrees";
import { formatOf, parserOf } from "./fieldText";
import { tellerOf, unitOf, laneKinds, residualLane } from "../pictures/lanes";

afterEach(() => tellIn("celsius"));

describe("degrees", () => {
  it("shifts a temperature and not a difference", () => {
    expect([degrees(100), degreesBy(100), degrees(-40, 1)]).toEqual(["100 °C", "100 °C", "−40.0 °C"]);
    tellIn("fahrenheit");
    expect([degrees(100), degreesBy(100), degrees(-40, 1), degree(0), degrees(null)]).toEqual([
      "212 °F",
      "180 °F",
      "−40.0 °F",
      "32",
      "—",
    ]);
  });

  it("keeps what was typed in °C, and shows it as it was typed", () => {
    tellIn("fahrenheit");
    for (const typed of ["68", "72.5", "-4", "212"]) {
      const read = parserOf("temperature", 100)(typed);
      expect(read).toHaveProperty("value");
      const kept = (read as { value: number }).value;
      expect(kept).toBeCloseTo(((Number(typed) - 32) * 5) / 9, 9);
      expect(formatOf("temperature", 100)(kept)).toBe(typed);
    }
    expect(parserOf("temperature", 100)("warm")).toHaveProperty("sentence");
    expect(parserOf("temperature", 100)("72 °F")).toEqual(parserOf("temperature", 100)("72"));
    tellIn("celsius");
    expect(typedDegrees(23.5)).toBe("23.5");
  });

  it("draws a scale with round numbers of its own", () => {
    expect(degreeTicks(22, 90).map((one) => one.label)).toEqual([40, 60, 80]);
    tellIn("fahrenheit");
    expect(degreeTicks(22, 90)).toEqual([80, 120, 160].map((label) => ({ label, c: celsiusOf(label) })));
  });

  it("turns lanes of temperatures and no others", () => {
    tellIn("fahrenheit");
    const chip = laneKinds.find((kind) => kind.id === "temperature")!;
    const clock = laneKinds.find((kind) => kind.id === "clock")!;
    expect([tellerOf(chip)(50), unitOf(chip)]).toEqual([122, "°F"]);
    expect([tellerOf(residualLane)(0.5), unitOf(residualLane)]).toEqual([0.9, "°F"]);
    expect([tellerOf(clock)(4200), unitOf(clock)]).toEqual([4.2, "GHz"]);
  });
});

describe("a page whose workshop has begun to read other degrees", () => {
  it("asks once for everything anew", () => {
    let asked = 0;
    others.came = () => asked++;
    tellFor({ temperatureUnit: "celsius" });
    const answer = (unit: string) =>
      void noticeDegrees.onResponse!({
        response: new Response(null, { headers: { "Remedos-Degrees": unit } }),
      } as unknown as Parameters<NonNullable<typeof noticeDegrees.onResponse>>[0]);
    answer("celsius");
    expect(asked).toBe(0);
    answer("fahrenheit");
    answer("fahrenheit");
    expect(asked).toBe(1);
    tellFor({ temperatureUnit: "fahrenheit" });
    answer("fahrenheit");
    expect(asked).toBe(1);
  });
});
