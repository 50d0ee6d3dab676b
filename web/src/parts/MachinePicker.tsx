import type { ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import type { ChosenParts } from "../api/coolers";
import { useJob, useJobList } from "../api/jobs";
import { useParts } from "../api/parts";
import { Failing, Loading } from "./States";

const slots = [
  ["processor", "Processor"],
  ["cooler", "Cooler on it"],
  ["case", "Case"],
  ["board", "Board"],
  ["memory", "Memory"],
  ["graphics", "Card"],
] as const;

const ofParts = "parts";
const box = "min-h-11 w-full rounded-sm border border-edge bg-card px-2";

/** Which machine a place is about, kept in the address: a job's, or one put together from the workshop's parts. */
export function useChosenMachine() {
  const [address] = useSearchParams();
  const parts: ChosenParts = {};
  for (const [slot] of slots) {
    const name = address.get(slot);
    if (name) {
      parts[slot] = name;
    }
  }
  const jobId = address.get("job");
  return { jobId, parts: jobId === null ? parts : {}, byParts: jobId === null && address.has(ofParts) };
}

/** Chooses the machine; what else leads from it stands beside. */
export function MachinePicker({ label, children }: { label: string; children?: ReactNode }) {
  const [address, setAddress] = useSearchParams();
  const { jobId, byParts } = useChosenMachine();
  const jobs = useJobList("");
  const parts = useParts();
  // One that left long ago is not in the list, and is chosen all the same.
  const chosen = useJob(jobs.data && !jobs.data.some((job) => job.id === jobId) ? (jobId ?? undefined) : undefined);
  if (!jobs.data) {
    return jobs.isError ? (
      <Failing sentence={jobs.error.message} onRetry={() => void jobs.refetch()} />
    ) : (
      <Loading what="the jobs" />
    );
  }
  const open = jobs.data.filter((job) => job.waitsFor !== "done" || job.id === jobId);
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <label className="flex max-w-full flex-wrap items-center gap-3">
          <span className="text-muted">{label}</span>
          <select
            value={jobId ?? (byParts ? ofParts : "")}
            onChange={({ target: { value } }) =>
              setAddress(value === "" ? {} : value === ofParts ? { [ofParts]: "1" } : { job: value })
            }
            className="min-h-11 max-w-full rounded-sm border border-edge bg-card px-2"
          >
            <option value="">choose a machine …</option>
            <option value={ofParts}>one put together from parts</option>
            {chosen.data && (
              <option value={chosen.data.id}>
                {[chosen.data.tag, chosen.data.fields.owner ?? chosen.data.fields.machine].filter(Boolean).join(" ")}
              </option>
            )}
            {open.map((job) => (
              <option key={job.id} value={job.id}>
                {[job.tag, job.owner ?? job.machine].filter(Boolean).join(" ")}
              </option>
            ))}
          </select>
        </label>
        {jobId && (
          <Link
            to={`/jobs/${jobId}`}
            className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
          >
            its sheet
          </Link>
        )}
        {children}
      </div>
      {byParts && (
        <div className="mt-3 grid grid-cols-2 gap-3 lg:grid-cols-6">
          {slots.map(([slot, words]) => (
            <label key={slot} className="min-w-0">
              <span className="text-muted">{words}</span>
              <select
                aria-label={words}
                value={address.get(slot) ?? ""}
                onChange={({ target: { value } }) => {
                  const next = new URLSearchParams(address);
                  if (value) {
                    next.set(slot, value);
                  } else {
                    next.delete(slot);
                  }
                  setAddress(next, { replace: true });
                }}
                className={box}
              >
                <option value="">not known</option>
                {(parts.data ?? [])
                  .filter((part) => part.kind === slot && part.retiredAt === null)
                  .map((part) => (
                    <option key={part.id} value={part.name}>
                      {part.name}
                    </option>
                  ))}
              </select>
            </label>
          ))}
        </div>
      )}
    </>
  );
}
