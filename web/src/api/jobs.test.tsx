import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { RunConditions } from "./client";
import { useJobActions } from "./jobs";

/** A server whose answers come when the test lets them. */
let waiting: { url: string; method: string; body: unknown; answer: (body: unknown) => void }[];
let cache: QueryClient;
beforeEach(() => {
  waiting = [];
  cache = new QueryClient();
  vi.stubGlobal("fetch", async (input: Request | string) => {
    const request = typeof input === "string" ? new Request(new URL(input, "http://bench")) : input;
    const { pathname } = new URL(request.url);
    const reply = (body: unknown) =>
      new Response(JSON.stringify(body), { headers: { "Content-Type": "application/json" } });
    if (pathname === "/api/session") {
      return reply({ token: "t" });
    }
    const sent: unknown = await request.json().catch(() => undefined);
    return new Promise<Response>((resolve) =>
      waiting.push({ url: pathname, method: request.method, body: sent, answer: (body) => resolve(reply(body)) }),
    );
  });
});
afterEach(() => vi.unstubAllGlobals());

const within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={cache}>{children}</QueryClientProvider>
);
const sheet = (eventId: number) => ({ id: "j", lastEventId: eventId, lastChange: { eventId } });
const kept = () => cache.getQueryData<ReturnType<typeof sheet>>(["job", "j"])?.lastChange.eventId;

describe("useJobActions", () => {
  it("never covers a newer sheet with an older answer", async () => {
    const { result } = renderHook(() => useJobActions("j"), { wrapper: within });
    const first = result.current.saveField("owner", "A", null);
    const second = result.current.saveField("machine", "B", null);
    await waitFor(() => expect(waiting).toHaveLength(2));
    waiting[1]!.answer(sheet(2));
    await second;
    waiting[0]!.answer(sheet(1));
    await first;
    expect(kept()).toBe(2);
  });

  it("undoes the change that is still on its way, not the one before", async () => {
    cache.setQueryData(["job", "j"], sheet(7));
    const { result } = renderHook(() => useJobActions("j"), { wrapper: within });
    const save = result.current.saveField("owner", "A", null);
    const undone = result.current.lastChange().then((last) => result.current.turn(last!.eventId));
    await waitFor(() => expect(waiting).toHaveLength(1));
    waiting[0]!.answer(sheet(8));
    await save;
    await waitFor(() => expect(waiting).toHaveLength(2));
    expect([waiting[1]!.method, waiting[1]!.url]).toEqual(["POST", "/api/jobs/j/undo/8"]);
    waiting[1]!.answer(sheet(9));
    await undone;
    expect(kept()).toBe(9);
  });

  it("says what a column is on top of conditions that are still on their way", async () => {
    const ofRun = (eventId: number, version: number) => ({ ...sheet(eventId), runs: [{ id: "r", version }] });
    cache.setQueryData(["job", "j"], ofRun(7, 1));
    const { result } = renderHook(() => useJobActions("j"), { wrapper: within });
    const conditions = result.current.setConditions("r", {} as RunConditions, 1);
    const role = result.current.setRole("r", 3, "case-fan-speed", 1);
    await waitFor(() => expect(waiting).toHaveLength(1));
    waiting[0]!.answer(ofRun(8, 2));
    await conditions;
    await waitFor(() => expect(waiting).toHaveLength(2));
    expect([waiting[1]!.url, waiting[1]!.body]).toEqual([
      "/api/runs/r/columns/3/role",
      { role: "case-fan-speed", version: 2 },
    ]);
    waiting[1]!.answer(ofRun(9, 3));
    await role;
    expect(kept()).toBe(9);
  });
});
