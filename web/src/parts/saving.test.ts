import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../api/client";
import { draftsAreOf, forgetSavers, hold, keptDrafts, readDraft, Saver, saverOf, type Saving } from "./saving";
import { touch } from "./touch";

const text = (save: Saving<string, string | null>["save"]): Saving<string, string | null> => ({
  format: (value) => value ?? "",
  parse: (draft) => (draft === "bad" ? { sentence: "No." } : { value: draft === "" ? null : draft }),
  save,
});
const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  forgetSavers();
});
afterEach(() => vi.useRealTimers());

describe("a saver", () => {
  it("saves a moment after the last letter, once, against what was there when typing began", async () => {
    const save = vi.fn(() => Promise.resolve());
    const saver = new Saver("k", "old", text(save));
    saver.change("n");
    saver.change("new");
    expect(save).not.toHaveBeenCalled();
    await pass(700);
    expect(save.mock.calls).toEqual([["new", "old"]]);
    expect(saver.snapshot()).toMatchObject({ dirty: false, state: { kind: "saved" } });
    expect(keptDrafts()).toEqual([]);
  });

  it("keeps a draft that was begun on an empty field on that, whatever stands there by now", async () => {
    localStorage.setItem("draft::k", JSON.stringify({ draft: "mine", base: null }));
    const save = vi.fn(() => Promise.reject(new Problem(409, "Changed.", { theirs: "theirs", by: "Ines" })));
    const saver = new Saver<string, string | null>("k", "theirs", text(save));
    await pass(10);
    expect(save).toHaveBeenCalledWith("mine", null);
    expect(saver.snapshot()).toMatchObject({
      draft: "mine",
      state: { kind: "conflict", theirs: "theirs", by: "Ines" },
    });
  });

  it("sends nobody's draft in another's name", async () => {
    const save = vi.fn(() => Promise.reject(new Problem(0, "away")));
    const place = { workshopId: "w", temperatureUnit: "celsius" };
    draftsAreOf({ ...place, id: "ines" });
    new Saver("k", "old", text(save)).change("hers", true);
    await pass(10);
    draftsAreOf({ ...place, id: "bram" });
    expect(keptDrafts()).toEqual([]);
    expect(new Saver("k", "old", text(save)).snapshot()).toMatchObject({ draft: "old", dirty: false });
    draftsAreOf({ ...place, id: "ines" });
    expect(new Saver("k", "old", text(save)).snapshot()).toMatchObject({ draft: "hers", dirty: true });
    draftsAreOf({ ...place, id: "ines", temperatureUnit: "fahrenheit" });
    expect(keptDrafts(), "what was typed in °C is not read in °F").toEqual([]);
  });

  it("sends one at a time, each on top of the one before", async () => {
    const answers: (() => void)[] = [];
    const save = vi.fn(() => new Promise<void>((resolve) => answers.push(resolve)));
    const saver = new Saver("k", "a", text(save));
    saver.change("b", true);
    await pass(1);
    saver.change("c", true);
    saver.change("d", true);
    await pass(5000);
    expect(save.mock.calls).toEqual([["b", "a"]]);
    answers[0]!();
    await pass(700);
    expect(save.mock.calls).toEqual([
      ["b", "a"],
      ["d", "b"],
    ]);
  });

  it("tries again while the server or a proxy before it is away, and says so", async () => {
    const save = vi.fn().mockRejectedValueOnce(new Problem(504, "Away.")).mockResolvedValue(undefined);
    const saver = new Saver("k", "old", text(save));
    saver.change("new");
    await pass(700);
    expect(saver.snapshot().state).toEqual({ kind: "unsaved", sentence: "Away." });
    expect(readDraft("k")).toEqual({ draft: "new", base: "old" });
    await pass(3100);
    expect(saver.snapshot().state.kind).toBe("saved");
  });

  it("keeps what is wrong as it was typed, and says why", async () => {
    const save = vi.fn();
    const saver = new Saver("k", "old", text(save));
    saver.change("bad");
    await pass(700);
    expect(saver.snapshot()).toMatchObject({ draft: "bad", state: { kind: "wrong", sentence: "No." } });
    expect(save).not.toHaveBeenCalled();
  });

  it("is one however often its field stands on the page, and is let go once nobody shows it", async () => {
    const saving = text(() => Promise.resolve());
    const saver = saverOf("k", "a", saving);
    expect(saverOf("k", "a", saving)).toBe(saver);
    const [one, other] = [hold(saver), hold(saver)];
    one();
    await pass(1);
    expect(saverOf("k", "a", saving)).toBe(saver);
    other();
    await pass(1);
    expect(saverOf("k", "a", saving)).not.toBe(saver);
  });
});

