import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../api/client";
import { useAutosave } from "./useAutosave";

const parse = (text: string) => (text === "bad" ? { sentence: "No." } : { value: text });
const mount = (save: (value: string, base: string) => Promise<unknown>, stored = "old") =>
  renderHook(
    (props: { stored: string }) =>
      useAutosave<string>({ stored: props.stored, format: (value) => value, parse, save, draftKey: "k" }),
    { initialProps: { stored } },
  );
const pass = (ms: number) => act(() => vi.advanceTimersByTimeAsync(ms));

describe("useAutosave", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    localStorage.clear();
  });
  afterEach(() => {
    cleanup();
    vi.useRealTimers();
  });

  it("saves a moment after the last letter, once, against what was there when typing began", async () => {
    const save = vi.fn(() => Promise.resolve());
    const field = mount(save);
    act(() => field.result.current.change("n"));
    act(() => field.result.current.change("new"));
    expect(save).not.toHaveBeenCalled();
    await pass(700);
    expect(save.mock.calls).toEqual([["new", "old"]]);
    expect(field.result.current.state.kind).toBe("saved");
    expect(localStorage.length).toBe(0);
  });

  it("keeps the text and tries again while the server is away", async () => {
    const save = vi.fn().mockRejectedValueOnce(new Problem(503, "Away.")).mockResolvedValue(undefined);
    const field = mount(save);
    act(() => field.result.current.change("new"));
    await pass(700);
    expect(field.result.current.state).toEqual({ kind: "unsaved", sentence: "Away." });
    expect(localStorage.getItem("draft:k")).toContain("new");
    await pass(3100);
    expect(field.result.current.state.kind).toBe("saved");
  });

  it("takes up a draft of an earlier visit", async () => {
    localStorage.setItem("draft:k", JSON.stringify({ text: "typed before", base: "old" }));
    const save = vi.fn(() => Promise.resolve());
    const field = mount(save);
    expect(field.result.current.text).toBe("typed before");
    await pass(10);
    expect(save.mock.calls).toEqual([["typed before", "old"]]);
  });

  it("shows a conflict and saves on top only when asked to", async () => {
    const save = vi
      .fn()
      .mockRejectedValueOnce(new Problem(409, "Changed.", { theirs: "other", by: "Ines" }))
      .mockResolvedValue(undefined);
    const field = mount(save);
    act(() => field.result.current.change("mine"));
    await pass(700);
    expect(field.result.current.state).toEqual({ kind: "conflict", theirs: "other", by: "Ines" });
    await pass(10_000);
    expect(save).toHaveBeenCalledTimes(1);
    act(() => field.result.current.keepMine("other"));
    await pass(10);
    expect(save.mock.calls[1]).toEqual(["mine", "other"]);
  });

  it("never sends what is wrong, and follows the server while nobody types", async () => {
    const save = vi.fn(() => Promise.resolve());
    const field = mount(save);
    field.rerender({ stored: "from elsewhere" });
    expect(field.result.current.text).toBe("from elsewhere");
    act(() => field.result.current.change("bad"));
    await pass(5000);
    expect(save).not.toHaveBeenCalled();
    expect(field.result.current.state).toEqual({ kind: "wrong", sentence: "No." });
  });
});
