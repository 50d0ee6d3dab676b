import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
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
      sentence: "First: Clean (85 %).",
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

it("prices each way, marks the advised one, and notes what the owner chose", () => {
  const onChoose = vi.fn();
  render(<Ways decision={decision} money={money} chosen="leave" onChoose={onChoose} />);
  expect(screen.getByRole("heading", { name: /^Repair it/ }).textContent).toContain("advised");
  expect(screen.getByText("Clean, 85 %, €29")).toBeTruthy();
  expect(screen.getByText(/nothing to pay, 11 % of the clock given up/)).toBeTruthy();
  expect(screen.getByText("Tax").nextSibling?.textContent).toBe("€16");
  fireEvent.click(screen.getByRole("button", { name: /^Chosen by the owner/ }));
  expect(onChoose).toHaveBeenLastCalledWith(null);
  fireEvent.click(screen.getAllByRole("button", { name: "The owner chose this" })[0]!);
  expect(onChoose).toHaveBeenLastCalledWith("repair");
});

it("only shows where there is no job to note it on", () => {
  render(<Ways decision={decision} money={money} chosen={null} />);
  expect(screen.queryByRole("button")).toBeNull();
});
