import { Layers } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { JobSheet, Run } from "../../api/client";
import { useJob, useJobList } from "../../api/jobs";
import { buttonLook } from "../../parts/Button";
import { moment } from "../../parts/words";
import { labelled } from "./setups";

/** A run of another job that is laid under this one's. */
export interface ForeignRun {
  tag: string;
  label: string;
  side: "before" | "after";
  run: Run;
}

/** Which runs the trace lays over each other: any of this job, and any of another. */
export function MoreRuns({
  job,
  shown,
  foreign,
  onShown,
  onForeign,
}: {
  job: JobSheet;
  shown: readonly string[];
  foreign: readonly ForeignRun[];
  onShown: (ids: readonly string[]) => void;
  onForeign: (runs: readonly ForeignRun[]) => void;
}) {
  const own = labelled(job);
  return (
    <Popover.Root>
      <Popover.Trigger className={buttonLook("plain")}>
        <Layers size={18} aria-hidden="true" /> Runs
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-20 max-h-[min(70vh,var(--radix-popover-content-available-height))] w-[min(26rem,94vw)] overflow-y-auto rounded-sm border border-edge bg-card p-4 text-ink"
        >
          <fieldset className="m-0 border-0 p-0">
            <legend className="text-muted">Overlaid, aligned at load start</legend>
            {own.map(({ label, run }) => (
              <Check
                key={run.id}
                words={`${label} · ${run.fileName} · ${moment(run.importedAt)}`}
                checked={shown.includes(run.id)}
                onChange={(on) =>
                  onShown(own.map((one) => one.run.id).filter((id) => (id === run.id ? on : shown.includes(id))))
                }
              />
            ))}
          </fieldset>
          {foreign.map(({ tag, label, run }) => (
            <Check
              key={run.id}
              words={`${tag} ${label} · ${run.fileName}`}
              checked
              onChange={() => onForeign(foreign.filter((one) => one.run.id !== run.id))}
            />
          ))}
          <OtherJob job={job} foreign={foreign} onForeign={onForeign} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Runs of another job, once it has been picked. */
function OtherJob({
  job,
  foreign,
  onForeign,
}: {
  job: JobSheet;
  foreign: readonly ForeignRun[];
  onForeign: (runs: readonly ForeignRun[]) => void;
}) {
  const [id, setId] = useState<string>();
  // The list has the machines in the workshop and those that left last; any other is found by a word.
  const [sought, setSought] = useState("");
  const jobs = useJobList(sought);
  const other = useJob(id);
  const rest = (other.data ? labelled(other.data) : []).filter(
    ({ run }) => !foreign.some((one) => one.run.id === run.id),
  );
  return (
    <div className="mt-3 border-t border-hairline pt-3">
      <label className="mb-2 flex flex-col">
        <span className="text-muted">Look for another job</span>
        <input
          type="search"
          value={sought}
          placeholder="Owner, machine, tag"
          onChange={(event) => setSought(event.target.value)}
          className="min-h-11 rounded-sm border border-edge bg-card px-2"
        />
      </label>
      <label className="flex flex-col">
        <span className="text-muted">Another job’s</span>
        <select
          value={id ?? ""}
          onChange={(event) => setId(event.target.value || undefined)}
          className="min-h-11 rounded-sm border border-edge bg-card px-2"
        >
          <option value="">choose a job …</option>
          {id && (
            <option value={id}>{other.data ? `${other.data.tag} ${other.data.fields.machine ?? ""}` : "…"}</option>
          )}
          {(jobs.data ?? [])
            .filter((one) => one.id !== job.id && one.id !== id)
            .map((one) => (
              <option key={one.id} value={one.id}>
                {one.tag} {one.machine ?? one.owner ?? ""}
              </option>
            ))}
        </select>
      </label>
      {other.data?.runs.length === 0 && <p className="m-0 mt-2 text-muted">It has no runs.</p>}
      {rest.map(({ label, side, run }) => (
        <Check
          key={run.id}
          words={`${label} · ${run.fileName}`}
          checked={false}
          onChange={() => onForeign([...foreign, { tag: other.data!.tag, label, side, run }])}
        />
      ))}
    </div>
  );
}

function Check({ words, checked, onChange }: { words: string; checked: boolean; onChange: (on: boolean) => void }) {
  return (
    <label className="flex min-h-11 cursor-pointer items-center gap-3">
      <input
        type="checkbox"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
        className="h-5 w-5 accent-teal"
      />
      {words}
    </label>
  );
}
