import { useState } from "react";
import type { JobSheet } from "../../api/client";
import type { JobDiagnosis } from "../../api/diagnosis";
import type { JobActions } from "../../api/jobs";
import { touch } from "../../parts/touch";

const few = 4;

/** What it was, once it is known: from here the workshop learns which series fail of what. */
export function FoundCauses({
  job,
  actions,
  diagnosis,
}: {
  job: JobSheet;
  actions: JobActions;
  diagnosis: JobDiagnosis | undefined;
}) {
  const [all, setAll] = useState(false);
  const [problem, setProblem] = useState<string>();
  const found = job.fields.repairCauses;
  const causes = diagnosis?.causes ?? [];
  const shown = causes.filter((cause, i) => all || i < few || found.includes(cause.id));
  const toggle = (id: string) => {
    setProblem(undefined);
    void touch<string[]>(
      `${job.id}:repairCauses`,
      found,
      (now) => (now.includes(id) ? now.filter((one) => one !== id) : [...now, id].sort()),
      (value, base) => actions.saveField("repairCauses", value, base),
    ).then(setProblem);
  };
  return (
    <fieldset className="m-0 border-0 p-0">
      <legend className="mb-1 p-0 text-muted">What it was</legend>
      <div className="flex flex-wrap gap-1">
        {shown.map((cause) => (
          <button
            key={cause.id}
            type="button"
            aria-pressed={found.includes(cause.id)}
            onClick={() => toggle(cause.id)}
            className="min-h-11 rounded-sm border border-hairline bg-card px-3 text-left aria-pressed:border-teal aria-pressed:bg-teal-soft aria-pressed:font-semibold"
          >
            {cause.title}
          </button>
        ))}
        {causes.length > few && (
          <button
            type="button"
            onClick={() => setAll(!all)}
            className="min-h-11 px-2 text-teal underline decoration-1 underline-offset-4"
          >
            {all ? "fewer" : "something else"}
          </button>
        )}
      </div>
      {problem && (
        <p role="alert" className="mt-1 font-semibold text-amber">
          {problem}
        </p>
      )}
    </fieldset>
  );
}
