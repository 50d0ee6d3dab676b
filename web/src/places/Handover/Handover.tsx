import { ArrowLeft, FileDown, Printer } from "lucide-react";
import type { ReactNode } from "react";
import { Link, useLocation, useParams } from "react-router";
import type { JobSheet, Run, Schemas } from "../../api/client";
import { reportPdf } from "../../api/papers";
import { useJob, useJobActions, useTrace } from "../../api/jobs";
import { useView } from "../../api/useView";
import { useMe } from "../../api/session";
import { Button, buttonLook } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { day, keepUnits } from "../../parts/words";
import { HeatStaircase } from "../../pictures/HeatStaircase";
import { patientOf, TraceSketch } from "../../pictures/TraceSketch";
import { HandedOver } from "../JobSheet/HandedOver";
import { RecheckField } from "../JobSheet/RecheckField";
import { CardStairs } from "../JobSheet/CardStairs";
import { shownPair } from "../JobSheet/setups";
import { Links } from "./Links";

type OwnerPage = Schemas["OwnerPage"];

/** The owner's page: one sheet of paper, in the owner's words. */
export function HandoverPlace() {
  const { id } = useParams();
  useView(id!);
  const job = useJob(id!);
  if (job.data) {
    return <Page job={job.data} />;
  }
  if (job.isError) {
    return <Failing sentence={job.error.message} onRetry={() => void job.refetch()} />;
  }
  return <Loading what="the owner’s page" />;
}

function Page({ job }: { job: JobSheet }) {
  const actions = useJobActions(job.id);
  const me = useMe();
  const { fields, ownerPage } = job;
  const { search } = useLocation();
  const { before, after } = shownPair(job);
  const { subject } = job.pair;
  const reached = [before, after].flatMap((run) => {
    const patient = run && patientOf(run, subject);
    return patient ? [patient.peakC ?? 0, patient.limitC ?? 0] : [];
  });
  const top = Math.max(60, ...reached.map((c) => c + 12));
  useTitle(`${job.tag} owner’s page`);
  return (
    <div className="px-4 py-5 md:px-7 print:p-0">
      <div className="no-print mb-5 grid gap-4 border-b border-hairline pb-4">
        <div className="flex flex-wrap items-center gap-4">
          <Link to={`/jobs/${job.id}${search}`} className={buttonLook("plain")}>
            <ArrowLeft size={20} aria-hidden="true" /> {job.tag}
          </Link>
          <span className="ml-auto" />
          <HandedOver job={job} actions={actions} />
          <Link to={`/jobs/${job.id}/papers`} className={buttonLook("plain")}>
            Quote and bill
          </Link>
          <a href={reportPdf(job.id)} target="_blank" rel="noreferrer" className={buttonLook("plain")}>
            <FileDown size={20} aria-hidden="true" /> As PDF
          </a>
          <Button kind="main" onClick={() => window.print()}>
            <Printer size={20} aria-hidden="true" /> Print
          </Button>
        </div>
        <RecheckField job={job} actions={actions} />
      </div>
      <article className="mx-auto max-w-3xl bg-card px-5 py-6 md:border md:border-hairline md:px-10 md:py-8 print:max-w-none print:border-0 print:p-0">
        <p className="flex flex-wrap justify-between gap-x-6 text-muted">
          <span>
            {me?.workshop} · {job.tag}
          </span>
          <span>{day(fields.handedOverAt ?? new Date())}</span>
        </p>
        <h1 className="mt-2 text-3xl leading-tight font-bold">{ownerPage.headline}</h1>
        <p className="mt-2 text-muted">{[fields.owner, fields.machine].filter(Boolean).join(" · ")}</p>
        <div className="grid gap-x-8 sm:grid-cols-2 print:grid-cols-2">
          {sections(ownerPage, "told", "found", "did", "price").map((section) => (
            <Section key={section.id} section={section} />
          ))}
        </div>
        {sections(ownerPage, "tried", "measured").map((section) => (
          <Section key={section.id} section={section}>
            {section.id === "measured" && ownerPage.howSure && (
              <p className="mt-1 text-muted">How sure: {keepUnits(ownerPage.howSure)}</p>
            )}
          </Section>
        ))}
        {subject === "graphics" && (after ?? before) && (
          <div className="mt-4">
            <CardStairs now={(after ?? before)!} before={after ? before : undefined} />
          </div>
        )}
        {subject === "processor" && (after ?? before)?.analysis.staircase && (
          <div className="mt-4">
            <HeatStaircase
              now={(after ?? before)!.analysis.staircase!}
              before={after ? before?.analysis.staircase : null}
              limitC={(after ?? before)!.conditions.temperatureLimitC ?? null}
              paper
            />
            <p className="text-muted">
              Where the degrees are lost, from the room on the left to the chip on the right.
            </p>
          </div>
        )}
        {(before || after) && (
          <div className="mt-4 grid gap-4 sm:grid-cols-2 print:mt-1 print:grid-cols-2">
            {before && <Sketch title="Before" run={before} subject={subject} top={top} />}
            {after && <Sketch title="After" run={after} subject={subject} top={top} />}
          </div>
        )}
        {sections(ownerPage, "back", "watch").map((section) => (
          <Section key={section.id} section={section} />
        ))}
        <p className="mt-5 border-t border-hairline pt-3 text-xl print:mt-2 print:pt-1">{ownerPage.recheck}</p>
      </article>
      <Links jobId={job.id} />
    </div>
  );
}

const sections = (page: OwnerPage, ...ids: string[]) =>
  (page.sections ?? []).filter((section) => ids.includes(section.id));

function Section({ section, children }: { section: Schemas["OwnerSection"]; children?: ReactNode }) {
  return (
    <section className="mt-4 print:mt-1.5">
      <h2 className="text-xl font-bold">{section.title}</h2>
      {section.listed ? (
        <ul className="mt-1 list-disc pl-5">
          {section.lines.map((line) => (
            <li key={line}>{keepUnits(line)}</li>
          ))}
        </ul>
      ) : (
        section.lines.map((line) => (
          <p key={line} className="mt-1 whitespace-pre-line">
            {keepUnits(line)}
          </p>
        ))
      )}
      {children}
    </section>
  );
}

function Sketch({ title, run, subject, top }: { title: string; run: Run; subject: string; top: number }) {
  const trace = useTrace(run.id, run.version);
  if (!trace.data) {
    return (
      <p role="status" className="text-muted">
        {trace.isError
          ? `The ${title.toLowerCase()} trace could not be fetched: ${trace.error.message}`
          : "Fetching the trace …"}
      </p>
    );
  }
  return <TraceSketch title={title} run={run} subject={subject} trace={trace.data} top={top} />;
}
