import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import type { PlanAnswer, PlanStep, StepMark } from "../../api/repair";
import { StepsAtBench } from "./StepsAtBench";

const step = (id: string, more: Partial<PlanStep> = {}) =>
  ({
    id,
    stage: "open",
    title: `Step ${id}`,
    how: "How it is done.",
    why: "Why it is done.",
    minutes: 2,
    hold: "none",
    ask: null,
    unit: null,
    least: null,
    most: null,
    outside: null,
    caution: null,
    drawing: null,
    tools: [],
    baseline: false,
    irreversible: false,
    undoneBy: null,
    makesSetup: false,
    screws: null,
    dots: null,
    ...more,
  }) as PlanStep;

const steps = [
  step("one"),
  step("pull", { hold: "list", ask: "Plugs that are out", undoneBy: "back" }),
  step("chip", {
    hold: "reading",
    ask: "Chip",
    unit: "°C",
    least: 5,
    most: 50,
    outside: "Switch off and look.",
  }),
  step("back", { hold: "ticks", ask: "Plugs that are back" }),
];

const planWith = (marks: Record<string, StepMark> = {}, lastEventId = 10) =>
  ({
    number: 1,
    lastEventId,
    begunAt: "2026-11-28T08:00:00Z",
    plan: { title: "Clean it", steps, minutes: 8, tools: [] },
    marks,
    by: { one: "Bram" },
    progress: { next: null, number: 1, count: 4, minutesLeft: 8, minutesTaken: 12.2, isDone: false, underHands: true },
    fromSetup: 1,
    madeSetup: 2,
  }) as unknown as PlanAnswer;

const job = { id: "job", fields: {}, photos: [] } as unknown as JobSheet;
const saveField = vi.fn<(field: string, value: unknown, base: unknown) => Promise<unknown>>();
let jobs = 0;

const show = (plan: PlanAnswer) => {
  const own = { ...job, id: `job-${++jobs}` };
  const drawn = (now: PlanAnswer) => (
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <StepsAtBench
          job={own}
          plan={now}
          actions={{ saveField } as unknown as JobActions}
          away={false}
          onAnother={() => undefined}
        />
      </MemoryRouter>
    </QueryClientProvider>
  );
  const page = render(drawn(plan));
  return { again: (now: PlanAnswer) => page.rerender(drawn(now)) };
};

const title = () => screen.getByRole("heading", { level: 1 }).textContent;
const soon = () => act(() => vi.advanceTimersByTimeAsync(50));
const done: StepMark = { state: "done", at: "2026-11-28T08:01:00Z" };

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  saveField.mockReset().mockResolvedValue({ lastEventId: 11 });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

