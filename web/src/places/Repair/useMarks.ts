import { useEffect, useMemo, useReducer, useRef } from "react";
import type { JobActions } from "../../api/jobs";
import type { PlanAnswer, StepMark } from "../../api/repair";
import { hold, saverOf, type Saver } from "../../parts/saving";

type MarkSaver = Saver<StepMark | null, StepMark | null>;

/**
 * The marks of a plan under the save machine: a tick counts at once on this screen, is kept in this browser until the server has it, and is sent
 * again while that is away. Of two hands on one step the first counts.
 */
export function useMarks(jobId: string, plan: PlanAnswer, actions: JobActions) {
  const [, redraw] = useReducer((count: number) => count + 1, 0);
  const { saveField } = actions;
  /** The job's change by which a step was saved last. */
  const savedBy = useRef(new Map<string, number>());
  const savings = useMemo(
    () =>
      new Map(
        plan.plan.steps.map(({ id }) => [
          id,
          {
            format: (mark: StepMark | null) => mark,
            parse: (mark: StepMark | null) => ({ value: mark }),
            save: async (mark: StepMark | null, base: StepMark | null) => {
              const sheet = await saveField(`plan.${plan.number}.${id}`, mark, base);
              savedBy.current.set(id, sheet.lastEventId);
            },
          },
        ]),
      ),
    // The steps of a plan never change.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [plan.number, saveField],
  );
  const stored = (step: string) => plan.marks[step] ?? null;
  const saverFor = (step: string): MarkSaver =>
    saverOf(`${jobId}:plan.${plan.number}.${step}`, stored(step), savings.get(step)!);
  const savers = new Map(plan.plan.steps.map(({ id }) => [id, saverFor(id)]));

  useEffect(() => {
    const ends = [...savers.values()].flatMap((saver) => [saver.subscribe(redraw), hold(saver)]);
    return () => ends.forEach((end) => end());
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [jobId, plan.number]);
  // Only what the server says anew is news; an answer from before a step was saved says nothing about it.
  useEffect(() => {
    for (const [step, saver] of savers) {
      if (plan.lastEventId >= (savedBy.current.get(step) ?? 0)) {
        saver.arrived(stored(step), savings.get(step));
      }
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [plan.marks, plan.lastEventId]);
  useEffect(() => {
    for (const saver of savers.values()) {
      if (saver.snapshot().state.kind === "conflict") {
        saver.takeTheirs();
      }
    }
  });

  const shown = [...savers].map(([step, saver]) => ({ step, ...saver.snapshot() }));
  return {
    /** What stands here; a tick that the server refused does not. */
    marks: new Map(
      shown
        .filter((one) => one.draft !== null && one.state.kind !== "wrong")
        .map((one) => [one.step, one.draft as StepMark]),
    ),
    /** Steps whose tick the server does not have yet. */
    unsent: shown.filter((one) => one.dirty && one.state.kind !== "wrong").map((one) => one.step),
    /** Why the server refused a tick, by step. */
    refused: new Map(
      shown.flatMap((one) => (one.state.kind === "wrong" ? [[one.step, one.state.sentence] as const] : [])),
    ),
    set: (step: string, mark: StepMark | null) => savers.get(step)!.change(mark, true),
    sendAgain: () => [...savers.values()].forEach((saver) => void saver.flush()),
  };
}
