import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { bundleOf, tableOf } from "../../api/bundles";
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
      <HandedOver job={job} actions={actions} />
      <p className="m-0 w-full text-muted">
        For other programs:
        {job.runs.length > 0 && (
          <a className={buttonLook("quiet")} href={tableOf(job.id, "runs")} download>
            runs
          </a>
        )}
        <a className={buttonLook("quiet")} href={tableOf(job.id, "setups")} download>
          setups
        </a>
        {job.series && (
          <a className={buttonLook("quiet")} href={tableOf(job.id, "series")} download>
            series
          </a>
        )}
        as tables,
        <a className={buttonLook("quiet")} href={bundleOf(job.id)} download>
          the whole job
        </a>
        with its logs and pictures.
      </p>
    </div>
  );
}
