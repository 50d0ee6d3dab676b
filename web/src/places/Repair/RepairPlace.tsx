import { useState } from "react";
import type { JobSheet } from "../../api/client";
import { useJobActions } from "../../api/jobs";
import { useRepair, type PlanAsked } from "../../api/repair";
import { OfJob } from "../../parts/OfJob";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { PlanChoice } from "./PlanChoice";
import { StepsAtBench } from "./StepsAtBench";

/** A repair, step by step: what is to be done is chosen once, then one step fills the screen. */
export function RepairPlace() {
  return <OfJob what="the repair">{(job, away) => <Repair job={job} away={away} />}</OfJob>;
}

function Repair({ job, away }: { job: JobSheet; away: boolean }) {
  const [asked, setAsked] = useState<PlanAsked>({});
  const [another, setAnother] = useState(false);
  const actions = useJobActions(job.id);
  const repair = useRepair(job.id, asked, job.lastEventId);
  useTitle(`${job.tag} repair`);
  const sheet = repair.data;
  const plan = sheet?.current;
  return (
    <>
      {!sheet ? (
        repair.isError ? (
          <Failing sentence={repair.error.message} onRetry={() => void repair.refetch()} />
        ) : (
          <Loading what="the steps" />
        )
      ) : plan && !another ? (
        <StepsAtBench
          key={plan.number}
          job={job}
          plan={plan}
          actions={actions}
          away={away || repair.isError}
          onAnother={() => setAnother(true)}
        />
      ) : (
        <PlanChoice
          job={job}
          sheet={sheet}
          asked={asked}
          refused={repair.isError ? repair.error.message : undefined}
          onAsked={setAsked}
          onBegun={() => setAnother(false)}
        />
      )}
    </>
  );
}
