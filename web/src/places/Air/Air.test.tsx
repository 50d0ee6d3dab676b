import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, renderHook, screen } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { AirLook, AirPlan, AirSheet } from "../../api/air";
import { AddFan } from "./AddFan";
import { Chosen } from "./Chosen";
import { Headers } from "./Headers";
import { fanNames, sourcesOf } from "./airWords";
import { usePlan } from "./usePlan";

const start = {
  fans: [
    {
      id: "fan-1",
      place: "front",
      inward: true,
      sizeMm: 120,
      maxRpm: 1200,
      noiseAtMaxDba: null,
      currentA: 0.2,
      header: "CASE",
    },
    {
      id: "fan-2",
      place: "rear",
      inward: false,
      sizeMm: 120,
      maxRpm: 1200,
      noiseAtMaxDba: null,
      currentA: null,
      header: "CASE",
    },
  ],
  cooler: { place: null, inward: false, fanHeader: "CPU", pumpHeader: null, model: null },
  headers: [
    { name: "CPU", maxCurrentA: 1, steering: { source: "cpu", points: [{ c: 40, percent: 30 }], rampSeconds: 8 } },
    { name: "CASE", maxCurrentA: 1, steering: null },
  ],
  panelOff: false,
  filter: "clean",
} as unknown as AirPlan;

const sheet = {
  build: { processor: { sustainedPowerW: 65, temperatureLimitC: 95 }, graphics: null, case: {} },
  cooler: { kind: "tower", fans: [{}] },
  places: [
    { place: "front", sizesMm: [120, 140], count: 2 },
    { place: "rear", sizesMm: [120], count: 1 },
  ],
  start,
  kept: null,
  unknown: [],
  curves: {},
} as unknown as AirSheet;

const look = {
  air: { fans: [{ id: "fan-2", rpm: 700, percent: 60, inflowM3PerH: 12, overcome: true }] },
  findings: [],
  clearances: [],
  headers: [
    {
      name: "CPU",
      loads: ["cooler"],
      currentA: 0.2,
      maxCurrentA: 1,
      splitter: false,
      overloaded: false,
      sentences: [],
    },
    {
      name: "CASE",
      loads: ["fan-1", "fan-2"],
      currentA: null,
      maxCurrentA: 1,
      splitter: true,
      overloaded: false,
      sentences: ["Read on the label what the rear fan draws."],
    },
  ],
} as unknown as AirLook;

