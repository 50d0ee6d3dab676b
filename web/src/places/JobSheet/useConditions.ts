import { useMemo } from "react";
import { Problem, type Run, type RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { useSaver } from "../../parts/useSaver";

/** A run's conditions under the save machine: one draft of them, whoever changes it, sent one after the other. */
export function useConditions(run: Run, actions: JobActions) {
  const { id, version } = run;
  const { setConditions, refresh } = actions;
  const saving = useMemo(
    () => ({
      format: (value: RunConditions) => value,
      parse: (value: RunConditions) => ({ value }),
      save: async (value: RunConditions, base: RunConditions) => {
        try {
          await setConditions(id, value, version);
        } catch (failure) {
          throw await beside(failure, base, id, refresh);
        }
      },
    }),
    [id, version, setConditions, refresh],
  );
  return useSaver<RunConditions, RunConditions>(`run:${id}:conditions`, run.conditions, saving);
}

/** A run that was changed meanwhile: its conditions as they are now, to be shown beside one's own. One that was only read anew is saved once more. */
async function beside(failure: unknown, base: RunConditions, id: string, refresh: JobActions["refresh"]) {
  if (!(failure instanceof Problem) || failure.status !== 409) {
    return failure;
  }
  const theirs = (await refresh())?.runs.find((one) => one.id === id)?.conditions;
  return theirs === undefined || JSON.stringify(theirs) === JSON.stringify(base)
    ? new Problem(503, "The run was read anew meanwhile; this is saved in a moment.")
    : new Problem(409, failure.message, { theirs });
}
