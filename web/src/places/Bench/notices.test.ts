import { describe, expect, it } from "vitest";
import type { Bay } from "../../api/bays";
import { newWants, wantOf } from "./notices";

const bay = (number: number, stage: string | null, says = ""): Bay =>
  ({ id: `bay-${number}`, number, run: stage === null ? null : { stage, says, over: stage === "done" } }) as Bay;

describe("what a bay wants", () => {
  it("is a hand, or to be looked at when it stopped by itself", () => {
    expect(wantOf(bay(3, "hand", "Take the side panel off. Then go on."))).toBe(
      "Bay 3 waits: Take the side panel off. Then go on.",
    );
    expect(wantOf(bay(3, "stopped", "Stopped: 101 °C, above its limit of 95 °C."))).toContain("above its limit");
    expect(wantOf(bay(3, "stopped", "Stopped by hand."))).toBeUndefined();
    expect(wantOf(bay(3, "load"))).toBeUndefined();
    expect(wantOf(bay(3, null))).toBeUndefined();
  });

  it("is told once, when it comes", () => {
    const before = [bay(1, "idle"), bay(2, "load"), bay(3, "hand"), bay(4, "load")];
    const now = [bay(1, "hand"), bay(2, "done"), bay(3, "hand"), bay(4, "cool-down"), bay(5, "hand")];
    expect(newWants(before, now).map((one) => one.number)).toEqual([1, 2]);
    expect(newWants(now, now)).toEqual([]);
    expect(newWants(undefined, now)).toEqual([]);
  });
});
