import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { ImportAnswer, JobSheet, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { changeWords } from "./History";
import { DropTargets } from "./DropTargets";
import { Fairness } from "./Fairness";
import { ImportRows } from "./ImportRows";
import { NowCard } from "./NowCard";
import { labelled, roundReason, shownPair } from "./setups";
import { StepRail } from "./StepRail";
import { bracketsOf, SeriesPicture, ticksOf } from "../../pictures/SeriesPicture";

afterEach(cleanup);

const now: Schemas["NowCard"] = {
  title: "Let the paste settle",
  why: "Mounted 3 h ago.",
  minutes: 30,
  caution: "Heavy cooler.",
  action: "after-run",
  button: "Add the second run",
  otherAction: "handover",
  otherButton: "or hand over now",
};

describe("NowCard", () => {
  it("offers one step, and the other way beside it", () => {
    const act = vi.fn();
    render(<NowCard now={now} onAct={act} />);
    expect(screen.getByText("Now · about 30 min")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Add the second run" }));
    fireEvent.click(screen.getByRole("button", { name: "or hand over now" }));
    expect(act.mock.calls).toEqual([["after-run"], ["handover"]]);
  });

  it("has no button when there is nothing to do", () => {
    render(<NowCard now={{ ...now, minutes: null, caution: null, action: "none", button: "" }} onAct={vi.fn()} />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("Fairness", () => {
  const result = {
    comparable: false,
    obstacles: [
      {
        code: "panel-differs",
        severity: "blocking",
        message: "Side panel: closed before, off after.",
        remedy: "One more run.",
      },
    ],
    smallestDetectableC: null,
    wanted: null,
  } as unknown as Schemas["ComparisonResult"];

  it("says what is in the way and what would make it fair", () => {
    render(<Fairness verdict={{ result, lead: "", claim: "", rest: "" }} />);
    expect(screen.getByText("in the way")).toBeTruthy();
    expect(screen.getByText("One more run.")).toBeTruthy();
    expect(screen.queryByText("fair")).toBeNull();
  });

  it("says how small a change would have been seen, and how many runs would settle it", () => {
    const open = {
      ...result,
      comparable: true,
      obstacles: [],
      smallestDetectableC: 2.77,
      wanted: { mounts: 2, runs: 0 },
    };
    render(<Fairness verdict={{ result: open, lead: "", claim: "", rest: "" }} />);
    expect(screen.getByText("A change of 2.8 °C shows four times in five")).toBeTruthy();
    expect(screen.getByText("2 more mounts a side would settle it")).toBeTruthy();
  });
});

describe("StepRail", () => {
  it("marks what is done and where the job stands, and leads there", () => {
    const go = vi.fn();
    const steps = [
      { id: "intake", title: "Intake", done: true, conclusion: "" },
      { id: "before", title: "Before", done: false, conclusion: "" },
    ];
    render(<StepRail steps={steps} current="before" onGo={go} />);
    expect(screen.getByRole("button", { name: "Before" }).getAttribute("aria-current")).toBe("step");
    fireEvent.click(screen.getByRole("button", { name: /Intake/ }));
    expect(go).toHaveBeenCalledWith("intake");
  });
});

describe("ImportRows", () => {
  const one = (state: string, problem: string | null = null): ImportAnswer => ({
    id: "1",
    mountId: "m",
    fileName: "log.csv",
    state,
    bytesRead: 30,
    bytesTotal: 120,
    problem,
    columnsHelp: false,
  });

  it("shows how far a log is and stops it", () => {
    const stopImport = vi.fn(() => Promise.resolve());
    render(<ImportRows sending={[]} imports={[one("reading")]} actions={{ stopImport } as unknown as JobActions} />);
    expect(screen.getByRole("progressbar", { name: "Reading log.csv" })).toBeTruthy();
    expect(screen.getByText("25 %")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Stop" }));
    expect(stopImport).toHaveBeenCalledWith("1");
  });

  it("keeps a log that failed, with its sentence, until it is put away", () => {
    render(<ImportRows sending={[]} imports={[one("failed", "line 2: words.")]} actions={{} as JobActions} />);
    expect(screen.getByRole("alert").textContent).toContain("Not read. line 2: words.");
    expect(screen.getByRole("button", { name: "Dismiss" })).toBeTruthy();
  });
});

describe("DropTargets", () => {
  const file = new File(["a"], "log.csv");
  const carrying = { dataTransfer: { types: ["Files"], files: [file] } };

  const setup = (number: number, title: string, current: boolean) => ({
    id: `s${number}`,
    number,
    title,
    name: `Setup ${number} ${title}`,
    current,
    mounts: [{ id: `m${number}`, number: 1 }],
  });
  const job = (setups: object[], runs: object[] = []) => ({ setups, runs }) as unknown as JobSheet;

  it("stand while a file hovers, and take it on the setup it falls on", () => {
    const drop = vi.fn();
    const { container } = render(
      <DropTargets job={job([setup(1, "as it came", false), setup(2, "Ridge", true)])} onDrop={drop} />,
    );
    expect(container.querySelector("[data-drop]")).toBeNull();
    fireEvent.dragEnter(window, carrying);
    fireEvent.drop(container.querySelector("[data-drop=after]")!, carrying);
    expect(drop.mock.calls).toEqual([[{ kind: "mount", mount: "m2", setup: 2 }, [file]]]);
    expect(container.querySelector("[data-drop]")).toBeNull();
  });

  it("take a file between them for what is on the machine now, and ignore what is no file", () => {
    const drop = vi.fn();
    const { container } = render(
      <DropTargets job={job([setup(1, "as it came", true)], [{ setup: 1 }])} onDrop={drop} />,
    );
    fireEvent.dragEnter(window, { dataTransfer: { types: ["text/plain"], files: [] } });
    expect(container.firstChild).toBeNull();
    fireEvent.dragEnter(window, carrying);
    fireEvent.drop(container.firstChild as Element, carrying);
    // With a baseline there and nothing changed yet, the next log is of the repair.
    expect(drop).toHaveBeenCalledWith({ kind: "new", change: "repair" }, [file]);
  });

  it("offer the next setup of each kind, and the cooler put back", () => {
    const drop = vi.fn();
    const { container } = render(<DropTargets job={job([setup(1, "as it came", true)])} onDrop={drop} />);
    fireEvent.dragEnter(window, carrying);
    fireEvent.drop(container.querySelector("[data-drop=other-paste]")!, carrying);
    fireEvent.dragEnter(window, carrying);
    fireEvent.drop(container.querySelector("[data-drop=remount]")!, carrying);
    expect(drop.mock.calls.map(([target]) => target)).toEqual([
      { kind: "new", change: "other-paste" },
      { kind: "remount", setup: 1 },
    ]);
  });
});

describe("changeWords", () => {
  it("tells what was changed, by whom and when", () => {
    const at = new Date(Date.now() - 5 * 60_000).toISOString();
    expect(changeWords({ words: "temperature limit", person: "Ines", at })).toBe("temperature limit (Ines, 5 min ago)");
  });
});

describe("setups", () => {
  const sheet = (more: object) => ({ setups: [], runs: [], ...more }) as unknown as JobSheet;
  const setups = [
    { number: 1, title: "as it came", mounts: [] },
    { number: 2, title: "Ridge", mounts: [{ values: { print: "ring-or-spot" } }] },
  ];

  it("name runs by their setup, numbered where one has several", () => {
    const runs = [
      { id: "a", setup: 1 },
      { id: "b", setup: 2 },
      { id: "c", setup: 2 },
    ];
    const pair = { reference: 1, compared: 2, before: ["a"], after: ["b"] };
    expect(labelled(sheet({ setups, runs, pair })).map(({ label, side }) => [label, side])).toEqual([
      ["as it came", "before"],
      ["Ridge 1", "after"],
      ["Ridge 2", "after"],
    ]);
    expect(shownPair(sheet({ setups, runs, pair })).after?.id).toBe("b");
  });

  it("say why the next round is opened", () => {
    const verdict = (of: string) => ({ result: { verdict: of } });
    expect(roundReason(sheet({ setups, pair: { compared: 2 }, verdict: verdict("improved") }))).toBe("bad-print");
    expect(roundReason(sheet({ setups, pair: { compared: 1 }, verdict: verdict("worse") }))).toBe("worse");
    expect(roundReason(sheet({ setups, pair: { compared: 1 }, verdict: verdict("no-measurable-change") }))).toBe(
      "not-fixed",
    );
  });
});

describe("SeriesPicture", () => {
  const row = (name: string, rank: number, at: number, group: string) =>
    ({ name, rank, atReferencePowerC: at, halfWidthC: 2, group }) as unknown as Schemas["SeriesRow"];
  const rows = [row("Rill", 1, 70, "a"), row("Ridge", 2, 71, "ab"), row("box", 3, 74, "b")];

  it("joins those that cannot be told apart, and says every figure", () => {
    expect(bracketsOf(rows)).toEqual([
      { letter: "a", from: 0, to: 1 },
      { letter: "b", from: 1, to: 2 },
    ]);
    render(<SeriesPicture rows={rows} reference="box" />);
    expect(screen.getByRole("img").getAttribute("aria-label")).toContain("Ridge: 71.0 ± 2.0 °C");
  });

  it("marks round degrees", () => expect(ticksOf(66.2, 77.1)).toEqual([68, 70, 72, 74, 76]));
});
