import { ArrowLeft, Printer } from "lucide-react";
import { Link, useParams } from "react-router";
import { useJob } from "../../api/jobs";
import { useMe } from "../../api/session";
import { Button, buttonLook } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { day } from "../../parts/words";

/** The label for the bag with the old parts: whose they are, and what is in it. */
export function BagLabel() {
  const { id } = useParams();
  const job = useJob(id!);
  const me = useMe();
  useTitle(job.data ? `${job.data.tag} old parts` : "Old parts");
  if (job.isError && !job.data) {
    return <Failing sentence={job.error.message} onRetry={() => void job.refetch()} />;
  }
  if (!job.data) {
    return <Loading what="the label" />;
  }
  const { tag, fields } = job.data;
  const parts = (fields.repairKept ?? "").split("\n").filter((line) => line.trim());
  return (
    <div className="px-4 py-5 md:px-7 print:p-0">
      <div className="no-print mb-5 flex flex-wrap items-center gap-4 border-b border-hairline pb-4">
        <Link to={`/jobs/${job.data.id}/repair`} className={buttonLook("plain")}>
          <ArrowLeft size={20} aria-hidden="true" /> {tag}
        </Link>
        <span className="ml-auto" />
        <Button kind="main" onClick={() => window.print()} disabled={parts.length === 0}>
          <Printer size={20} aria-hidden="true" /> Print
        </Button>
      </div>
      {parts.length === 0 ? (
        <p className="max-w-2xl text-xl">
          No old parts are noted yet. They are listed at the step “Old parts bagged”, or in the repair note.
        </p>
      ) : (
        <article className="max-w-xl border border-edge bg-card p-5 print:border-2">
          <p className="m-0 text-muted">{me?.workshop} · old parts, the owner’s</p>
          <h1 className="font-mono text-5xl font-bold">{tag}</h1>
          <p className="mt-1 mb-2 text-xl font-bold">{fields.owner ?? "Owner not noted yet"}</p>
          <ul className="m-0 pl-5 text-lg">
            {parts.map((part) => (
              <li key={part}>{part}</li>
            ))}
          </ul>
          <p className="mt-3 mb-0 text-muted">{day(new Date().toISOString())}</p>
        </article>
      )}
    </div>
  );
}