let answer: () => Response;
let sent: unknown[];
beforeEach(() => {
  sent = [];
  answer = () => new Response("{}", { headers: { "Content-Type": "application/json" } });
  vi.stubGlobal("fetch", async (input: Request | string) => {
    const request = typeof input === "string" ? new Request(new URL(input, "http://bench")) : input;
    if (request.method !== "PATCH") {
      return new Response('{"token":"t"}', { headers: { "Content-Type": "application/json" } });
    }
    sent.push(await request.json());
    return answer();
  });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
);

describe("usePlan", () => {
  const open = { ...start, panelOff: true };
  const dusty = { ...start, filter: "dusty" };

  it("keeps the last of several quick changes once, and undoes step by step", async () => {
    vi.useFakeTimers();
    const { result } = renderHook(() => usePlan("job", sheet), { wrapper: within });
    expect([result.current.isStart, result.current.canUndo]).toEqual([true, false]);
    act(() => result.current.change(open));
    act(() => result.current.change(dusty));
    expect(result.current.keeping.kind).toBe("waiting");
    await act(() => vi.advanceTimersByTimeAsync(1000));
    expect(sent).toEqual([{ value: dusty, base: null }]);
    expect(result.current.keeping.kind).toBe("saved");
    act(() => result.current.undo());
    expect(result.current.plan.panelOff).toBe(true);
    act(() => result.current.undo());
    expect([result.current.isStart, result.current.canUndo]).toEqual([true, false]);
    act(() => result.current.reset());
    await act(() => vi.advanceTimersByTimeAsync(1000));
    // Back at the start nothing is kept, on top of what was.
    expect(sent.at(-1)).toEqual({ value: null, base: dusty });
  });

  it("takes a drag for one step", () => {
    const { result } = renderHook(() => usePlan(null, sheet), { wrapper: within });
    act(() => result.current.change(open));
    act(() => result.current.change({ ...open, filter: "none" }, true));
    act(() => result.current.undo());
    expect(result.current.isStart).toBe(true);
    expect(sent).toEqual([]);
  });

  it("shows somebody else's plan beside one's own, and saves on top of it only when told to", async () => {
    vi.useFakeTimers();
    answer = () =>
      new Response(JSON.stringify({ detail: "Changed.", theirs: dusty }), {
        status: 409,
        headers: { "Content-Type": "application/json" },
      });
    const { result } = renderHook(() => usePlan("job", sheet), { wrapper: within });
    act(() => result.current.change(open));
    await act(() => vi.advanceTimersByTimeAsync(1000));
    expect(result.current.keeping).toEqual({ kind: "conflict", theirs: dusty, by: null });
    expect(result.current.plan).toEqual(open);
    answer = () => new Response("{}", { headers: { "Content-Type": "application/json" } });
    await act(async () => result.current.keepMine());
    expect(sent.at(-1)).toEqual({ value: open, base: dusty });
  });

  it("saves when the page is left in the middle of a pause", async () => {
    const { result, unmount } = renderHook(() => usePlan("job", sheet), { wrapper: within });
    act(() => result.current.change(open));
    unmount();
    await vi.waitFor(() => expect(sent).toHaveLength(1));
  });
});

describe("what is chosen", () => {
  it("is turned, moved with the direction its place has, and taken out", () => {
    const onChange = vi.fn();
    const onGone = vi.fn();
    render(<Chosen id="fan-2" sheet={sheet} plan={start} look={look} onChange={onChange} onGone={onGone} />, {
      wrapper: within,
    });
    expect(screen.getByText(/against its own direction/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: /^Turn it round/ }));
    expect((onChange.mock.lastCall![0] as AirPlan).fans[1]).toMatchObject({ id: "fan-2", inward: true });
    fireEvent.click(screen.getByRole("radio", { name: "front" }));
    expect((onChange.mock.lastCall![0] as AirPlan).fans[1]).toMatchObject({ place: "front", inward: true });
    fireEvent.click(screen.getByRole("button", { name: "Take it out" }));
    expect((onChange.mock.lastCall![0] as AirPlan).fans).toHaveLength(1);
    expect(onGone).toHaveBeenCalled();
  });

  it("is added where there is room, and said when there is none", () => {
    const onAdd = vi.fn();
    const { rerender } = render(<AddFan sheet={sheet} plan={start} onAdd={onAdd} />);
    fireEvent.click(screen.getByRole("button", { name: "A fan at the front" }));
    const [plan, id] = onAdd.mock.lastCall as [AirPlan, string];
    expect([id, plan.fans.at(-1)]).toMatchObject(["fan-3", { place: "front", inward: true, header: "CASE" }]);
    rerender(<AddFan sheet={sheet} plan={plan} onAdd={onAdd} />);
    expect(screen.getByText("Every place has its fan.")).toBeTruthy();
  });
});

describe("headers", () => {
  it("say what hangs on them and let it be plugged elsewhere", () => {
    const onChange = vi.fn();
    render(<Headers sheet={sheet} plan={start} look={look} onChange={onChange} />);
    expect(screen.getByText("? of 1.0 A")).toBeTruthy();
    expect(screen.getByText(/Front fan, Rear fan by a splitter; always full/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText("Cooler’s fans"), { target: { value: "CASE" } });
    expect((onChange.mock.lastCall![0] as AirPlan).cooler).toMatchObject({ fanHeader: "CASE" });
    fireEvent.change(screen.getByLabelText("Rear fan"), { target: { value: "" } });
    expect((onChange.mock.lastCall![0] as AirPlan).fans[1]).toMatchObject({ header: null });
  });

  it("names fans by their place and numbers them, and offers only sources that are there", () => {
    const twice = { ...start, fans: [start.fans[0]!, { ...start.fans[1]!, place: "front" }] };
    expect([...fanNames(twice).values()].slice(0, 2)).toEqual(["Front fan 1", "Front fan 2"]);
    expect(sourcesOf(sheet).map(([id]) => id)).toEqual(["cpu", "board"]);
  });
});
