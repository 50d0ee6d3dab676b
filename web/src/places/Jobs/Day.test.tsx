import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { rankAt, type Block, type DayPlan, type MachineOfPlan } from "../../api/planning";
import { hours } from "../../pictures/DayLanes";
import { DayPlace } from "./Day";

let plan: DayPlan;
let rights: "lead" | "reader" = "lead";
const set = vi.fn(() => Promise.resolve());
const changeDay = vi.fn(() => Promise.resolve());
vi.mock("../../api/planning", async (original) => ({
  ...(await original<typeof import("../../api/planning")>()),
  useDayPlan: () => ({ data: plan, isError: false }),
  usePlanActions: () => ({ set, changeDay }),
}));
vi.mock("../../api/session", () => ({ useMe: () => ({ id: "ines", name: "Ines", rights }) }));

const at = (hour: string) => new Date(`2031-04-02T${hour}:00`).toISOString();
const block = (tag: string, hand: string | null, from: string, to: string, more: Partial<Block> = {}): Block => ({
  job: tag,
  tag,
  kind: "repair",
  title: `Work on ${tag}`,
  handsMinutes: 30,
  aloneMinutes: 0,
  hand,
  bay: null,
  from: at(from),
  handsTo: at(to),
  to: at(to),
  goes: false,
  waits: false,
  ...more,
});
const machine = (tag: string, more: Partial<MachineOfPlan> = {}): MachineOfPlan => ({
  job: tag,
  tag,
  owner: "Rope walk",
  machine: null,
  next: "Repair it",
  readyAt: at("11:00"),
  early: at("10:50"),
  late: at("11:20"),
  promisedAt: null,
  isReady: false,
  isLate: false,
  why: null,
  given: null,
  handledBy: null,
  rank: null,
  ...more,
});

beforeEach(() => {
  rights = "lead";
  set.mockClear();
  changeDay.mockClear();
  plan = {
    at: at("09:00"),
    today: "2031-04-02",
    problem: null,
    stands: "Judged.",
    hands: [
      { person: "ines", name: "Ines", here: true },
      { person: "odhran", name: "Odhran", here: true },
    ],
    bays: [1],
    days: [
      {
        day: "2031-04-02",
        from: at("09:00"),
        to: at("17:30"),
        opens: "09:00:00",
        closes: "17:30:00",
        usual: true,
        away: [],
        baysOut: [],
      },
      { day: "2031-04-03", from: null, to: null, opens: null, closes: null, usual: true, away: [], baysOut: [] },
    ],
    blocks: [
      block("SL-1", "ines", "09:00", "09:30"),
      block("SL-2", "odhran", "09:00", "09:05", { bay: 1, aloneMinutes: 25, to: at("09:30") }),
      block("SL-3", "ines", "09:30", "10:00"),
    ],
    machines: [
      machine("SL-3", { rank: 1 }),
      machine("SL-1", { promisedAt: at("10:00"), isLate: true, why: "The bays are taken." }),
      machine("SL-2"),
      machine("SL-4", { readyAt: null, early: null, late: null, why: "It waits for its owner’s answer." }),
      machine("SL-5", { readyAt: null, early: null, late: null, isReady: true }),
    ],
  };
});
afterEach(cleanup);

const show = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <DayPlace />
      </MemoryRouter>
    </QueryClientProvider>,
  );