describe("a step at the bench", () => {
  it.each([" ", "Enter", "PageDown"])("is ticked by the key %j and the next one fills the screen", async (key) => {
    show(planWith());
    await act(() => vi.advanceTimersByTimeAsync(42_000));
    fireEvent.keyDown(window, { key });
    await soon();
    expect(title()).toBe("Step pull");
    expect(saveField).toHaveBeenCalledExactlyOnceWith(
      "plan.1.one",
      expect.objectContaining({ state: "done", seconds: 42 }),
      null,
    );
  });

  it("waits at a hold point: no key passes a list, a reading or plugs that are still out", async () => {
    show(planWith({ one: done }));
    fireEvent.keyDown(window, { key: "PageDown" });
    expect(title()).toBe("Step pull");
    fireEvent.change(screen.getByLabelText("Plugs that are out"), { target: { value: "CPU fan\n\n pump " } });
    fireEvent.click(screen.getByRole("button", { name: "2 things, all listed" }));
    await soon();
    expect(saveField).toHaveBeenLastCalledWith(
      "plan.1.pull",
      expect.objectContaining({ lines: ["CPU fan", "pump"] }),
      null,
    );
    // Beyond what a seated cooler shows, it says what to do and cannot be ticked.
    fireEvent.change(screen.getByLabelText("Chip"), { target: { value: "78" } });
    expect(screen.getByRole("alert").textContent).toContain("Switch off and look.");
    expect(screen.getByRole("button", { name: "In range" })).toHaveProperty("disabled", true);
    fireEvent.change(screen.getByLabelText("Chip"), { target: { value: "41,5" } });
    fireEvent.click(screen.getByRole("button", { name: "In range" }));
    await soon();
    expect(saveField).toHaveBeenLastCalledWith("plan.1.chip", expect.objectContaining({ reading: 41.5 }), null);
    expect(screen.getByRole("button", { name: "2 still out" })).toHaveProperty("disabled", true);
    fireEvent.click(screen.getByLabelText("CPU fan"));
    fireEvent.click(screen.getByLabelText("pump"));
    fireEvent.click(screen.getByRole("button", { name: "All of them" }));
    await soon();
    expect(title()).toBe("All steps are done.");
  });

  it("goes on while the server is away, says what is not sent, and sends it later", async () => {
    saveField.mockRejectedValue(new Problem(0, "The server does not answer."));
    show(planWith({ pull: { ...done, lines: ["pump"] } }));
    fireEvent.keyDown(window, { key: "PageDown" });
    await soon();
    fireEvent.change(screen.getByLabelText("Chip"), { target: { value: "40" } });
    fireEvent.click(screen.getByRole("button", { name: "In range" }));
    await soon();
    expect(title()).toBe("Step back");
    expect(screen.getByRole("status").textContent).toContain("2 steps are kept on this device");
    expect(screen.getAllByLabelText("not sent yet")).toHaveLength(2);
    // What was ticked is kept in the browser: another start of the page finds it.
    expect(Object.keys(localStorage).some((key) => key.includes("plan.1.chip"))).toBe(true);
    saveField.mockResolvedValue({ lastEventId: 11 });
    await act(() => vi.advanceTimersByTimeAsync(4000));
    expect(screen.queryByRole("status")).toBeNull();
  });

  it("does not count a tick that the server refused, and says why", async () => {
    saveField.mockRejectedValue(new Problem(422, "No such run is on the sheet yet."));
    show(planWith());
    fireEvent.keyDown(window, { key: "PageDown" });
    await soon();
    expect(title()).toBe("Step one");
    expect(screen.getByRole("alert").textContent).toContain("No such run is on the sheet yet.");
  });

  it("takes the other hand's tick where both ticked the same step", async () => {
    saveField.mockRejectedValue(new Problem(409, "Changed elsewhere.", { theirs: done, by: "Bram" }));
    const { again } = show(planWith());
    fireEvent.keyDown(window, { key: "PageDown" });
    await soon();
    again(planWith({ one: done }));
    await soon();
    fireEvent.click(screen.getByRole("button", { name: /Step one/ }));
    expect(screen.getByText(/^Bram, /)).toBeTruthy();
    expect(saveField).toHaveBeenCalledTimes(1);
  });

  it("keeps a tick over an answer from before it, and gives it up to a newer one", async () => {
    saveField.mockResolvedValue({ lastEventId: 12 });
    const { again } = show(planWith());
    fireEvent.keyDown(window, { key: "PageDown" });
    await soon();
    again(planWith({ chip: done }, 11));
    await soon();
    expect(title()).toBe("Step pull");
    again(planWith({ one: done, chip: done }, 12));
    again(planWith({ chip: done }, 13));
    await soon();
    expect(title()).toBe("Step one");
  });

  it("is skipped only with a reason", async () => {
    show(planWith());
    fireEvent.click(screen.getByRole("button", { name: "Skip it …" }));
    fireEvent.click(screen.getByRole("button", { name: "Was done before" }));
    await soon();
    expect(saveField).toHaveBeenCalledExactlyOnceWith(
      "plan.1.one",
      expect.objectContaining({ state: "skipped", text: "Was done before" }),
      null,
    );
    expect(screen.getByLabelText("skipped")).toBeTruthy();
  });
});