describe("a touch", () => {
  it("stands on the touch before it, though the server has not answered that", async () => {
    const stored: { now: string[] } = { now: [] };
    const save = vi.fn(async (value: string[], base: string[]) => {
      await new Promise((resolve) => setTimeout(resolve, 300));
      if (JSON.stringify(base) !== JSON.stringify(stored.now)) {
        throw new Problem(409, "Changed.", { theirs: stored.now });
      }
      stored.now = value;
    });
    const add = (cause: string) => touch("causes", stored.now, (now) => [...now, cause], save);
    const both = Promise.all([add("dust"), add("paste")]);
    await pass(2000);
    expect(await both).toEqual([undefined, undefined]);
    expect(stored.now).toEqual(["dust", "paste"]);
  });
});

/** A small generator of numbers, so that a failing run can be run again. */
function dice(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state * 1664525 + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/**
 * One person types, a colleague changes the same field, the server answers late, refuses, is away, and the page is loaded anew, in any order. Whatever happens: one save
 * at a time, nothing of the colleague's is overwritten unseen, and the last thing typed is on the server or still on the page.
 */
describe("whatever happens in whatever order", () => {
  it("nothing typed is lost and nothing unseen overwritten", { timeout: 60_000 }, async () => {
    for (let seed = 1; seed <= 300; seed++) {
      localStorage.clear();
      const roll = dice(seed);
      const server = { value: "0" as string | null, away: false };
      const seen = new Set<string | null>(["0"]);
      let inFlight = 0;
      let typed: string | undefined;
      let given = 0;
      const save = async (value: string | null, base: string | null) => {
        inFlight++;
        expect(inFlight).toBe(1);
        // Only on top of what this person has had before his eyes.
        expect(seen.has(base)).toBe(true);
        await new Promise((resolve) => setTimeout(resolve, roll(900)));
        inFlight--;
        if (server.away) {
          throw new Problem(503, "Away.");
        }
        if (base !== server.value) {
          throw new Problem(409, "Changed.", { theirs: server.value });
        }
        server.value = value;
        seen.add(value);
      };
      let saver = new Saver<string, string | null>("k", server.value, text(save));
      for (let step = 0; step < 40; step++) {
        switch (roll(8)) {
          case 0:
          case 1:
            typed = `mine ${step}`;
            saver.change(typed, roll(2) === 0);
            expect(readDraft("k")?.draft).toBe(typed);
            break;
          case 2:
            server.value = `theirs ${given++}`;
            break;
          case 3:
            // The page hears of what the server holds; it shows it only where nothing is being typed.
            saver.arrived(server.value);
            if (!saver.snapshot().dirty && saver.idle) {
              seen.add(server.value);
            }
            break;
          case 4:
            server.away = roll(2) === 0;
            break;
          case 5:
            if (inFlight === 0) {
              // Loaded anew: what was not saved is in the storage.
              vi.clearAllTimers();
              saver = new Saver<string, string | null>("k", server.value, text(save));
              if (!saver.snapshot().dirty) {
                seen.add(server.value);
              }
            }
            break;
          case 6: {
            const { state } = saver.snapshot();
            if (state.kind === "conflict") {
              seen.add(state.theirs as string | null);
              if (roll(2) === 0) {
                saver.keepMine();
              } else {
                typed = undefined;
                saver.takeTheirs();
              }
            }
            break;
          }
          default:
            await pass(roll(2500));
        }
      }
      server.away = false;
      await pass(20_000);
      const { draft, state } = saver.snapshot();
      if (typed !== undefined) {
        expect(draft === typed || !saver.snapshot().dirty).toBe(true);
        expect(state.kind === "conflict" || server.value === typed || server.value?.startsWith("theirs")).toBe(true);
        if (saver.snapshot().dirty) {
          expect([state.kind, readDraft("k")?.draft]).toEqual(["conflict", typed]);
        }
      }
      expect(inFlight).toBe(0);
    }
  });
});