describe("DayPlace", () => {
  it("says what to touch now, what follows, and what the others do", () => {
    show();
    const now = screen.getByRole("region", { name: "What comes first" });
    expect(now.textContent).toContain("Now: Work on SL-1");
    expect(now.textContent).toContain("Then 09:30: SL-3");
    expect(now.textContent).toContain("Odhran now: SL-2");
  });

  it("lists machines by what becomes of them, with an interval, and says why one is late", () => {
    show();
    const list = screen.getByRole("region", { name: "When machines will be ready" });
    expect(list.textContent).toMatch(
      /First, as you put them.*SL-3.*Then.*SL-1.*Not planned.*SL-4.*can have them.*SL-5/s,
    );
    expect(list.textContent).toContain("Ready 11:00 (10:50 to 11:20)");
    expect(list.textContent).toContain("Promised for 10:00. The bays are taken.");
  });

  it("puts a machine first, lets one go, and gives one to somebody", () => {
    show();
    fireEvent.click(screen.getAllByRole("button", { name: "Put first" })[0]!);
    expect(set).toHaveBeenLastCalledWith(expect.objectContaining({ tag: "SL-1" }), "planRank", 0);
    fireEvent.click(screen.getByRole("button", { name: "No hurry" }));
    expect(set).toHaveBeenLastCalledWith(expect.objectContaining({ tag: "SL-3" }), "planRank", null);
    fireEvent.change(screen.getByLabelText("Who works on SL-2"), { target: { value: "odhran" } });
    expect(set).toHaveBeenLastCalledWith(expect.objectContaining({ tag: "SL-2" }), "handledBy", "odhran");
  });

  it("takes a hand and a bay out of the day, and changes its hours", () => {
    show();
    fireEvent.click(within(screen.getByRole("group", { name: "Hands" })).getByRole("button", { name: "Odhran" }));
    expect(changeDay).toHaveBeenLastCalledWith("2031-04-02", { person: { id: "odhran", here: false } });
    fireEvent.click(screen.getByRole("button", { name: "Bay 1" }));
    expect(changeDay).toHaveBeenLastCalledWith("2031-04-02", { bay: { number: 1, used: false } });
    fireEvent.change(screen.getByLabelText("Open to"), { target: { value: "12:00" } });
    fireEvent.click(screen.getByRole("button", { name: "Open then" }));
    expect(changeDay).toHaveBeenLastCalledWith("2031-04-02", {
      hours: { closed: false, from: "09:00:00", to: "12:00:00" },
    });
  });

  it("draws a lane for each hand and bay, and says when a day is closed", () => {
    show();
    expect(screen.getByRole("group", { name: /09:00 Ines: SL-1, Work on SL-1; 09:00 Odhran: SL-2/ })).toBeTruthy();
    fireEvent.click(screen.getByRole("radio", { name: /3 Apr/ }));
    expect(screen.getByText("Closed on this day.")).toBeTruthy();
  });

  it("offers whoever looks on nothing to press", () => {
    rights = "reader";
    show();
    expect(screen.queryByRole("button", { name: "Put first" })).toBeNull();
    expect(screen.queryByRole("button", { name: /^Move/ })).toBeNull();
  });

  it("says what is missing where there can be no plan", () => {
    plan = { ...plan, problem: "Say first when the workshop is open.", blocks: [] };
    show();
    expect(screen.getByRole("status").textContent).toContain("Say first when the workshop is open.");
    expect(screen.getByRole("link", { name: "Opening hours" })).toBeTruthy();
  });
});

describe("a place among those that were put first", () => {
  const ranks = (...all: number[]) => all.map((rank) => ({ rank }));

  it("lies between its neighbours, before the first or behind the last", () => {
    expect(rankAt([], 0)).toBe(0);
    expect(rankAt(ranks(5, 7), 0)).toBe(4);
    expect(rankAt(ranks(5, 7), 1)).toBe(6);
    expect(rankAt(ranks(5, 7), 2)).toBe(8);
  });
});

describe("hours on the lanes", () => {
  it("are whole, within the day, and as many as there is room for", () => {
    const day = [new Date("2031-04-02T09:15").getTime(), new Date("2031-04-02T17:30").getTime()] as const;
    expect(hours(...day, 1200).map((one) => new Date(one).getHours())).toEqual([10, 11, 12, 13, 14, 15, 16, 17]);
    expect(hours(...day, 340).length).toBeLessThan(5);
  });
});
