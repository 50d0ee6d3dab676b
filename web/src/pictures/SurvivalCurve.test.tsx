import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { stairs, SurvivalCurve } from "./SurvivalCurve";

describe("stairs", () => {
  it("keeps its height until the next step, and to the end", () => {
    expect(
      stairs(
        [
          { at: 10, value: 0.8 },
          { at: 20, value: 0.5 },
        ],
        1,
        30,
      ),
    ).toEqual([
      [0, 1],
      [10, 1],
      [10, 0.8],
      [20, 0.8],
      [20, 0.5],
      [30, 0.5],
    ]);
  });
});

describe("SurvivalCurve", () => {
  it("says in words what it shows, and marks those that still worked", () => {
    const { container } = render(
      <SurvivalCurve
        name="Rill 240"
        curve={[
          { months: 29, share: 0.8, low: 0.2, high: 0.97 },
          { months: 33.4, share: 0.6, low: 0.13, high: 0.88 },
        ]}
        working={[17, 40]}
      />,
    );
    expect(
      screen.getByRole("img", {
        name: "Rill 240, how many still work: 80 % beyond 29 months, 60 % beyond 33 months.",
      }),
    ).toBeTruthy();
    expect(container.querySelectorAll("line.stroke-ink")).toHaveLength(2);
  });
});
