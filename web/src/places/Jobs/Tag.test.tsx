import { cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it } from "vitest";
import type { JobTag } from "../../api/client";
import { Tag } from "./Tag";

afterEach(cleanup);

const tag: JobTag = {
  id: "a",
  tag: "SL-0412",
  owner: null,
  machine: null,
  noticed: null,
  waitsFor: "test",
  headline: { lead: "Too hot:", claim: "at its limit", rest: ".", hot: true, beside: "" },
  nowTitle: "Record the before run",
  changedAt: new Date().toISOString(),
  staircase: null,
  limitC: null,
};
const show = (change: Partial<JobTag>) =>
  render(
    <MemoryRouter>
      <Tag tag={{ ...tag, ...change }} />
    </MemoryRouter>,
  );

describe("Tag", () => {
  it("leads to its job and says what it waits for and what comes next", () => {
    show({});
    const link = screen.getByRole("link");
    expect(link.getAttribute("href")).toBe("/jobs/a");
    expect(link.textContent).toContain("waits for a test");
    expect(link.textContent).toContain("Too hot: at its limit.");
    expect(link.textContent).toContain("Record the before run");
    expect(link.textContent).toContain("Owner and machine not noted yet");
  });

  it("asks nothing more of a machine that is gone", () => {
    show({ waitsFor: "done", owner: "Rope walk" });
    expect(screen.getByRole("link").textContent).not.toContain("Record the before run");
    expect(screen.getByText("Rope walk")).toBeTruthy();
  });
});
