import { useState } from "react";
import { useNavigate } from "react-router";
import { useBayActions, useBays } from "../../api/bays";
import { sentenceOf } from "../../api/client";

/** Starts the guided run that a check needs: at once in the bay where the machine stands, else after a bay has been chosen. */
export function useCheckRun(jobId: string) {
  const bays = useBays();
  const actions = useBayActions();
  const navigate = useNavigate();
  const [problem, setProblem] = useState<string>();
  const bay = bays.data?.find((one) => one.online && one.run?.jobId === jobId && one.run.over);
  const start = (variant: string) => {
    if (!bay) {
      return void navigate(`/bench?job=${jobId}&variant=${variant}`);
    }
    setProblem(undefined);
    actions
      .start(bay.id, { jobId, variant, work: "all-core", times: 1, loadSeconds: null })
      .then(() => navigate(`/bench/${bay.number}`))
      .catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not started.")));
  };
  return { start, words: bay ? `Run it in bay ${bay.number}` : "Run it in a bay", problem };
}
