import { at } from "../../api/base";
import { ArrowLeft, Printer } from "lucide-react";
import { Link, useParams } from "react-router";
import { useJob } from "../../api/jobs";
import { useMe } from "../../api/session";
import { Button, buttonLook } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { day } from "../../parts/words";

/** What is tied to the machine: its number for the eye, and a code that opens its job. */
export function JobTagPlace() {
  const { id } = useParams();
  const job = useJob(id!);
  const me = useMe();
  useTitle(job.data ? `${job.data.tag} tag` : "Tag");
  if (job.isError && !job.data) {
    return <Failing sentence={job.error.message} onRetry={() => void job.refetch()} />;
  }
  if (!job.data) {
    return <Loading what="the tag" />;
  }
  const { tag, fields, createdAt } = job.data;
  return (
    <div className="px-4 py-5 md:px-7 print:p-0">
      <div className="no-print mb-5 flex flex-wrap items-center gap-4 border-b border-hairline pb-4">
        <Link to={`/jobs/${job.data.id}`} className={buttonLook("plain")}>
          <ArrowLeft size={20} aria-hidden="true" /> {tag}
        </Link>
        <span className="ml-auto" />
        <Button kind="main" onClick={() => window.print()}>
          <Printer size={20} aria-hidden="true" /> Print
        </Button>
      </div>
      {["localhost", "127.0.0.1"].includes(location.hostname) && (
        <p className="no-print mt-0 mb-4 max-w-2xl border-l-4 border-amber pl-3">
          The code opens the job on this machine. For telephones, set the address by which they reach it
          (docs/operating.md, “PublicAddress”).
        </p>
      )}
      <article className="flex max-w-2xl gap-6 border border-edge bg-card p-6 print:border-2">
        <div className="min-w-0 grow">
          <p className="m-0 text-muted">{me?.workshop}</p>
          <h1 className="font-mono text-6xl font-bold whitespace-nowrap">{tag}</h1>
          <p className="mt-2 mb-0 text-2xl font-bold">{fields.owner ?? "Owner not noted yet"}</p>
          {fields.contact && <p className="m-0 text-xl">{fields.contact}</p>}
          {fields.machine && <p className="mt-2 mb-0 text-xl">{fields.machine}</p>}
          {fields.serial && <p className="m-0 font-mono">{fields.serial}</p>}
          {fields.noticed && <p className="mt-2 mb-0">“{fields.noticed.trim()}”</p>}
          <p className="mt-2 mb-0 text-muted">Came in on {day(createdAt)}</p>
        </div>
        <img
          src={at(`/api/jobs/${job.data.id}/code.svg`)}
          alt={`Code that opens job ${tag}`}
          className="size-44 shrink-0 self-start bg-white"
        />
      </article>
    </div>
  );
}
