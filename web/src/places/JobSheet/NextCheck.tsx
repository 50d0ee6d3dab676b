import { useState } from "react";
import type { JobCheck } from "../../api/diagnosis";
import { Button } from "../../parts/Button";
import { useCheckRun } from "./useCheckRun";

/** The check that tells most a minute: what to do, its caution, and what each answer would make of it; an answer is one tap. */
export function NextCheck({
  checks,
  jobId,
  sure,
  onAnswer,
  children,
}: {
  checks: readonly JobCheck[];
  jobId: string;
  /** Whether one may act already; a check is then only offered. */
  sure: boolean;
  onAnswer: (id: string, state: string) => void;
  /** Another way to answer a check than by a tap. */
  children?: (check: JobCheck) => React.ReactNode;
}) {
  const run = useCheckRun(jobId);
  const [skipped, setSkipped] = useState<readonly string[]>([]);
  const open = checks.filter((check) => !skipped.includes(check.id));
  const check = open[0] ?? checks[0];
  if (!check) {
    return <p className="m-0 text-lg">No check that is left would tell much more.</p>;
  }
  return (
    <section aria-label="Next check" data-next-check className="scroll-mt-4 border border-hairline bg-card px-5 py-4">
      <p className="m-0 text-muted">
        {sure ? "Sure enough to act; this would still tell something" : "Check next"} · about {check.minutes} min
      </p>
      <h3 className="mt-1 text-2xl leading-tight font-bold">{check.order ?? check.title}</h3>
      <p className="mt-1 mb-0">{check.how}</p>
      {check.caution && <p className="mt-2 mb-0 border-l-4 border-amber pl-3">{check.caution}</p>}
      {!check.reversible && (
        <p className="mt-2 mb-0 border-l-4 border-amber pl-3">
          This cannot be undone. Have the runs that it makes impossible first
          {check.keepsWarranty ? "." : ", and look at the warranty."}
        </p>
      )}
      {check.order && <p className="m-0 mt-3 font-semibold">{check.title}:</p>}
      <ul className="m-0 mt-3 list-none p-0">
        {check.outcomes.map((outcome) => (
          <li key={outcome.state} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-hairline py-2">
            <Button onClick={() => onAnswer(check.id, outcome.state)} className="min-w-32">
              {outcome.words}
            </Button>
            <span className="text-muted">
              {(100 * outcome.probability).toFixed(0)} in 100; then {outcome.leads.toLowerCase()} leads with{" "}
              {(100 * outcome.leadProbability).toFixed(0)} %
            </span>
          </li>
        ))}
      </ul>
      {children?.(check)}
      {run.problem && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          {run.problem}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        {check.variant && (
          <Button kind="main" onClick={() => run.start(check.variant!)}>
            {run.words}
          </Button>
        )}
        {open.length > 1 && <Button onClick={() => setSkipped([...skipped, check.id])}>Another check</Button>}
      </div>
    </section>
  );
}
