import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { choiceOf, type RepairOption } from "../../api/options";
import { OptionCard } from "./OptionCard";

afterEach(cleanup);

const option = {
  id: "clean",
  title: "Clean fins and filters",
  whyNot: null,
  works: 0.72,
  temperatureC: { value: 71.2, low: 67, high: 75 },
  clockLossPercent: 0,
  noiseDba: null,
  quote: {
    lines: [{ what: "Labour, 30 min", netMinor: 2400 }],
    minutes: 30,
    netMinor: 2400,
    taxMinor: 480,
    totalMinor: 2880,
  },
  priceShare: 0.41,
  tooDear: true,
  days: 1,
  risk: "A fin bent.",
  undone: null,
  warranty: "It ends the warranty.",
  failurePoints: 1,
  lasts: "Months.",
  returns: false,
  says: "If it is that (80 %), the chip stands at 71 °C.",
  cooler: null,
} as unknown as RepairOption;

const money = (minor: number) => `€${minor / 100}`;
const show = (more: Partial<RepairOption> = {}, chosen = false) => {
  const onChoose = vi.fn();
  render(
    <ul>
      <OptionCard option={{ ...option, ...more }} advised chosen={chosen} nowC={92} money={money} onChoose={onChoose} />
    </ul>,
  );
  return onChoose;
};

it("says what an option does and asks, and what is not known is not nought", () => {
  show();
  const row = screen.getByRole("listitem").textContent!;
  expect(row).toContain("advised");
  expect(row).toContain("71\u00a0°C");
  expect(row).toContain("67 to 75");
  expect(row).toContain("not known");
  expect(row).toContain("€28.8");
  expect(row).toContain("41 % of the chip’s price");
});

it("opens to risk, warranty and what cannot be undone, and notes the choice with the quote that was seen", () => {
  const onChoose = show();
  fireEvent.click(screen.getByRole("button", { name: "All of it" }));
  const row = screen.getByRole("listitem").textContent!;
  for (const words of ["72\u00a0%", "about a day", "A fin bent.", "It ends the warranty.", "one part", "nothing"]) {
    expect(row).toContain(words);
  }
  fireEvent.click(screen.getByRole("button", { name: "The owner chose it" }));
  expect(onChoose).toHaveBeenCalledExactlyOnceWith(true);
  expect(choiceOf(option, "EUR")).toEqual({
    option: "clean",
    title: "Clean fins and filters",
    cooler: null,
    totalMinor: 2880,
    currency: "EUR",
    lines: option.quote.lines,
  });
});

it("takes a choice back", () => {
  const onChoose = show({}, true);
  fireEvent.click(screen.getByRole("button", { name: "Chosen ✓" }));
  expect(onChoose).toHaveBeenCalledExactlyOnceWith(false);
});
