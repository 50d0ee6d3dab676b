import { ArrowLeft } from "lucide-react";
import type { ReactNode } from "react";
import { Link, useParams } from "react-router";
import type { JobSheet } from "../api/client";
import { useJob } from "../api/jobs";
import { Failing, Loading } from "./States";

/** A page that belongs to the job of its address: fetched, failed, or there with the way back to its sheet on top. */
export function OfJob({ what, children }: { what: string; children: (job: JobSheet, away: boolean) => ReactNode }) {
  const { id } = useParams();
  const job = useJob(id!);
  if (!job.data) {
    return job.isError ? (
      <Failing sentence={job.error.message} onRetry={() => void job.refetch()} />
    ) : (
      <Loading what={what} />
    );
  }
  const { fields, tag } = job.data;
  return (
    <div key={id} className="px-4 py-4 md:px-7">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <Link
          to={`/jobs/${job.data.id}`}
          className="inline-flex min-h-11 items-center gap-2 font-mono font-bold text-teal underline underline-offset-4"
        >
          <ArrowLeft size={20} aria-hidden="true" /> {tag}
        </Link>
        <span className="min-w-0 grow truncate text-muted">
          {[fields.owner, fields.machine].filter(Boolean).join(" · ")}
        </span>
      </div>
      {children(job.data, job.isError)}
    </div>
  );
}
