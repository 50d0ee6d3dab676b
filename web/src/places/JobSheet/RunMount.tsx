import { useState } from "react";
import { sentenceOf, type JobSheet, type Run } from "../../api/client";
import type { JobActions } from "../../api/jobs";

/** On which setup and mount a run was made; another can be said. */
export function RunMount({ run, job, actions }: { run: Run; job: JobSheet; actions: JobActions }) {
  const [problem, setProblem] = useState<string>();
  const mounts = job.setups.flatMap((setup) => setup.mounts.map((mount) => ({ setup, mount })));
  if (mounts.length < 2) {
    return null;
  }
  return (
    <label className="flex flex-wrap items-center gap-2">
      <span className="text-muted">Measured on</span>
      <select
        value={run.mountId}
        onChange={(event) => {
          setProblem(undefined);
          actions
            .moveRun(run.id, event.target.value, run.version)
            .catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not moved.")));
        }}
        className="min-h-11 max-w-full rounded-sm border border-edge bg-card px-2"
      >
        {mounts.map(({ setup, mount }) => (
          <option key={mount.id} value={mount.id}>
            {setup.name}
            {setup.mounts.length > 1 ? `, mount ${mount.number}` : ""}
          </option>
        ))}
      </select>
      {problem && (
        <span role="alert" className="font-semibold text-amber">
          {problem}
        </span>
      )}
    </label>
  );
}
