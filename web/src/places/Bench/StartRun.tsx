import { useState } from "react";
import { useSearchParams } from "react-router";
import { useBayChoices, type Bay } from "../../api/bays";
import type { JobSheet, JobTag, Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { useJob } from "../../api/jobs";
import { Choice } from "../../parts/Choice";
import { readNumber } from "../../parts/words";
import { currentSetup, lastMount } from "../JobSheet/setups";

const times = [1, 2, 3, 5].map((count) => [String(count), count === 1 ? "once" : `${count} times`] as const);

const field = "min-h-11 w-full rounded-sm border border-edge bg-card px-2";

/** What a run needs to begin: whose machine, on which setup and mount, and how it is run, with the reason why one would. */
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
  const job = useJob(jobId || undefined);
  const mounts = (job.data?.setups ?? [])
    .filter((setup) => !setup.failedWhy)
    .flatMap((setup) => setup.mounts.map((mount) => ({ setup, mount })));
  // A form that is not filled yet would be held back by the browser, without a word.
  const ready = choices.data !== undefined && jobs.some((one) => one.id === jobId);
  const onIt = job.data && lastMount(currentSetup(job.data)).id;
  const [mountId, setMountId] = useState<string>();
  const mount = mounts.some((one) => one.mount.id === mountId) ? mountId : onIt;
  const [percents, setPercents] = useState(asked.get("fans") ?? "60");
  const [turns, setTurns] = useState(asked.get("rpm") ?? "");
  const [remount, setRemount] = useState(false);
  const [variant, setVariant] = useState(asked.get("variant") ?? "usual");
  const [work, setWork] = useState(asked.get("work") ?? "all-core");
  const [count, setCount] = useState("1");
  const [minutes, setMinutes] = useState("level");
  const chosen = choices.data?.variants.find((one) => one.id === variant);
  const load = choices.data?.loads.find((one) => one.id === work);
  const fixed = variant === "fixed-fans";
  const speeds = percents
    .split(/[\s;/]+/)
    .filter(Boolean)
    .map(readNumber);
  const rpm = readNumber(turns);
  const wrong = !fixed
    ? undefined
    : turns.trim() !== ""
      ? rpm === undefined || rpm < 100 || rpm > 10000
        ? "A fan turns 100 to 10000 times a minute."
        : undefined
      : speeds.length === 0 || speeds.some((one) => one === undefined || one < 0 || one > 100)
        ? "Fans are fixed at 0 to 100 %; several speeds stand apart by a space."
        : undefined;
  const alone = chosen?.needs == null || bay.sender?.obeys.includes(chosen.needs) === true;
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onStart({
          jobId,
          mountId: mount,
          variant,
          work,
          times: Number(count),
          remount: remount && Number(count) > 1,
          ...(fixed && (turns.trim() !== "" ? { fanRpm: rpm } : { fanPercents: speeds as number[] })),
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
      {asked.has("next") && job.data && (
        <p className="m-0 border-l-4 border-teal pl-3 text-lg font-semibold">
          {nextWords(job.data, fixed ? { percents, turns } : undefined)}
        </p>
      )}
      {mounts.length > 0 && (
        <label>
          <span className="text-muted">Measured on</span>
          <select value={mount} onChange={(event) => setMountId(event.target.value)} className={field}>
            {mounts.map((one) => (
              <option key={one.mount.id} value={one.mount.id}>
                {one.setup.name}
                {one.setup.mounts.length > 1 ? `, mount ${one.mount.number}` : ""}
                {one.mount.id === onIt ? " (on it now)" : ""}
              </option>
            ))}
          </select>
        </label>
      )}
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
      {fixed && (
        <div className="grid grid-cols-2 gap-3">
          <label>
            <span className="text-muted">Fixed at, %</span>
            <input value={percents} onChange={(event) => setPercents(event.target.value)} className={field} />
            <span className="mt-1 block text-muted">Several in one go: 40 60 100</span>
          </label>
          <label>
            <span className="text-muted">or at, rpm</span>
            <input
              inputMode="decimal"
              value={turns}
              onChange={(event) => setTurns(event.target.value)}
              className={field}
            />
          </label>
          {wrong && (
            <p role="alert" className="col-span-2 m-0 font-semibold text-amber">
              {wrong}
            </p>
          )}
        </div>
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
      {Number(count) > 1 && (
        <Choice
          label="Between them"
          value={remount ? "remount" : "repeat"}
          options={[
            ["repeat", "leave it as it sits"],
            ["remount", "lift the cooler and put it back"],
          ]}
          onChange={(wanted) => setRemount(wanted === "remount")}
        />
      )}
      {Number(count) > 1 && (
        <p className="m-0 text-muted">
          {remount
            ? "Each is a mount of its own: that is what narrows a verdict."
            : "Repeats share a mount: they narrow only what a run scatters by itself, not how the cooler happens to sit."}
        </p>
      )}
      <div className="flex gap-3">
        <Button kind="main" type="submit" disabled={!ready || wrong !== undefined}>
          Start
        </Button>
        <Button onClick={onCancel}>Not now</Button>
      </div>
    </form>
  );
}

/** What the series wants next: “Next: Setup 5 Mullion Hush, Tallow Grey 5, fans fixed at 60 %.” */
function nextWords(job: JobSheet, fans: { percents: string; turns: string } | undefined): string {
  const setup = currentSetup(job);
  const { paste } = setup.whole;
  const at = fans ? (fans.turns.trim() ? `${fans.turns} rpm` : `${fans.percents} %`) : undefined;
  return `Next: ${[setup.name, paste && paste !== setup.title ? paste : undefined, at ? `fans fixed at ${at}` : "fans by themselves"].filter(Boolean).join(", ")}.`;
}
