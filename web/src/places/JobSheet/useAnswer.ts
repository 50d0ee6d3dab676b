import { useState } from "react";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { touch } from "../../parts/touch";

export type Answer = (id: string, state: string | null, doubtful?: boolean) => void;

/** Keeps what was observed; what a run or a thermometer told is overruled by it. */
export function useAnswer(job: JobSheet, actions: JobActions) {
  const [problem, setProblem] = useState<string>();
  const answer: Answer = (id, state, doubtful = false) => {
    setProblem(undefined);
    void touch<string | null>(
      `${job.id}:evidence.${id}`,
      job.observed[id] ?? null,
      () => (state === null ? null : `${state}${doubtful ? "?" : ""}`),
      (value, base) => actions.saveField(`evidence.${id}`, value, base),
    ).then(setProblem);
  };
  return { answer, problem };
}
