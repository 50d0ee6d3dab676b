import { useState } from "react";
import { useVariants } from "../../api/bays";
import type { JobTag } from "../../api/client";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";

const sides = [
  ["before", "Before"],
  ["after", "After"],
] as const;

/** What a run needs to begin: whose machine, before or after the repair, and how it is run, with the reason why one would. */
export function StartRun({
  jobs,
  onStart,
  onCancel,
}: {
  jobs: readonly JobTag[];
  onStart: (run: { jobId: string; side: string; variant: string; loadSeconds: number | null }) => void;
  onCancel: () => void;
}) {
  const variants = useVariants();
  const [jobId, setJobId] = useState("");
  const [side, setSide] = useState("before");
  const [variant, setVariant] = useState("usual");
  const chosen = variants.data?.find((one) => one.id === variant);
  const field = "min-h-11 w-full rounded-sm border border-edge bg-card px-2";
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onStart({ jobId, side, variant, loadSeconds: null });
      }}
    >
      <label>
        <span className="text-muted">Whose machine</span>
        <select required value={jobId} onChange={(event) => setJobId(event.target.value)} className={field}>
          <option value="">choose a job …</option>
          {jobs.map((job) => (
            <option key={job.id} value={job.id}>
              {job.tag} {job.owner ?? job.machine ?? ""}
            </option>
          ))}
        </select>
      </label>
      <Choice label="The repair" value={side} options={sides} onChange={(wanted) => setSide(wanted ?? side)} />
      <label>
        <span className="text-muted">How it is run</span>
        <select value={variant} onChange={(event) => setVariant(event.target.value)} className={field}>
          {(variants.data ?? []).map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}
            </option>
          ))}
        </select>
      </label>
      {chosen && (
        <p className="m-0">
          {chosen.why} {chosen.byHand && <strong>{chosen.byHand}</strong>}
        </p>
      )}
      <div className="flex gap-3">
        <Button kind="main" type="submit" disabled={jobId === ""}>
          Start
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </div>
    </form>
  );
}
