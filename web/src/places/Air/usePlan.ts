import { useCallback, useEffect, useRef, useState } from "react";
import { useKeepPlan, type AirPlan, type AirSheet } from "../../api/air";
import { Problem } from "../../api/client";

const pause = 700;

export type Keeping =
  | { kind: "still" }
  | { kind: "keeping" }
  | { kind: "kept" }
  | { kind: "unkept"; sentence: string }
  | { kind: "conflict"; theirs: AirPlan | null };

/** The plan under the hands: changed, undone, and kept on its job a moment later. */
export function usePlan(jobId: string | null, sheet: AirSheet) {
  const keepPlan = useKeepPlan(jobId);
  const [plan, setPlan] = useState(sheet.kept ?? sheet.start);
  const [past, setPast] = useState<readonly AirPlan[]>([]);
  const [keeping, setKeeping] = useState<Keeping>({ kind: "still" });
  const base = useRef(sheet.kept);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const waiting = useRef<AirPlan | null | undefined>(undefined);

  const keep = useCallback(
    async (wanted: AirPlan | null) => {
      waiting.current = undefined;
      setKeeping({ kind: "keeping" });
      try {
        await keepPlan(wanted, base.current);
        base.current = wanted;
        setKeeping({ kind: "kept" });
      } catch (failure) {
        const problem = failure instanceof Problem ? failure : new Problem(0, "It could not be kept.");
        setKeeping(
          problem.status === 409
            ? { kind: "conflict", theirs: (problem.more.theirs ?? null) as AirPlan | null }
            : { kind: "unkept", sentence: problem.message },
        );
      }
    },
    [keepPlan],
  );

  const schedule = (wanted: AirPlan | null) => {
    if (jobId !== null) {
      clearTimeout(timer.current);
      waiting.current = wanted;
      setKeeping({ kind: "keeping" });
      timer.current = setTimeout(() => void keep(wanted), pause);
    }
  };

  // Who goes away in the middle of a pause loses nothing.
  const keepNow = useRef(keep);
  useEffect(() => {
    keepNow.current = keep;
  });
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      if (waiting.current !== undefined) {
        void keepNow.current(waiting.current);
      }
    },
    [],
  );

  return {
    plan,
    keeping,
    canUndo: past.length > 0,
    isStart: JSON.stringify(plan) === JSON.stringify(sheet.start),
    /** A gesture that goes on, such as a drag along a curve, is one step to be undone. */
    change: (wanted: AirPlan, goesOn = false) => {
      if (!goesOn) {
        setPast((before) => [...before.slice(-40), plan]);
      }
      setPlan(wanted);
      schedule(wanted);
    },
    undo: () => {
      const before = past[past.length - 1];
      if (before) {
        setPast(past.slice(0, -1));
        setPlan(before);
        schedule(before);
      }
    },
    reset: () => {
      setPast([...past, plan]);
      setPlan(sheet.start);
      schedule(null);
    },
    again: () => void keep(plan),
    takeTheirs: (theirs: AirPlan | null) => {
      base.current = theirs;
      setPast([...past, plan]);
      setPlan(theirs ?? sheet.start);
      setKeeping({ kind: "still" });
    },
    keepMine: (theirs: AirPlan | null) => {
      base.current = theirs;
      void keep(plan);
    },
  };
}

export type Plan = ReturnType<typeof usePlan>;
