import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, render, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { baysKey, traceKey, type Bay, type BayTrace } from "./bays";
import { useLiveBays, useWatched } from "./live";

/** A line to the server that tests cut and mend. */
const line = vi.hoisted(() => ({
  refuses: 0,
  starts: 0,
  stopped: false,
  hear: undefined as ((news: unknown) => void) | undefined,
  back: undefined as (() => void) | undefined,
  watched: [] as string[],
}));

vi.mock("@microsoft/signalr", () => ({
  LogLevel: { None: 6 },
  HttpTransportType: { WebSockets: 1 },
  HubConnectionState: { Connected: "Connected" },
  HubConnectionBuilder: class {
    withUrl() {
      return this;
    }
    configureLogging() {
      return this;
    }
    withAutomaticReconnect() {
      return this;
    }
    build() {
      return {
        on: (_: string, hear: (news: unknown) => void) => (line.hear = hear),
        state: "Connected",
        onreconnected: (back: () => void) => (line.back = back),
        invoke: (_: string, bays: string[]) => {
          line.watched = bays;
          return Promise.resolve();
        },
        start: () => {
          line.starts++;
          return line.refuses-- > 0 ? Promise.reject(new Error("away")) : Promise.resolve();
        },
        stop: () => {
          line.stopped = true;
          return Promise.resolve();
        },
      };
    }
  },
}));

beforeEach(() => {
  vi.useFakeTimers();
  Object.assign(line, { refuses: 0, starts: 0, stopped: false, hear: undefined, back: undefined, watched: [] });
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

function Follower() {
  useLiveBays();
  return null;
}

function follow() {
  const cache = new QueryClient();
  const anew = vi.spyOn(cache, "invalidateQueries");
  const page = render(
    <QueryClientProvider client={cache}>
      <Follower />
    </QueryClientProvider>,
  );
  return { cache, anew, page };
}

const wait = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds));

describe("useLiveBays", () => {
  it("tries again until the server is there, and then looks at everything anew", async () => {
    line.refuses = 2;
    const { anew } = follow();
    await wait(100);
    expect([line.starts, anew.mock.calls.length]).toEqual([1, 0]);
    await wait(5000);
    expect(line.starts).toBe(3);
    expect(anew.mock.calls.map(([query]) => query!.queryKey)).toEqual([baysKey, ["bay-trace"]]);
    await wait(20_000);
    expect(line.starts).toBe(3);
  });

  it("comes back after a break, and misses nothing", async () => {
    const { anew } = follow();
    await wait(100);
    anew.mockClear();
    await act(async () => line.back!());
    expect(anew.mock.calls.map(([query]) => query!.queryKey)).toContainEqual(["bay-trace"]);
  });

  it("asks for the readings of the bays that are on the page, and of no other", async () => {
    follow();
    await wait(100);
    const shown = renderHook((props: { ids: string[] }) => useWatched(props.ids), {
      initialProps: { ids: ["a", "b"] },
    });
    expect(line.watched).toEqual(["a", "b"]);
    shown.rerender({ ids: ["b"] });
    expect(line.watched).toEqual(["b"]);
    shown.unmount();
    expect(line.watched).toEqual([]);
  });

  it("takes in what it hears", async () => {
    const { cache } = follow();
    await wait(100);
    const bay = { id: "b", number: 1, revision: 1, stream: "one", acknowledged: 1, run: null } as unknown as Bay;
    const at = (fromSequence: number, value: number): BayTrace => ({
      fromSequence,
      seconds: [fromSequence],
      channels: { "cpu-temperature": [value] },
    });
    cache.setQueryData(baysKey, [bay]);
    cache.setQueryData(traceKey("b", "one"), at(1, 40));
    act(() => line.hear!([{ bay, fresh: at(2, 41) }]));
    expect(cache.getQueryData<BayTrace>(traceKey("b", "one"))!.channels["cpu-temperature"]).toEqual([40, 41]);
  });

  it("has the day planned anew when a bay is free or wants a hand, and not with each reading", async () => {
    const { cache, anew } = follow();
    await wait(100);
    const bay = (revision: number, stage: string) =>
      ({ id: "b", number: 1, revision, stream: "one", run: { jobId: "j", stage, says: "" } }) as unknown as Bay;
    cache.setQueryData(baysKey, [bay(1, "idle")]);
    const planned = () => anew.mock.calls.filter(([query]) => query!.queryKey![0] === "plan").length;
    act(() => line.hear!([{ bay: bay(2, "idle"), fresh: null }]));
    expect(planned()).toBe(0);
    act(() => line.hear!([{ bay: bay(3, "hand"), fresh: null }]));
    expect(planned()).toBe(1);
  });

  it("lets go when the page is closed, and does not come back", async () => {
    const { page } = follow();
    await wait(100);
    page.unmount();
    await wait(20_000);
    expect([line.stopped, line.starts]).toEqual([true, 1]);
  });
});
