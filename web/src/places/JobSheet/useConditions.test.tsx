import { act, renderHook, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type JobSheet, type Run, type RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { forgetSavers } from "../../parts/saving";
import { useConditions } from "./useConditions";

const run = (version: number, conditions: RunConditions) => ({ id: "r", version, conditions }) as Run;

/** A server that holds one run, and refuses whoever has not seen its newest version. */
function serverWith(first: Run) {
  let now = first;
  return {
    now: () => now,
    /** Somebody else's change. */
    other: (change: RunConditions) => (now = run(now.version + 1, { ...now.conditions, ...change })),
    actions: {
      refresh: vi.fn(async () => ({ runs: [now] }) as unknown as JobSheet),
      setConditions: vi.fn(async (_: string, conditions: RunConditions, version: number) => {
        if (version !== now.version) {
          throw new Problem(409, "It was changed meanwhile.");
        }
        now = run(version + 1, conditions);
        return {} as JobSheet;
      }),
    } as unknown as JobActions,
  };
}

beforeEach(() => {
  forgetSavers();
  localStorage.clear();
});

describe("conditions that two people change", () => {
  const begun = run(1, { panel: "closed", ambientC: 22 });

  it.each([
    ["before the page has seen it", false],
    ["after the page has seen it", true],
  ])("keeps both where they changed different ones, %s", async (_, seen) => {
    const server = serverWith(begun);
    const { result, rerender } = renderHook(({ at }) => useConditions(at, server.actions), {
      initialProps: { at: begun },
    });
    act(() => result.current.saver.change((now) => ({ ...now, ambientC: 25 })));
    const theirs = server.other({ panel: "side-off" });
    if (seen) {
      rerender({ at: theirs });
    }
    await act(() => result.current.saver.flush());
    await waitFor(() => expect(server.now().conditions).toEqual({ panel: "side-off", ambientC: 25 }));
  });

  it("shows the other's beside one's own where both changed the same", async () => {
    const server = serverWith(begun);
    const { result, rerender } = renderHook(({ at }) => useConditions(at, server.actions), {
      initialProps: { at: begun },
    });
    act(() => result.current.saver.change((now) => ({ ...now, ambientC: 25 })));
    rerender({ at: server.other({ ambientC: 19 }) });
    await act(() => result.current.saver.flush());
    expect(result.current.state).toMatchObject({ kind: "conflict", theirs: { ambientC: 19 } });
    expect(server.now().conditions.ambientC).toBe(19);
    await act(async () => result.current.saver.keepMine());
    await waitFor(() => expect(server.now().conditions.ambientC).toBe(25));
  });

  it("is not in its own way when it is changed again at once", async () => {
    const server = serverWith(begun);
    const { result } = renderHook(() => useConditions(begun, server.actions));
    act(() => result.current.saver.change((now) => ({ ...now, panel: "side-off" })));
    await act(() => result.current.saver.flush());
    act(() => result.current.saver.change((now) => ({ ...now, ambientC: 25 })));
    await act(() => result.current.saver.flush());
    expect(server.now().conditions).toEqual({ panel: "side-off", ambientC: 25 });
    expect(result.current.state.kind).toBe("saved");
  });
});
