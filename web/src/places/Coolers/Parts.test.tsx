import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Part, PartField } from "../../api/parts";
import { PartFile } from "./PartFile";
import { PartForm } from "./PartForm";
import { PartsPlace, type Draft } from "./Parts";

const fields: PartField[] = [
  { name: "sizeMm", title: "Size", type: "number", unit: "mm", hint: null, choices: null, of: null, needed: true },
  {
    name: "headers",
    title: "Headers",
    type: "rows",
    unit: null,
    hint: null,
    choices: null,
    needed: false,
    of: [
      { name: "name", title: "Name", type: "text", unit: null, hint: null, choices: null, of: null, needed: true },
      {
        name: "steeredBy",
        title: "Follows",
        type: "choice",
        unit: null,
        hint: null,
        choices: ["cpu", "full"],
        of: null,
        needed: false,
      },
    ],
  },
];

const part = (name: string, more: Partial<Part> = {}): Part =>
  ({
    id: name,
    kind: "fan",
    name,
    values: {},
    cells: { sizeMm: "120" },
    retiredAt: null,
    version: 3,
    learnt: null,
    ...more,
  }) as Part;

/** Answers what a page asks, and keeps what it sent. */
let sent: { url: string; method: string; body: string }[];
let answers: (url: string, method: string) => { status?: number; body: unknown };
beforeEach(() => {
  sent = [];
  vi.stubGlobal("fetch", async (input: Request | string, init?: RequestInit) => {
    const request = typeof input === "string" ? new Request(new URL(input, "http://bench"), init) : input;
    const { pathname, search } = new URL(request.url);
    const body = await request.text();
    sent.push({ url: pathname + search, method: request.method, body });
    const answer = pathname === "/api/session" ? { body: { token: "t" } } : answers(pathname + search, request.method);
    return new Response(JSON.stringify(answer.body), {
      status: answer.status ?? 200,
      headers: { "Content-Type": "application/json" },
    });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const show = (node: ReactNode, at = "/coolers/parts?kind=fan") =>
  render(
    <QueryClientProvider client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}>
      <MemoryRouter initialEntries={[at]}>{node}</MemoryRouter>
    </QueryClientProvider>,
  );

const draft: Draft = {
  id: "a",
  kind: "board",
  name: "Quoin",
  cells: { sizeMm: "120", headers: "CPU:cpu; FAN" },
  version: 3,
};
const form = (onKept = vi.fn()) =>
  show(<PartForm draft={draft} fields={fields} learnt="Measured on this bench." onKept={onKept} onClose={vi.fn()} />);

describe("PartForm", () => {
  it("writes rows as the cells of a table", async () => {
    answers = () => ({ body: part("Quoin") });
    const onKept = vi.fn();
    form(onKept);
    expect(screen.getByText("Measured on this bench.")).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Save" }).disabled).toBe(true);
    fireEvent.change(screen.getAllByLabelText("Follows")[1]!, { target: { value: "full" } });
    // A separator typed into a cell would tear the row apart.
    fireEvent.change(screen.getAllByLabelText("Name")[2]!, { target: { value: "C:P;U" } });
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(onKept).toHaveBeenCalled());
    const put = sent.find((one) => one.method === "PUT")!;
    expect(put.url).toBe("/api/parts/a");
    expect(JSON.parse(put.body)).toEqual({
      kind: "board",
      name: "Quoin",
      cells: { sizeMm: "120", headers: "CPU:cpu; CPU:full" },
      version: 3,
    });
  });

  it("keeps what was typed when it is refused, and shows both when somebody else was quicker", async () => {
    answers = () => ({ status: 422, body: { detail: "sizeMm: “wide” is no number." } });
    form();
    fireEvent.change(screen.getByLabelText(/^Size, mm/), { target: { value: "wide" } });
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    expect((await screen.findByRole("alert")).textContent).toBe("sizeMm: “wide” is no number.");
    expect(screen.getByLabelText<HTMLInputElement>(/^Size, mm/).value).toBe("wide");

    answers = () => ({
      status: 409,
      body: { detail: "Changed elsewhere.", theirs: part("Quoin", { cells: { sizeMm: "140" }, version: 9 }) },
    });
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    await screen.findByText(/Size 140/);
    answers = () => ({ body: part("Quoin") });
    fireEvent.click(screen.getByRole("button", { name: "Keep mine" }));
    await waitFor(() =>
      expect(JSON.parse(sent.filter((one) => one.method === "PUT")[2]!.body)).toMatchObject({
        version: 9,
        cells: { sizeMm: "wide" },
      }),
    );
  });
});

describe("PartFile", () => {
  const take = async (text: string) =>
    fireEvent.change(screen.getByLabelText("A file of parts"), { target: { files: [new File([text], "fans.csv")] } });

  it("shows what a file would do, and takes it only when all of it can be", async () => {
    const lines = [{ line: 2, kind: "fan", name: "Lull", change: "new", sentences: [] }];
    answers = (url) => ({
      body: url.includes("apply=true")
        ? { applied: true, new: 1, changed: 0, same: 0, wrong: 0, lines }
        : { applied: false, new: 1, changed: 0, same: 4, wrong: 0, lines },
    });
    show(<PartFile />);
    await take("part,name");
    fireEvent.click(await screen.findByRole("button", { name: "Take all of it" }));
    await screen.findByText("Taken: 1 new, 0 changed");
    expect(sent.filter((one) => one.method === "POST").map((one) => one.url)).toEqual([
      "/api/parts/file?apply=false",
      "/api/parts/file?apply=true",
    ]);
  });

  it("takes nothing while a line is wrong, and says which", async () => {
    const wrong = { line: 3, kind: "fan", name: "", change: "wrong", sentences: ["name: a part has one."] };
    answers = () => ({ body: { applied: false, new: 0, changed: 0, same: 0, wrong: 1, lines: [wrong] } });
    show(<PartFile />);
    await take("part,name");
    expect((await screen.findByRole("listitem")).textContent).toContain("3 wrong fanname: a part has one.");
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Take all of it" }).disabled).toBe(true);
  });
});

describe("PartsPlace", () => {
  it("finds by name and value, hides what is retired, and says when nothing is found", async () => {
    const parts = [
      part("Lull 120"),
      part("Lull 140", { cells: { sizeMm: "140" } }),
      part("Gone 80", { retiredAt: "2026-01-01T00:00:00Z" }),
    ];
    answers = (url) => ({
      body:
        url === "/api/parts"
          ? parts
          : url === "/api/parts/fields"
            ? [{ kind: "fan", fields }]
            : { labourMinorPerHour: 4800, taxPercent: 20, weights: null },
    });
    show(<PartsPlace />);
    expect(await screen.findAllByRole("listitem")).toHaveLength(2);
    fireEvent.change(screen.getByLabelText("Search the parts"), { target: { value: "lull 140" } });
    await waitFor(() => expect(screen.getAllByRole("listitem")).toHaveLength(1));
    fireEvent.change(screen.getByLabelText("Search the parts"), { target: { value: "gone" } });
    await screen.findByText("None is found.");
    fireEvent.click(screen.getByLabelText("with those retired"));
    await screen.findByText(/retired/, { selector: "li span" });
    expect((await screen.findByLabelText<HTMLInputElement>("An hour’s work")).value).toBe("48.00");
  });
});
