import type { PlanStep } from "../../api/repair";

export type Stage = PlanStep["stage"];

/** Where in the work a step stands, in words. */
export const stageWords: Record<Stage, string> = {
  before: "While it still runs",
  "switch-off": "Without power",
  open: "Open it",
  "take-out": "Out of the way",
  off: "Cooler off",
  clean: "Clean, and make ready",
  work: "The repair itself",
  on: "Cooler on",
  "put-back": "Everything back",
  "first-power": "First power-on, still open",
  settings: "Settings",
  close: "Close it",
  after: "Measure again",
};

/** Steps by their stages, in order. */
export function stagesOf(steps: readonly PlanStep[]): [Stage, PlanStep[]][] {
  const stages = new Map<Stage, PlanStep[]>();
  for (const step of steps) {
    stages.set(step.stage, [...(stages.get(step.stage) ?? []), step]);
  }
  return [...stages];
}
