import { useState } from "react";
import { Link } from "react-router";
import type { JobCheck } from "../../api/diagnosis";
import { Button, buttonLook } from "../../parts/Button";

/** The check that tells most a minute: what to do, its caution, and what each answer would make of it; an answer is one tap. */
export function NextCheck({
  checks,
  jobId,
  onAnswer,
}: {
  checks: readonly JobCheck[];
  jobId: string;
  onAnswer: (id: string, state: string) => void;
}) {
  const [skipped, setSkipped] = useState<readonly string[]>([]);
  const open = checks.filter((check) => !skipped.includes(check.id));
  const check = open[0] ?? checks[0];
  if (!check) {
    return <p className="m-0 text-lg">No check that is left would tell much more.</p>;
  }
  return (
    <section aria-label="Next check" className="border border-hairline bg-card px-5 py-4">
      <p className="m-0 text-muted">Check next · about {check.minutes} min</p>
      <h3 className="mt-1 text-2xl leading-tight font-bold">{check.title}</h3>
      <p className="mt-1 mb-0">{check.how}</p>
      {check.caution && <p className="mt-2 mb-0 border-l-4 border-amber pl-3">{check.caution}</p>}
      {!check.reversible && (
        <p className="mt-2 mb-0 border-l-4 border-amber pl-3">
          This cannot be undone. Have the runs that it makes impossible first
          {check.keepsWarranty ? "." : ", and look at the warranty."}
        </p>
      )}
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
      <div className="mt-3 flex flex-wrap gap-3">
        {check.variant && (
          <Link to={`/bench?job=${jobId}&variant=${check.variant}`} className={buttonLook("main")}>
            Run it in a bay
          </Link>
        )}
        {open.length > 1 && <Button onClick={() => setSkipped([...skipped, check.id])}>Another check</Button>}
      </div>
    </section>
  );
}
