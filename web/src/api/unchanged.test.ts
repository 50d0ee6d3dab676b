import { afterEach, expect, it, vi } from "vitest";
import { client } from "./client";

afterEach(() => vi.unstubAllGlobals());

const answer = (status: number, body: string | null, headers: Record<string, string> = {}) =>
  new Response(body, { status, headers: { "Content-Type": "application/json", ...headers } });

it("asks by the tag of the last answer, and takes “nothing has changed” for that answer", async () => {
  const asked: (string | null)[] = [];
  const answers = [
    answer(200, '[{"id":"1"}]', { ETag: '"a"', Link: '</api/jobs?after=1>; rel="next"' }),
    answer(304, null, { ETag: '"a"' }),
    answer(200, '[{"id":"2"}]', { ETag: '"b"' }),
    answer(304, null, { ETag: '"b"' }),
  ];
  vi.stubGlobal("fetch", (request: Request) => {
    asked.push(request.headers.get("If-None-Match"));
    return Promise.resolve(answers.shift());
  });
  const ids = async () => {
    const { data, response } = await client.GET("/api/jobs");
    return [data?.map((tag) => tag.id).join(), response.headers.get("Link") !== null];
  };
  expect(await ids()).toEqual(["1", true]);
  expect(await ids()).toEqual(["1", true]);
  expect(await ids()).toEqual(["2", false]);
  expect(await ids()).toEqual(["2", false]);
  expect(asked).toEqual([null, '"a"', '"a"', '"b"']);
});
