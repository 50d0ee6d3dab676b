import { cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, expect, it } from "vitest";
import { Ways, type Decision } from "./Ways";

afterEach(cleanup);

const money = (minor: number) => `€${(minor / 100).toFixed(0)}`;
const quote = (totalMinor: number) => ({
  lines: [
    { what: "Mullion 120", netMinor: 4500 },
    { what: "Labour, 45 min", netMinor: 3600 },
  ],
  minutes: 45,
  netMinor: 8100,
  taxMinor: 1620,
  totalMinor,
});
const decision = {
  advised: "repair",
  sentence: "Repair it first.",
  ways: [
    {
      id: "repair",
      title: "Repair it",
      expectedMinor: 5100,
      minutes: 38,
      clockLossPercent: 0,
      sentence: "It fixes it with 77 %.",
      quote: null,
      steps: [{ id: "clean", title: "Clean", probability: 0.85, quote: quote(2880) }],
    },
    {
      id: "cooler",
      title: "Fit Mullion 120",
      expectedMinor: 9720,
      minutes: 45,
      clockLossPercent: 0,
      sentence: "Holds.",
      quote: quote(9720),
      steps: [],
    },
    {
      id: "leave",
      title: "Leave it",
      expectedMinor: 0,
      minutes: 0,
      clockLossPercent: 11.4,
      sentence: "It goes on.",
      quote: null,
      steps: [],
    },
  ],
} as unknown as Decision;

it("prices each way and marks the advised one; with a job it leads to where it is decided", () => {
  render(
    <MemoryRouter>
      <Ways decision={decision} money={money} jobId="j1" />
    </MemoryRouter>,
  );
  expect(screen.getByRole("heading", { name: /^Repair it/ }).textContent).toContain("advised");
  expect(screen.getByText("Clean, 85 %, €29")).toBeTruthy();
  expect(screen.getByText(/nothing to pay, 11 % of the clock lost/)).toBeTruthy();
  expect(screen.getByText("Tax").nextSibling?.textContent).toBe("€16");
  expect(screen.getByRole("link", { name: "All options side by side" }).getAttribute("href")).toBe("/jobs/j1/decide");
});
