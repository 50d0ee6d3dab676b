import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import type { JobCause } from "../api/diagnosis";
import { CauseLadder, surely } from "./CauseLadder";

afterEach(cleanup);

const cause = (title: string, probability: number, more: Partial<JobCause> = {}): JobCause => ({
  id: title,
  title,
  probability,
  warranty: null,
  repair: `cure of ${title}`,
  for: [],
  shared: [],
  against: [],
  ...more,
});

const causes = [
  cause("Paste dried out", 0.834, {
    for: [{ observed: "Paste print: dried.", because: "That is the thing itself." }],
    shared: [{ observed: "Rise at rest: high.", because: "It is hot at rest as well." }],
    against: [{ observed: "How it began: sudden.", because: null }],
  }),
  cause("Cooler badly seated", 0.12),
  cause("Room too hot", 0.05),
  cause("Pump stands", 0.003),
];

it("shows the first with its reasons, and few of the others", () => {
  render(<CauseLadder causes={causes} />);
  expect(screen.getByText("83 %")).toBeTruthy();
  expect(screen.getByText("cure of Paste dried out")).toBeTruthy();
  expect(screen.getByText("That is the thing itself.")).toBeTruthy();
  expect(screen.getByText("Against it")).toBeTruthy();
  expect(screen.getByText("Fits it, and others as well").nextSibling?.textContent).toContain("Rise at rest: high.");
  expect(screen.queryByText("Pump stands")).toBeNull();
});

it("answers why not, for any cause", () => {
  render(<CauseLadder causes={causes} />);
  fireEvent.click(screen.getByText("All 4 causes, and why not"));
  expect(screen.getByText("under 1 %")).toBeTruthy();
  fireEvent.click(screen.getByText("Pump stands"));
  expect(screen.getByText(/Nothing observed speaks for or against it/)).toBeTruthy();
  expect(screen.queryByText("That is the thing itself.")).toBeNull();
});

it("says in a word how sure it is", () => {
  expect([0.95, 0.8, 0.5, 0.2, 0.02].map(surely)).toEqual([
    "almost certain",
    "likely",
    "possible",
    "less likely",
    "unlikely",
  ]);
});
