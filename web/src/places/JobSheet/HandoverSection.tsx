import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { runsCsv } from "../../api/papers";
import { buttonLook } from "../../parts/Button";
import { HandedOver } from "./HandedOver";
import { RecheckField } from "./RecheckField";

/** The recheck date, the owner's page, and the moment the machine leaves. */
export function HandoverSection({ job, actions }: { job: JobSheet; actions: JobActions }) {
  return (
    <div className="flex flex-wrap items-end gap-x-8 gap-y-4">
      <RecheckField job={job} actions={actions} />
      <Link className={buttonLook("main")} to={`/jobs/${job.id}/handover`}>
        Open the owner’s page
      </Link>
      <Link className={buttonLook("plain")} to={`/jobs/${job.id}/papers`}>
        Quote and bill
      </Link>
      {job.runs.length > 0 && (
        <a className={buttonLook("quiet")} href={runsCsv(job.id)} download>
          Runs as CSV
        </a>
      )}
      <HandedOver job={job} actions={actions} />
    </div>
  );
}
