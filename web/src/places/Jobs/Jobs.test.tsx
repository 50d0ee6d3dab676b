import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter, Route, Routes, useLocation } from "react-router";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { JobTag } from "../../api/client";
import { JobsPlace } from "./Jobs";

let answer: { data?: JobTag[]; error?: string } = {};
const asked = vi.fn();
vi.mock("../../api/jobs", () => ({
  useJobList: (search: string) => {
    asked(search);
    return {
      data: answer.data,
      isError: answer.error !== undefined,
      error: new Error(answer.error),
      isPlaceholderData: false,
      refetch: vi.fn(),
    };
  },
  useCreateJob: () => ({ mutate: vi.fn(), isPending: false, isError: false }),
}));

afterEach(cleanup);
beforeEach(() => {
  answer = {};
  asked.mockClear();
});

const tag = (number: number, waitsFor: JobTag["waitsFor"], owner: string | null, changedAt: string): JobTag => ({
  id: String(number),
  tag: `SL-${number}`,
  owner,
  machine: null,
  noticed: null,
  waitsFor,
  headline: { lead: "Hot", claim: "", rest: "", hot: false, beside: "" },
  nowTitle: "Look and listen",
  changedAt,
  staircase: null,
  limitC: null,
});

const three = [
  tag(1, "test", "Rope walk", "2026-03-01T10:00:00Z"),
  tag(2, "repair", null, "2026-03-03T10:00:00Z"),
  tag(3, "done", "Ice house", "2026-03-02T10:00:00Z"),
];

function Address() {
  return <p aria-label="address">{useLocation().search}</p>;
}

const show = (at = "/jobs") =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route
            path="/jobs"
            element={
              <>
                <JobsPlace />
                <Address />
              </>
            }
          />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );

const shown = () => screen.getAllByRole("link").flatMap((link) => /SL-\d/.exec(link.textContent) ?? []);

describe("JobsPlace", () => {
  it("says how many need a hand, and keeps the server's order", () => {
    answer = { data: three };
    show();
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("2 machines need a hand");
    expect(shown()).toEqual(["SL-1", "SL-2", "SL-3"]);
  });

  it("filters by what machines wait for, and stands in the address", () => {
    answer = { data: three };
    show();
    fireEvent.click(screen.getByRole("radio", { name: /^Repair 1/ }));
    expect(shown()).toEqual(["SL-2"]);
    expect(screen.getByLabelText("address").textContent).toBe("?waits=repair");
    fireEvent.click(screen.getByRole("radio", { name: "All 3" }));
    expect(shown()).toHaveLength(3);
  });

  it("orders by the last change or by owner, those without one last", () => {
    answer = { data: three };
    show();
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "changed" } });
    expect(shown()).toEqual(["SL-2", "SL-3", "SL-1"]);
    fireEvent.change(screen.getByRole("combobox"), { target: { value: "owner" } });
    expect(shown()).toEqual(["SL-3", "SL-1", "SL-2"]);
  });

  it("asks the server for what is typed, and takes a link's search over", () => {
    answer = { data: three };
    show("/jobs?search=ice");
    expect(screen.getByRole<HTMLInputElement>("searchbox").value).toBe("ice");
    expect(asked).toHaveBeenLastCalledWith("ice");
    fireEvent.change(screen.getByRole("searchbox"), { target: { value: "rope" } });
    expect(asked).toHaveBeenLastCalledWith("rope");
    expect(screen.getByLabelText("address").textContent).toBe("?search=rope");
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("3 machines found");
  });

  it("has an empty, a loading and a failing state", () => {
    show();
    expect(screen.getByRole("status").textContent).toContain("the jobs");
    cleanup();
    answer = { error: "The server does not answer." };
    show();
    expect(screen.getByText("The server does not answer.")).toBeTruthy();
    cleanup();
    answer = { data: [] };
    show();
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("No machine in the workshop");
    cleanup();
    show("/jobs?search=zebra");
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe("No machine found");
  });

  it("says when the list may be out of date", () => {
    answer = { data: three, error: "The server does not answer." };
    show();
    expect(screen.getByRole("alert").textContent).toBe("This list may be out of date: The server does not answer.");
    expect(shown()).toHaveLength(3);
  });
});
