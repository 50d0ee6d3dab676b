import { act, renderHook } from "@testing-library/react";
import { expect, it } from "vitest";
import { noticeBuild, useOlderThanServer } from "./build";

const heard = (build: string | null) =>
  noticeBuild.onResponse!({
    response: new Response("{}", { headers: build ? { "Remedos-Build": build } : {} }),
  } as never);

it("a page is older once an answer comes from another build than its first", () => {
  const { result } = renderHook(useOlderThanServer);
  act(() => void heard("one"));
  act(() => void heard(null));
  act(() => void heard("one"));
  expect(result.current).toBe(false);
  act(() => void heard("two"));
  expect(result.current).toBe(true);
});
