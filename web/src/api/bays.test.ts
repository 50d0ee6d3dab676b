import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it, vi } from "vitest";
import { outline } from "../pictures/BayTrace";
import { baysKey, joined, latest, traceKey, withMeanwhile, type Bay, type BayTrace } from "./bays";
import { takeIn } from "./live";

const stretch = (fromSequence: number, temperatures: (number | null)[], more: BayTrace["channels"] = {}): BayTrace => ({
  fromSequence,
  seconds: temperatures.map((_, i) => fromSequence + i),
  channels: { "cpu-temperature": temperatures, ...more },
});

const bay = (number: number, more: Partial<Bay> = {}): Bay =>
  ({ id: `bay-${number}`, number, revision: 1, stream: "one", acknowledged: 0, run: null, ...more }) as Bay;

describe("joined", () => {
  it("puts what is new behind what is there, once", () => {
    const both = joined(stretch(1, [40, 41]), stretch(3, [42]))!;
    expect(both).toEqual(stretch(1, [40, 41, 42]));
    expect(joined(both, stretch(4, []))).toBe(both);
    expect(joined(both, stretch(2, [41, 42]))).toBe(both);
    expect(joined(both, stretch(3, [42, 43]))).toEqual(stretch(1, [40, 41, 42, 43]));
  });

  it("does not join where something is missing, and begins where nothing was", () => {
    expect(joined(stretch(1, [40]), stretch(7, [50, 51]))).toBeUndefined();
    expect(joined(stretch(1, []), stretch(7, [50]))).toEqual(stretch(7, [50]));
  });

  it("leaves a gap where a channel came or went", () => {
    const both = joined(stretch(1, [40]), stretch(2, [41], { "cpu-power": [90] }))!;
    expect(both.channels["cpu-power"]).toEqual([null, 90]);
  });

  it("forgets what is older than its picture", () => {
    const many = stretch(
      1,
      Array.from({ length: 1800 }, () => 40),
    );
    const both = joined(many, stretch(1801, [99, 98]))!;
    expect([both.fromSequence, both.seconds.length, both.channels["cpu-temperature"]!.at(-1)]).toEqual([3, 1800, 98]);
  });
});

describe("takeIn", () => {
  it("shows what is new without asking for it", () => {
    const cache = new QueryClient();
    cache.setQueryData(baysKey, [bay(1), bay(2)]);
    cache.setQueryData(traceKey("bay-2", "one"), stretch(1, [40, 41]));
    takeIn(cache, [
      { bay: bay(2, { acknowledged: 3 }), fresh: stretch(3, [42]) },
      { bay: bay(2, { acknowledged: 4 }), fresh: stretch(4, [43]) },
    ]);
    // Readings alone do not change what the card of a bay says.
    expect(cache.getQueryData<Bay[]>(baysKey)!.map((one) => one.acknowledged)).toEqual([0, 0]);
    takeIn(cache, [{ bay: bay(2, { acknowledged: 5, note: "The paste is dry." }), fresh: null }]);
    expect(cache.getQueryData<Bay[]>(baysKey)![1]).toMatchObject({ acknowledged: 5, note: "The paste is dry." });
    expect(cache.getQueryData(traceKey("bay-2", "one"))).toEqual(stretch(1, [40, 41, 42, 43]));
  });

  it("does not take an older word for a newer one, which other servers may bring late", () => {
    const cache = new QueryClient();
    cache.setQueryData(baysKey, [bay(1)]);
    takeIn(cache, [
      { bay: bay(1, { revision: 7, note: "newer" }), fresh: null },
      { bay: bay(1, { revision: 6, note: "older" }), fresh: null },
    ]);
    takeIn(cache, [{ bay: bay(1, { revision: 5, note: "older still" }), fresh: null }]);
    expect(cache.getQueryData<Bay[]>(baysKey)![0]).toMatchObject({ note: "newer" });
  });

  it("asks anew where news were missed or a bay is not known yet", () => {
    const cache = new QueryClient();
    const ask = vi.spyOn(cache, "invalidateQueries");
    cache.setQueryData(baysKey, [bay(1)]);
    cache.setQueryData(traceKey("bay-1", "one"), stretch(1, [40]));
    takeIn(cache, [{ bay: bay(1), fresh: stretch(9, [50]) }]);
    expect(ask).toHaveBeenCalledWith({ queryKey: traceKey("bay-1", "one") }, { cancelRefetch: false });
    takeIn(cache, [{ bay: bay(3), fresh: null }]);
    expect(ask).toHaveBeenLastCalledWith({ queryKey: baysKey }, { cancelRefetch: false });
  });
});

describe("a gap in a bay's readings", () => {
  it("is fetched once, however many news come meanwhile, and what came is joined to the answer", async () => {
    vi.useFakeTimers();
    const cache = new QueryClient();
    const key = traceKey("bay-1", "one");
    cache.setQueryData(baysKey, [bay(1)]);
    let asked = 0;
    let made = 1;
    const page = new QueryObserver(cache, {
      queryKey: key,
      staleTime: Infinity,
      structuralSharing: false,
      queryFn: async () => {
        asked++;
        const upTo = made;
        await new Promise((resolve) => setTimeout(resolve, 300));
        return withMeanwhile(
          key,
          stretch(
            1,
            Array.from({ length: upTo }, () => 40),
          ),
        );
      },
    }).subscribe(() => undefined);
    // A reading every 80 ms, and an answer takes 300; one message in the middle is lost.
    for (let i = 0; i < 125; i++) {
      await vi.advanceTimersByTimeAsync(80);
      made++;
      if (i !== 60) {
        takeIn(cache, [{ bay: bay(1), fresh: stretch(made, [41]) }]);
      }
    }
    await vi.advanceTimersByTimeAsync(400);
    page();
    vi.useRealTimers();
    expect(asked).toBe(2);
    expect(cache.getQueryData<BayTrace>(key)!.seconds).toHaveLength(made);
  });
});

describe("outline", () => {
  it("keeps the highest of each stretch and nothing where nothing was read", () => {
    const values = Array.from({ length: 3000 }, (_, i) => (i === 1234 ? 95 : 60));
    const points = outline(
      values.map((_, i) => i),
      values,
    );
    expect(points.length).toBeLessThanOrEqual(300);
    expect(Math.max(...points.map(([, value]) => value))).toBe(95);
    expect(outline([0, 1], [null, null])).toEqual([]);
  });
});

describe("latest", () => {
  it("is the last reading that is one", () => {
    expect(latest(stretch(1, [40, 41, null]), "cpu-temperature")).toBe(41);
    expect(latest(stretch(1, [null]), "cpu-temperature")).toBeUndefined();
    expect(latest(undefined, "cpu-temperature")).toBeUndefined();
  });
});
