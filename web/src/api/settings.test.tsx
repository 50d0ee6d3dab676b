import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useSaveSetting } from "./settings";

/** Saves that reached the server, answered when the test says so. */
let waiting: { url: string; answer: (status: number, body: unknown) => void }[];
let cache: QueryClient;
beforeEach(() => {
  waiting = [];
  cache = new QueryClient();
  vi.stubGlobal("fetch", async (input: Request | string) => {
    const { pathname } = new URL(typeof input === "string" ? new URL(input, "http://bench") : input.url);
    const reply = (status: number, body: unknown) =>
      new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
    return pathname === "/api/session"
      ? reply(200, { token: "t" })
      : new Promise<Response>((resolve) =>
          waiting.push({ url: pathname, answer: (status, body) => resolve(reply(status, body)) }),
        );
  });
});
afterEach(() => vi.unstubAllGlobals());

const within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={cache}>{children}</QueryClientProvider>
);

it("saves one setting after the other, also where one was refused, and keeps the last answer", async () => {
  const save = renderHook(() => useSaveSetting(), { wrapper: within }).result.current;
  const refused = save("name", "", "Bench").catch(() => "refused");
  const address = save("address", "Mill Lane 2", null);
  const tags = save("tagPrefix", "ML", "SL");
  await waitFor(() => expect(waiting).toHaveLength(1));
  waiting[0]!.answer(422, { title: "A workshop wants a name." });
  expect(await refused).toBe("refused");
  await waitFor(() => expect(waiting).toHaveLength(2));
  waiting[1]!.answer(200, { address: "Mill Lane 2", tagPrefix: "SL" });
  await address;
  await waitFor(() => expect(waiting).toHaveLength(3));
  waiting[2]!.answer(200, { address: "Mill Lane 2", tagPrefix: "ML" });
  await tags;
  expect(waiting.map(({ url }) => url)).toEqual(
    ["name", "address", "tagPrefix"].map((field) => `/api/settings/${field}`),
  );
  expect(cache.getQueryData(["settings"])).toEqual({ address: "Mill Lane 2", tagPrefix: "ML" });
});
