import { ArrowLeft } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { JobSheet } from "../../api/client";
import { useJob, useJobActions } from "../../api/jobs";
import { useRepair, type PlanAsked } from "../../api/repair";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { PlanChoice } from "./PlanChoice";
import { StepsAtBench } from "./StepsAtBench";

/** A repair, step by step: what is to be done is chosen once, then one step fills the screen. */
export function RepairPlace() {
  const { id } = useParams();
  const job = useJob(id!);
  if (job.data) {
    return <Repair key={id} job={job.data} away={job.isError} />;
  }
  return job.isError ? (
    <Failing sentence={job.error.message} onRetry={() => void job.refetch()} />
  ) : (
    <Loading what="the repair" />
  );
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
    <div className="px-4 py-4 md:px-7">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <Link
          to={`/jobs/${job.id}`}
          className="inline-flex min-h-11 items-center gap-2 font-mono font-bold text-teal underline underline-offset-4"
        >
          <ArrowLeft size={20} aria-hidden="true" /> {job.tag}
        </Link>
        <span className="min-w-0 grow truncate text-muted">
          {[job.fields.owner, job.fields.machine].filter(Boolean).join(" · ")}
        </span>
      </div>
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
    </div>
  );
}
