import { afterEach, describe, expect, it, vi } from "vitest";
import { degrees } from "./degrees";
import { ago, clock, inMonths, keepUnits, megabytes, readClock, readNumber } from "./words";

describe("readNumber", () => {
  it.each([
    ["23,5", 23.5],
    ["23.5", 23.5],
    [" 95 ", 95],
    ["−4", -4],
    ["92 °C", 92],
    ["176 W", 176],
    [".5", 0.5],
  ])("reads %s", (text, value) => expect(readNumber(text)).toBe(value));

  it.each(["", "warm", "1.2.3", "1,234,5", "12 apples", "--3"])("refuses %s", (text) =>
    expect(readNumber(text)).toBeUndefined(),
  );
});

describe("readClock", () => {
  it.each([
    ["12:30", 750],
    ["-0:30", -30],
    ["−2:05", -125],
    ["1:02:03", 3723],
    ["7", 420],
    ["1,5", 90],
  ])("reads %s", (text, seconds) => expect(readClock(text)).toBe(seconds));

  it.each(["", "soon", "1:2:3:4", "12:345"])("refuses %s", (text) => expect(readClock(text)).toBeUndefined());

  it("reads back what clock writes", () => {
    for (const seconds of [0, 59, -61, 3600, 86399, -7322]) {
      expect(readClock(clock(seconds))).toBe(seconds);
    }
  });
});

describe("words", () => {
  it("writes a true minus and no number where there is none", () => {
    expect(degrees(-21.4)).toBe("−21 °C");
    expect(degrees(null)).toBe("—");
  });

  it("keeps a number and its unit together", () =>
    expect(keepUnits("holds 176 W at 82 °C, 3 Watts")).toBe("holds 176\u00a0W at 82\u00a0°C, 3 Watts"));

  it("counts months to the last day that there is", () => {
    expect(inMonths(6, new Date(2030, 7, 31))).toBe("2031-02-28");
    expect(inMonths(12, new Date(2030, 0, 15))).toBe("2031-01-15");
  });

  it("writes times of a run", () => {
    expect(clock(75)).toBe("1:15");
    expect(clock(-75)).toBe("−1:15");
    expect(clock(3725)).toBe("1:02:05");
    expect(clock(-0.2)).toBe("0:00");
  });

  it("tells sizes and ages in the coarsest unit that says it", () => {
    expect(megabytes(200)).toBe("1 kB");
    expect(megabytes(2_340_000)).toBe("2.3 MB");
    expect(megabytes(200_000_000)).toBe("200 MB");
    const now = Date.parse("2030-01-03T00:00:00Z");
    expect(ago("2030-01-02T23:59:40Z", now)).toBe("just now");
    expect(ago("2030-01-02T20:00:00Z", now)).toBe("4 h ago");
    expect(ago("2029-12-30T00:00:00Z", now)).toBe("4 days ago");
  });
});

describe("a date without a time", () => {
  const zone = process.env.TZ;
  afterEach(() => {
    process.env.TZ = zone;
    vi.resetModules();
  });

  it.each(["America/New_York", "UTC", "Pacific/Kiritimati", "Pacific/Pago_Pago"])(
    "is that day in %s",
    async (there) => {
      process.env.TZ = there;
      vi.resetModules();
      const words = await import("./words");
      expect(words.day("2026-11-27")).toBe("27 November 2026");
      expect(words.inMonths(6, new Date(2030, 7, 31, 23, 30))).toBe("2031-02-28");
      expect(words.inMonths(1, new Date(2030, 0, 1, 0, 30))).toBe("2030-02-01");
    },
  );
});
