import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { HeatStaircase, type Staircase } from "./HeatStaircase";
import { layout } from "./staircase";

const step = (id: Staircase["steps"][number]["id"], title: string, fromC: number, riseC: number, swollen = false) => ({
  id,
  title,
  fromC,
  riseC,
  resistanceCPerW: riseC / 100,
  halfWidthC: 2,
  expectedC: 12,
  expectedHalfWidthC: 2,
  swollen,
});
const stairs = (chip: number, swollen = false): Staircase => ({
  roomC: 20,
  chipC: 20 + 24 + 14 + chip,
  powerW: 100,
  steps: [
    step("bulk", "fins to room", 20, 24),
    step("cooler", "base to fins", 44, 14),
    step("chip", "chip to base", 58, chip, swollen),
  ],
  sentence: "",
});
const place = (now: Staircase, before: Staircase | null, limitC: number | null = 95) =>
  layout({ now, before, limitC, width: 760, height: 320, small: false });

describe("layout", () => {
  it("makes each step as wide as its resistance and as tall as its degrees, on one scale for both sides", () => {
    const { now, before } = place(stairs(20), stairs(40));
    const all = [...now.steps, ...before!.steps];
    const perDegree = all[0]!.height / 24;
    const perResistance = all[0]!.width / 0.24;
    for (const drawn of all) {
      expect(drawn.height).toBeCloseTo(drawn.riseC * perDegree, 6);
      expect(drawn.width).toBeCloseTo((drawn.riseC / 100) * perResistance, 6);
    }
  });

  it("stands each step on the one before it, up to the chip", () => {
    const { now, roomY } = place(stairs(20), null);
    expect(now.steps[0]!.y + now.steps[0]!.height).toBeCloseTo(roomY, 6);
    for (let i = 1; i < now.steps.length; i++) {
      expect(now.steps[i]!.x).toBeCloseTo(now.steps[i - 1]!.x + now.steps[i - 1]!.width, 6);
      expect(now.steps[i]!.y + now.steps[i]!.height).toBeCloseTo(now.steps[i - 1]!.y, 6);
    }
    expect(now.top.y).toBeCloseTo(now.steps[2]!.y, 6);
  });

  it("keeps everything inside the picture, at any width and with a limit far above", () => {
    for (const width of [300, 500, 1100]) {
      const picture = layout({ now: stairs(20), before: stairs(60), limitC: 130, width, height: 260, small: false });
      expect(picture.before!.top.x).toBeLessThanOrEqual(picture.right);
      expect(picture.limitY).toBeGreaterThan(0);
      expect(picture.now.steps.every((one) => one.y >= 0 && one.y + one.height <= 260)).toBe(true);
    }
  });
});

describe("HeatStaircase", () => {
  afterEach(cleanup);

  it("says the same in words", () => {
    render(<HeatStaircase now={stairs(37, true)} before={stairs(45)} limitC={98} />);
    expect(
      screen.getByRole("img", {
        name: "From the room at 20 °C to the chip at 95 °C: fins to room 24 °C; base to fins 14 °C; chip to base 37 °C, swollen. Limit 98 °C. Before: 103 °C.",
      }),
    ).toBeTruthy();
    expect(screen.getByText("chip to base ◂ stuck")).toBeTruthy();
    expect(screen.getAllByText("expected 12")).toHaveLength(3);
  });

  it("says in one tap from what the expected state is known, and what to note", () => {
    const expected = {
      chipC: 73,
      halfWidthC: 4,
      at: "at this run’s own watts",
      byParts: true,
      sources: ["Mullion 120, measured here", "Lintel L45"],
      missing: ["which case it is, and its fans"],
    };
    render(<HeatStaircase now={{ ...stairs(20), expected }} limitC={95} />);
    const line = screen.getByRole("button", { name: /Expected of this machine, sound: 73 °C ± 4/ });
    expect(screen.queryByText(/Mullion 120/)).toBeNull();
    fireEvent.click(line);
    expect(screen.getByText(/At this run’s own watts; from Mullion 120, measured here; Lintel L45/)).toBeTruthy();
    expect(screen.getByText(/Note which case it is, and its fans/)).toBeTruthy();
  });

  it("names the headroom only where there is some", () => {
    const { unmount } = render(<HeatStaircase now={stairs(20)} limitC={95} />);
    expect(screen.getByText("17 °C headroom")).toBeTruthy();
    unmount();
    render(<HeatStaircase now={stairs(36)} limitC={95} />);
    expect(screen.queryByText(/headroom/)).toBeNull();
  });

  it("is steps alone on a tag", () => {
    const { container } = render(<HeatStaircase now={stairs(20)} limitC={95} small />);
    expect(container.querySelectorAll("text")).toHaveLength(0);
    expect(container.querySelectorAll("rect")).toHaveLength(3);
  });
});
