import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Bay, BayActions } from "../../api/bays";
import { Problem, type JobTag } from "../../api/client";
import { BayHeading } from "./BayFigures";
import { ReadByHand } from "./ReadByHand";
import { RunControls } from "./RunControls";
import { StartRun } from "./StartRun";

const choices = {
  variants: [
    {
      id: "usual",
      title: "As the owner uses it",
      why: "The run that everything is held against.",
      byHand: null,
      needs: null,
    },
    {
      id: "panel-off",
      title: "Side panel off",
      why: "Does the case starve it?",
      byHand: "Take the side panel off.",
      needs: "panel",
    },
    {
      id: "by-hand",
      title: "The owner’s own load",
      why: "What the owner does.",
      byHand: "Start the owner’s program.",
      needs: null,
    },
  ],
  loads: [{ id: "all-core", title: "All cores", why: "Steady and hot." }],
};

const bay = (more: object = {}): Bay =>
  ({
    id: "b1",
    number: 1,
    online: true,
    run: null,
    sender: { obeys: [], simulated: false, machine: null, missing: [] },
    ...more,
  }) as unknown as Bay;

const jobs = [{ id: "j1", tag: "SL-0412", owner: "Boat builder", machine: null }] as unknown as JobTag[];

const within = (node: ReactNode, at = "/bench/1") => {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  vi.stubGlobal("fetch", async (request: Request | string) =>
    String(request instanceof Request ? request.url : request).includes("/api/jobs/")
      ? new Response("{}", { status: 404 })
      : new Response(JSON.stringify(choices), { headers: { "Content-Type": "application/json" } }),
  );
  return render(
    <QueryClientProvider client={queries}>
      <MemoryRouter initialEntries={[at]}>{node}</MemoryRouter>
    </QueryClientProvider>,
  );
};

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe("a bay's head", () => {
  it.each([
    [{ stage: "load", over: false }, "full load, 2 more"],
    [{ stage: "stopped", over: true }, "stopped"],
  ])("says of a run %o that follows others: %s", (run, words) => {
    within(
      <BayHeading bay={bay({ run: { held: false, following: 2, jobId: "j1", ...run } })} jobs={jobs}>
        Bay 1
      </BayHeading>,
    );
    expect(screen.getByText(words)).toBeTruthy();
  });
});

describe("StartRun", () => {
  it("wants a machine before it starts, says why each way is run, and what a hand has to do", async () => {
    const onStart = vi.fn();
    within(<StartRun bay={bay()} jobs={jobs} onStart={onStart} onCancel={vi.fn()} />);
    await screen.findByText("The run that everything is held against.");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Start" }).disabled).toBe(true);
    fireEvent.change(screen.getByLabelText("Whose machine"), { target: { value: "j1" } });
    fireEvent.change(screen.getByLabelText(/^How it is run/), { target: { value: "panel-off" } });
    expect(screen.getByText("Take the side panel off.")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("How long"), { target: { value: "10" } });
    fireEvent.change(screen.getByLabelText("How often"), { target: { value: "2" } });
    fireEvent.click(screen.getByRole("button", { name: "Start" }));
    expect(onStart).toHaveBeenCalledWith({
      jobId: "j1",
      mountId: undefined,
      remount: false,
      variant: "panel-off",
      work: "all-core",
      times: 2,
      loadSeconds: 600,
    });
  });

  it("leaves to the machine what it does by itself, and takes what was asked for from the address", async () => {
    const obeying = bay({ sender: { obeys: ["panel"], simulated: true, machine: null, missing: [] } });
    within(
      <StartRun bay={obeying} jobs={jobs} onStart={vi.fn()} onCancel={vi.fn()} />,
      "/bench/1?job=j1&variant=panel-off",
    );
    await screen.findByText(/This machine does it by itself/);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Start" }).disabled).toBe(false);
    // The owner's own load has no kind of load to choose.
    fireEvent.change(screen.getByLabelText(/^How it is run/), { target: { value: "by-hand" } });
    expect(screen.queryByLabelText(/^Load/)).toBeNull();
  });
});

describe("RunControls", () => {
  const actions = (more: object = {}) =>
    ({
      stop: vi.fn(async () => undefined),
      hold: vi.fn(async () => undefined),
      goOn: vi.fn(async () => undefined),
      again: vi.fn(async () => undefined),
      ...more,
    }) as unknown as BayActions;
  const shown = (one: Bay, with_: BayActions) =>
    within(<RunControls bay={one} jobs={jobs} actions={with_} starting={false} onStarting={vi.fn()} all />);

  it("offers a start only where something is connected", () => {
    shown(bay({ online: false }), actions());
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Start a run" }).disabled).toBe(true);
  });

  it("asks for the hand that a run waits for, and for nothing else then", () => {
    const own = actions();
    shown(bay({ run: { stage: "hand", held: false, over: false } }), own);
    fireEvent.click(screen.getByRole("button", { name: "Done, go on" }));
    expect(own.goOn).toHaveBeenCalledWith("b1");
    expect(screen.queryByRole("button", { name: "Hold it here" })).toBeNull();
  });

  it("tells why something was refused", async () => {
    shown(
      bay({ run: { stage: "load", held: false, over: false } }),
      actions({ stop: () => Promise.reject(new Problem(409, "It has ended already.")) }),
    );
    fireEvent.click(screen.getByRole("button", { name: "Stop the run" }));
    expect((await screen.findByRole("alert")).textContent).toBe("It has ended already.");
  });
});

describe("ReadByHand", () => {
  it("takes a comma, leaves out what was not read, and keeps what is no number", async () => {
    const readByHand = vi.fn(async () => undefined);
    within(<ReadByHand bay={bay()} actions={{ readByHand } as unknown as BayActions} />);
    fireEvent.change(screen.getByLabelText("Room, °C"), { target: { value: "warm" } });
    fireEvent.click(screen.getByRole("button", { name: "Keep" }));
    expect(screen.getByText("“warm” is no number. Comma and point are both fine.")).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>("Room, °C").value).toBe("warm");
    fireEvent.change(screen.getByLabelText("Room, °C"), { target: { value: "23,5" } });
    fireEvent.click(screen.getByRole("button", { name: "Keep" }));
    await waitFor(() =>
      expect(readByHand).toHaveBeenCalledWith("b1", { roomC: 23.5, tubeOutC: null, tubeReturnC: null, soundDba: null }),
    );
    await screen.findByText("Kept with the run.");
  });
});
