import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useJobActions } from "../api/jobs";
import type { OptionChoice, OptionSheet } from "../api/options";
import { touch } from "./touch";

/** Notes which option the owner chose, or none; whoever touches another one at once chooses on top of that. */
export function useChoice(jobId: string, chosen: OptionChoice | null) {
  const cache = useQueryClient();
  const { saveField } = useJobActions(jobId);
  const [problem, setProblem] = useState<string>();
  const choose = (choice: OptionChoice | null) => {
    setProblem(undefined);
    void touch<OptionChoice | null>(
      `${jobId}:choice`,
      chosen,
      () => choice,
      async (wanted, base) => {
        await saveField("choice", wanted, base);
        // The options that are asked for anew say it later; the next touch is on top of it now.
        cache.setQueryData<OptionSheet>(["options", jobId], (now) => now && { ...now, chosen: wanted });
      },
    ).then(setProblem);
  };
  return { choose, problem };
}
