import { useState } from "react";
import { sentenceOf } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";

export type Answer = (id: string, state: string | null, doubtful?: boolean) => void;

/** Keeps what was observed; what a run or a thermometer told is overruled by it. */
export function useAnswer(actions: JobActions, diagnosis: JobDiagnosis | undefined) {
  const [problem, setProblem] = useState<string>();
  const answer: Answer = (id, state, doubtful = false) => {
    const stored = diagnosis?.observations.find((one) => one.id === id);
    const raw = (value: string | null, doubt: boolean) => (value === null ? null : `${value}${doubt ? "?" : ""}`);
    setProblem(undefined);
    actions
      .saveField(
        `evidence.${id}`,
        raw(state, doubtful),
        stored?.offRuns ? null : raw(stored?.state ?? null, stored?.doubtful ?? false),
      )
      .catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not kept.")));
  };
  return { answer, problem };
}
