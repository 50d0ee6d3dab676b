import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { AirLook, AirPlan, AirSheet } from "../api/air";
import { CaseCutaway } from "./CaseCutaway";
import { cutaway, placeAt } from "./cutaway";
import { movePoint, SteeringCurve } from "./SteeringCurve";

afterEach(cleanup);

const sheet = {
  build: {
    processor: { name: "Corbel", socket: "Q4", sustainedPowerW: 150, temperatureLimitC: 95 },
    case: { heightMm: 460, depthMm: 440, widthMm: 210, maxCardLengthMm: 360 },
    graphics: { lengthMm: 305, powerW: 220 },
    board: { firstSlotFromSocketMm: 62, memoryFromSocketMm: 50 },
    roomC: 22,
  },
  cooler: { kind: "liquid", radiatorSizeMm: 240, radiatorThicknessMm: 52 },
  places: [
    { place: "front", sizesMm: [120], count: 2 },
    { place: "top", sizesMm: [120], count: 2 },
    { place: "rear", sizesMm: [120], count: 1 },
  ],
} as unknown as AirSheet;

const plan = {
  fans: [
    { id: "a", place: "rear", inward: false, sizeMm: 120, maxRpm: 1200 },
    { id: "b", place: "top", inward: false, sizeMm: 120, maxRpm: 1200 },
    { id: "c", place: "top", inward: false, sizeMm: 120, maxRpm: 1200 },
  ],
  cooler: { place: "front", inward: true },
  headers: [],
  panelOff: false,
  filter: "clean",
} as unknown as AirPlan;

const look = {
  air: {
    casePa: 1,
    pressure: "more-in",
    caseAirC: 38,
    processorC: 71,
    cardC: 70,
    openingInflowsM3PerH: [-4, 0.2],
    fans: [
      { id: "radiator", rpm: 1300, percent: 70, inflowM3PerH: 90, overcome: false },
      { id: "a", rpm: 900, percent: 75, inflowM3PerH: -50, overcome: false },
      { id: "b", rpm: 900, percent: 75, inflowM3PerH: -20, overcome: false },
      { id: "c", rpm: 900, percent: 75, inflowM3PerH: -16, overcome: false },
    ],
  },
  findings: [{ code: "fan-size", subject: "b", byMm: null, message: "too large" }],
  clearances: [{ id: "card-front", freeMm: -12, message: "card 12 mm too long" }],
  headers: [],
} as unknown as AirLook;

describe("cutaway", () => {
  it("hangs everything inside its wall, to scale and side by side", () => {
    const picture = cutaway(sheet, plan, look);
    const of = (id: string) => picture.hung.find((one) => one.id === id)!;
    expect([of("radiator").width, of("radiator").height]).toEqual([52, 240]);
    expect(of("a").x + of("a").width).toBeLessThan(picture.depth);
    // The second fan on top stands before the first, and they do not touch.
    expect(of("c").x + of("c").width).toBeLessThan(of("b").x);
    expect(of("b").wrong).toBe(true);
    expect(picture.hung.every((one) => one.x >= 0 && one.y >= 0 && one.y + one.height <= picture.tall)).toBe(true);
  });

  it("draws air the way it goes, and none where hardly any goes", () => {
    const { draughts } = cutaway(sheet, plan, look);
    const of = (id: string) => draughts.find((one) => one.id === id);
    expect(of("radiator")).toMatchObject({ dx: 1, inward: true, flowM3PerH: 90 });
    expect(of("a")).toMatchObject({ dx: 1, inward: false, flowM3PerH: 50 });
    expect(of("gaps")).toBeUndefined();
  });

  it("lies down when the case is flat", () => {
    const flat = { ...sheet, build: { ...sheet.build, case: { ...sheet.build.case, heightMm: 95, widthMm: 300 } } };
    const picture = cutaway(flat as AirSheet, plan, look);
    expect([picture.flat, picture.tall]).toEqual([true, 300]);
    expect(picture.hung.find((one) => one.id === "b")!.facing).toBe(true);
  });

  it("finds the wall under a hand", () => {
    const { zones, depth, tall } = cutaway(sheet, plan, look);
    expect(placeAt(zones, 10, tall / 2)).toBe("front");
    expect(placeAt(zones, depth / 2, 5)).toBe("top");
    expect(placeAt(zones, depth / 2, tall / 2)).toBeUndefined();
  });

  it("says in words what it shows, and what is chosen by the keyboard", () => {
    const onChoose = vi.fn();
    render(<CaseCutaway sheet={sheet} plan={plan} look={look} onChoose={onChoose} onMove={vi.fn()} />);
    expect(screen.getByRole("group").getAttribute("aria-label")).toContain("radiator 90 m³/h in");
    expect(screen.getByText("card 12 mm too long").getAttribute("class")).toContain("fill-amber");
    const rear = screen.getByRole("button", { name: /^Rear fan, blows out, 50 m³\/h at 900 rpm/ });
    fireEvent.keyDown(rear, { key: "Enter" });
    expect(onChoose).toHaveBeenCalledWith("a");
    expect(screen.getAllByRole("button", { name: /does not go there/ })).toHaveLength(1);
  });
});

describe("SteeringCurve", () => {
  const points = [
    { c: 40, percent: 30 },
    { c: 60, percent: 50 },
    { c: 80, percent: 100 },
  ];

  it("keeps points in order however they are pulled", () => {
    expect(movePoint(points, 1, { c: 20, percent: 10 })[1]).toEqual({ c: 41, percent: 30 });
    expect(movePoint(points, 1, { c: 99, percent: 120 })[1]).toEqual({ c: 79, percent: 100 });
    expect(movePoint(points, 2, { c: 300, percent: 70.4 })[2]).toEqual({ c: 120, percent: 70 });
  });

  it("is moved with the arrow keys, and loses a point with Delete", () => {
    const onChange = vi.fn();
    render(<SteeringCurve points={points} nowC={55} onChange={onChange} />);
    const second = screen.getByRole("slider", { name: "Point 2" });
    expect(second.getAttribute("aria-valuetext")).toBe("60 °C, 50 %");
    fireEvent.keyDown(second, { key: "ArrowUp" });
    expect(onChange).toHaveBeenLastCalledWith([points[0], { c: 60, percent: 51 }, points[2]]);
    fireEvent.keyDown(second, { key: "Delete" });
    expect(onChange).toHaveBeenLastCalledWith([points[0], points[2]]);
  });
});
