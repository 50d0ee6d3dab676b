import { useMemo, useState } from "react";
import { useKeepPlan, type AirPlan, type AirSheet } from "../../api/air";
import { useSaver } from "../../parts/useSaver";

const stepsKept = 40;

/** The plan under the hands: changed, undone, and kept on its job a moment later by the save machine. Nothing kept is the machine as it is. */
export function usePlan(jobId: string | null, sheet: AirSheet) {
  const keepPlan = useKeepPlan(jobId);
  const saving = useMemo(
    () => ({
      format: (plan: AirPlan | null) => plan,
      parse: (plan: AirPlan | null) => ({ value: plan }),
      save: keepPlan,
    }),
    [keepPlan],
  );
  const { draft, state, saver } = useSaver<AirPlan | null, AirPlan | null>(
    jobId === null ? "air-of-parts" : `${jobId}:airPlan`,
    sheet.kept,
    saving,
  );
  const [past, setPast] = useState<readonly (AirPlan | null)[]>([]);
  const remember = () => setPast((before) => [...before.slice(-stepsKept), draft]);
  const plan = draft ?? sheet.start;
  return {
    plan,
    /** How it stands on the job; still where there is none. */
    keeping: jobId === null ? ({ kind: "still" } as const) : state,
    canUndo: past.length > 0,
    isStart: JSON.stringify(plan) === JSON.stringify(sheet.start),
    /** A gesture that goes on, such as a drag along a curve, is one step to be undone. */
    change: (wanted: AirPlan, goesOn = false) => {
      if (!goesOn) {
        remember();
      }
      saver.change(wanted);
    },
    undo: () => {
      const before = past[past.length - 1];
      if (before !== undefined) {
        setPast(past.slice(0, -1));
        saver.change(before);
      }
    },
    reset: () => {
      remember();
      saver.change(null);
    },
    again: () => void saver.flush(),
    takeTheirs: () => {
      remember();
      saver.takeTheirs();
    },
    keepMine: () => saver.keepMine(),
  };
}

export type Plan = ReturnType<typeof usePlan>;
