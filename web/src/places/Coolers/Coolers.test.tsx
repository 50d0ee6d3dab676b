import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Candidate } from "../../api/coolers";
import { ticks, TradeOff, type Offer } from "../../pictures/TradeOff";
import { CandidateRow, detailsOf } from "./CandidateRow";
import { SideBySide } from "./SideBySide";

afterEach(cleanup);

const money = (minor: number) => `€${minor / 100}`;
const range = (value: number) => ({ value, low: value - 4, high: value + 4 });

const candidate = (more: Partial<Candidate> = {}): Candidate =>
  ({
    id: "tower",
    name: "Mullion 120",
    kind: "tower",
    fits: true,
    reasons: [],
    place: null,
    fanRaisedMm: 4,
    temperatureC: range(71.4),
    hottestRoomTemperatureC: range(79),
    throttles: false,
    throttlesInHottestRoom: false,
    fanRpm: 1154,
    noiseDba: 30.2,
    headroomW: 96,
    graphicsChangeC: -3.2,
    priceMinor: 4900,
    priceShare: 0.17,
    claimedW: 185,
    byClaimAlone: false,
    measured: false,
    failurePoints: 1,
    moreThanUseful: true,
    isCurrent: false,
    plugs: ["Fan on CPU."],
    rank: 1,
    why: "Holds 125 W at 71 °C.",
    nextBetter: { id: "big", gainsC: 6, minorPerC: 1500 },
    ...more,
  }) as Candidate;

describe("CandidateRow", () => {
  const row = (one: Candidate, open = false, act = vi.fn()) =>
    render(
      <CandidateRow
        one={one}
        money={money}
        limitC={95}
        open={open}
        onOpen={act}
        beside={false}
        onBeside={vi.fn()}
        mostSharePercent={15}
        today={null}
        taken={false}
      />,
    );

  it("says what costs more of the chip’s price than the workshop likes", () => {
    row(candidate());
    expect(screen.getByText("It costs 17 % of the chip’s price; the workshop’s limit is 15 %.")).toBeTruthy();
    cleanup();
    row(candidate({ priceShare: 0.12 }));
    expect(screen.queryByText(/the workshop’s limit/)).toBeNull();
  });

  it("shows what it does, and all of it when touched", () => {
    const act = vi.fn();
    row(candidate(), false, act);
    expect(screen.getByText(/Fan raised by 4 mm/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button"));
    expect(act).toHaveBeenCalledWith(true);
    cleanup();
    row(candidate(), true);
    expect(screen.getByText("71 °C, between 67 and 75")).toBeTruthy();
    expect(screen.getByText("3 °C cooler")).toBeTruthy();
    expect(screen.getByText("€49, 17 % of the chip’s")).toBeTruthy();
    expect(screen.getByText("€15 a degree, for 6 °C less")).toBeTruthy();
  });

  it("never shows a chip hotter than it lets itself become, and says what is in the way", () => {
    row(
      candidate({
        temperatureC: range(131),
        throttles: true,
        reasons: [{ code: "price", byMm: null, message: "Dear." }],
      }),
    );
    expect(screen.getByText("95")).toBeTruthy();
    expect(screen.getByText("Dear.")).toBeTruthy();
  });

  it("says plainly what is not known", () => {
    const words = Object.fromEntries(
      detailsOf(candidate({ priceMinor: null, graphicsChangeC: null, nextBetter: null, byClaimAlone: true }), money),
    );
    expect([words.Price, words["Graphics card"], words["A degree more"], words["Known from"]]).toEqual([
      "not known",
      "—",
      "—",
      "its maker’s claim alone of 185 W",
    ]);
  });
});

describe("SideBySide", () => {
  it("sets the same rows beside each other", () => {
    render(
      <SideBySide
        quotes={{}}
        today={null}
        limitC={95}
        candidates={[candidate(), candidate({ id: "big", name: "Ridge 2", headroomW: 140, isCurrent: true })]}
        money={money}
        onClose={vi.fn()}
      />,
    );
    const row = screen.getByRole("row", { name: /^Headroom/ });
    expect(row.textContent).toBe("Headroom96 W, more than the chip can use140 W, more than the chip can use");
    expect(screen.getByText("it is paid for")).toBeTruthy();
  });
});

describe("TradeOff", () => {
  const offer = (id: string, more: Partial<Offer> = {}): Offer => ({
    id,
    name: `Cooler ${id}`,
    priceMinor: 5000,
    temperatureC: 70,
    noiseDba: 30,
    onFront: false,
    isCurrent: false,
    ...more,
  });

  it("says in words what it shows, and leads to a cooler", () => {
    const choose = vi.fn();
    const { container } = render(
      <TradeOff
        offers={[offer("a", { onFront: true }), offer("b", { priceMinor: 9000, temperatureC: 140 })]}
        limitC={95}
        money={money}
        minor={100}
        onChoose={choose}
      />,
    );
    expect(screen.getByRole("img").getAttribute("aria-label")).toBe(
      "Price and temperature of 2 coolers that fit. Cooler a: €50, 70 °C, 30 dB(A).",
    );
    const rings = [...container.querySelectorAll("circle")];
    // The dearer stands further right, the hotter higher, and none outside of the picture.
    expect(Number(rings[1]!.getAttribute("cx"))).toBeGreaterThan(Number(rings[0]!.getAttribute("cx")));
    expect(Number(rings[1]!.getAttribute("cy"))).toBeLessThan(Number(rings[0]!.getAttribute("cy")));
    expect(Number(rings[1]!.getAttribute("cy"))).toBeGreaterThan(0);
    fireEvent.click(rings[1]!);
    expect(choose).toHaveBeenCalledWith("b");
  });

  it("marks round numbers", () => {
    expect(ticks(52, 96)).toEqual([60, 80]);
    expect(ticks(0, 130, 3)).toEqual([0, 50, 100]);
    expect(ticks(7, 7.4)).toEqual([7, 7.1, 7.2, 7.3, 7.4]);
  });
});
