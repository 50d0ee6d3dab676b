import { useState } from "react";
import { useSearchParams } from "react-router";
import { useBayChoices, type Bay } from "../../api/bays";
import type { JobTag, Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";

const sides = [
  ["before", "Before"],
  ["after", "After"],
] as const;

const times = [1, 2, 3, 5].map((count) => [String(count), count === 1 ? "once" : `${count} times`] as const);

const field = "min-h-11 w-full rounded-sm border border-edge bg-card px-2";

/** What a run needs to begin: whose machine, before or after the repair, and how it is run, with the reason why one would. */
export function StartRun({
  bay,
  jobs,
  onStart,
  onCancel,
}: {
  bay: Bay;
  jobs: readonly JobTag[];
  onStart: (run: Schemas["StartRun"]) => void;
  onCancel: () => void;
}) {
  const choices = useBayChoices();
  const [asked] = useSearchParams();
  const [jobId, setJobId] = useState(asked.get("job") ?? bay.run?.jobId ?? "");
  const [side, setSide] = useState(bay.run?.side ?? "before");
  const [variant, setVariant] = useState(asked.get("variant") ?? "usual");
  const [work, setWork] = useState("all-core");
  const [count, setCount] = useState("1");
  const [minutes, setMinutes] = useState("level");
  const chosen = choices.data?.variants.find((one) => one.id === variant);
  const load = choices.data?.loads.find((one) => one.id === work);
  const alone = chosen?.needs == null || bay.sender?.obeys.includes(chosen.needs) === true;
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onStart({
          jobId,
          side,
          variant,
          work,
          times: Number(count),
          loadSeconds: minutes === "level" ? null : 60 * Number(minutes),
        });
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
          {(choices.data?.variants ?? []).map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}
            </option>
          ))}
        </select>
      </label>
      {chosen && (
        <p className="m-0">
          {chosen.why}{" "}
          {chosen.byHand &&
            (alone && chosen.needs ? "This machine does it by itself." : <strong>{chosen.byHand}</strong>)}
        </p>
      )}
      {variant !== "by-hand" && (
        <label>
          <span className="text-muted">Load</span>
          <select value={work} onChange={(event) => setWork(event.target.value)} className={field}>
            {(choices.data?.loads ?? []).map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
          </select>
          {load && <span className="mt-1 block">{load.why}</span>}
        </label>
      )}
      <div className="grid grid-cols-2 gap-3">
        <label>
          <span className="text-muted">How long</span>
          <select value={minutes} onChange={(event) => setMinutes(event.target.value)} className={field}>
            <option value="level">until it is level</option>
            {[5, 10, 20, 30, 60].map((one) => (
              <option key={one} value={one}>
                {one} min of load
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="text-muted">How often</span>
          <select value={count} onChange={(event) => setCount(event.target.value)} className={field}>
            {times.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="flex gap-3">
        <Button kind="main" type="submit" disabled={jobId === ""}>
          Start
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </div>
    </form>
  );
}
