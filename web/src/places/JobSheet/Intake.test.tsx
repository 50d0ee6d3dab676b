import { cleanup, fireEvent, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { JobSheet } from "../../api/client";
import type { JobCause, JobDiagnosis, JobObservation } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { EarlierJobs } from "./EarlierJobs";
import { FoundCauses } from "./FoundCauses";
import { Symptoms } from "./Symptoms";

vi.mock("react-router", () => ({ Link: ({ children }: { children: React.ReactNode }) => <a href="/">{children}</a> }));

afterEach(cleanup);

const asked = (id: string, title: string, states: string[], state: string | null): JobObservation => ({
  id,
  title,
  kind: "symptom",
  how: "Ask.",
  caution: null,
  states: states.map((one) => ({ id: one, words: one })),
  state,
  doubtful: false,
  offRuns: false,
  untouched: false,
});

describe("Symptoms", () => {
  it("tells not asked from no, and takes an answer back", () => {
    const answer = vi.fn();
    const list = [
      asked("onset", "How it began", ["gradual", "sudden", "summer"], null),
      asked("shutdowns", "Switches itself off", ["no", "yes"], null),
      asked("fans-always-loud", "Fans always loud", ["no", "yes"], "no"),
    ];
    render(<Symptoms observations={list} onAnswer={answer} />);
    const off = within(screen.getByRole("radiogroup", { name: "Switches itself off" }));
    const loud = within(screen.getByRole("radiogroup", { name: "Fans always loud" }));
    expect(off.getByRole("radio", { name: "not asked" }).getAttribute("aria-checked")).toBe("true");
    expect(loud.getByRole("radio", { name: "no" }).getAttribute("aria-checked")).toBe("true");
    fireEvent.click(off.getByRole("radio", { name: "yes" }));
    fireEvent.click(loud.getByRole("radio", { name: "not asked" }));
    fireEvent.click(screen.getByRole("radio", { name: "gradual" }));
    expect(answer.mock.calls).toEqual([
      ["shutdowns", "yes"],
      ["fans-always-loud", null],
      ["onset", "gradual"],
    ]);
  });
});

describe("FoundCauses", () => {
  const cause = (id: string) => ({ id, title: `Cause ${id}`, probability: 0.1 }) as JobCause;
  const diagnosis = { causes: ["a", "b", "c", "d", "e", "f"].map(cause) } as JobDiagnosis;
  const job = { id: "j", fields: { repairCauses: ["f"] } } as unknown as JobSheet;

  it("offers the most probable, shows what was found, and keeps both when a second is touched", async () => {
    const saveField = vi.fn(() => Promise.resolve());
    render(<FoundCauses job={job} actions={{ saveField } as unknown as JobActions} diagnosis={diagnosis} />);
    expect(screen.queryByRole("button", { name: "Cause e" })).toBeNull();
    expect(screen.getByRole("button", { name: "Cause f" }).getAttribute("aria-pressed")).toBe("true");
    fireEvent.click(screen.getByRole("button", { name: "Cause b" }));
    fireEvent.click(screen.getByRole("button", { name: "Cause f" }));
    await waitFor(() =>
      expect(saveField.mock.calls).toEqual([
        ["repairCauses", ["b", "f"], ["f"]],
        ["repairCauses", ["b"], ["b", "f"]],
      ]),
    );
    fireEvent.click(screen.getByRole("button", { name: "something else" }));
    expect(screen.getByRole("button", { name: "Cause e" })).toBeTruthy();
  });
});

describe("EarlierJobs", () => {
  const earlier = (id: string, sameMachine: boolean) => ({
    id,
    tag: `SL-${id}`,
    createdAt: "2026-02-01T10:00:00Z",
    machine: "Ticket printer",
    sameMachine,
    found: "Pump stood",
    done: "Tower fitted",
    causes: ["Pump stopped or barely turning"],
    handedOverAt: null,
  });

  it("tells a machine that returns from another of its owner, and takes over from the first only", () => {
    const takeOver = vi.fn(() => Promise.resolve());
    const job = { earlier: [earlier("1", true), earlier("2", false)] } as unknown as JobSheet;
    render(<EarlierJobs job={job} actions={{ takeOver } as unknown as JobActions} />);
    expect(screen.getByText("This machine was here before:")).toBeTruthy();
    expect(screen.getByText(/found: Pump stood; done: Tower fitted/)).toBeTruthy();
    expect(screen.getByText("Of the same owner:")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Take over what is known" }));
    expect(takeOver).toHaveBeenCalledWith("1");
  });

  it("says nothing where there is nothing", () => {
    const { container } = render(
      <EarlierJobs job={{ earlier: [] } as unknown as JobSheet} actions={{} as JobActions} />,
    );
    expect(container.firstChild).toBeNull();
  });
});
