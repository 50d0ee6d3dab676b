import { FilePlus2, RefreshCw } from "lucide-react";
import { useState, type Ref } from "react";
import { sentenceOf, type JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { Fold } from "../../parts/Fold";
import { degreeBy, degreesBy } from "../../parts/degrees";
import { moment } from "../../parts/words";
import { ImportRows } from "./ImportRows";
import { RunCard } from "./RunCard";
import { SetupFields } from "./SetupFields";
import { lastMount, type Setup } from "./setups";
import type { useImports } from "./useImports";

const accepted = ".csv,.tsv,.txt,.log,.json,text/*";

/** A setup: what was changed, the times its cooler was put on, and the runs that were made on each. */
export function SetupRuns({
  setup,
  job,
  actions,
  imports,
  picker,
  pickerRef,
}: {
  setup: Setup;
  job: JobSheet;
  actions: JobActions;
  imports: ReturnType<typeof useImports>;
  /** before or after, where the next step asks for a log here; null elsewhere. */
  picker: string | null;
  pickerRef?: Ref<HTMLInputElement>;
}) {
  const [problem, setProblem] = useState<string>();
  const mounts = new Set(setup.mounts.map((mount) => mount.id));
  const runs = job.runs.filter((run) => run.setup === setup.number);
  const first = setup.number === 1;
  const remount = () => {
    setProblem(undefined);
    actions
      .addMount(setup.number, new Date().toISOString())
      .catch((failure: unknown) => setProblem(sentenceOf(failure, "The mount was not noted.")));
  };
  return (
    <section aria-label={setup.name} className="border-t border-hairline py-3 first:border-t-0">
      <h3 className="flex flex-wrap items-baseline gap-x-3 text-xl font-bold">
        {setup.name}
        {setup.current && job.setups.length > 1 && <span className="text-base font-normal text-teal">on it now</span>}
        {setup.failedWhy && <span className="text-base font-semibold text-amber">abandoned: {setup.failedWhy}</span>}
      </h3>
      {!first && (
        <Fold title="What was changed" gist={gistOf(setup)} open={runs.length === 0}>
          <SetupFields setup={setup} job={job} actions={actions} />
        </Fold>
      )}
      {setup.mounts.map((mount) => (
        <div key={mount.id}>
          {(setup.mounts.length > 1 || mount.mountedAt) && (
            <p className="mt-3 mb-0 text-muted">
              Mount {mount.number}
              {mount.mountedAt ? `, put on ${moment(mount.mountedAt)}` : ""}
              {mount.runs === 0 ? ": no run yet" : ""}
              {mount.settling ? `. ${settlingWords(mount.settling)}` : ""}
            </p>
          )}
          {runs
            .filter((run) => run.mountId === mount.id)
            .map((run) => (
              <RunCard key={run.id} run={run} job={job} actions={actions} />
            ))}
        </div>
      ))}
      <ImportRows
        sending={imports.sending.filter((one) => mounts.has(one.mount))}
        imports={job.imports.filter((one) => mounts.has(one.mountId))}
        actions={actions}
      />
      {problem && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {problem}
        </p>
      )}
      {!setup.failedWhy && (
        <div className="mt-2 flex flex-wrap items-center gap-3 border border-dashed border-edge px-5 py-3">
          <p className="grow basis-72">{empty(first, runs.length, setup)}</p>
          <label>
            <span className="sr-only">Choose logs of {setup.name}</span>
            <input
              ref={pickerRef}
              type="file"
              multiple
              accept={accepted}
              className="sr-only"
              tabIndex={-1}
              data-picker={picker ?? `setup-${setup.number}`}
              onChange={(event) => {
                void imports.add(lastMount(setup).id, [...(event.target.files ?? [])]);
                event.target.value = "";
              }}
            />
          </label>
          <Button onClick={(event) => event.currentTarget.parentElement?.querySelector("input")?.click()}>
            <FilePlus2 size={20} aria-hidden="true" /> {runs.length === 0 ? "Choose a log" : "Add another log"}
          </Button>
          {runs.length > 0 && setup.current && (
            <Button onClick={remount}>
              <RefreshCw size={18} aria-hidden="true" /> Cooler lifted and put back
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

/** How a mount's paste settled, in a sentence. */
export function settlingWords(settling: NonNullable<Setup["mounts"][number]["settling"]>): string {
  const { gainC, halfWidthC, halfLifeHours, leftC } = settling;
  const hours = halfLifeHours < 48 ? `${halfLifeHours.toFixed(0)} h` : `${(halfLifeHours / 24).toFixed(0)} days`;
  return Math.abs(gainC) <= halfWidthC
    ? `Its paste has not measurably settled: ${degreesBy(gainC, 1)} ± ${degreeBy(halfWidthC, 1)} over ${settling.runs} runs.`
    : `Its paste settled by ${degreesBy(gainC, 1)} ± ${degreeBy(halfWidthC, 1)}, half of it within ${hours}; ${Math.abs(leftC) < 0.05 ? "nothing more" : degreesBy(leftC, 1)} still to come.`;
}

function empty(first: boolean, runs: number, setup: Setup): string {
  return runs === 0
    ? first
      ? "Drop the log of the before run anywhere on this page: idle until level, full load, cool-down, case closed."
      : "Drop the log here: same load, panel and fans as before."
    : setup.mounts.length > 1
      ? "A further run counts on the last mount."
      : "A further run on this mount narrows little; lifting the cooler and putting it back tells more.";
}

/** What a setup changed, in a line. */
function gistOf(setup: Setup): string {
  const values = setup.values as Record<string, string | number | null>;
  const told = Object.entries(values)
    .filter(([name, value]) => value !== null && name !== "priceMinor" && name !== "failedWhy" && name !== "coolerKind")
    .map(([, value]) => String(value));
  return told.length > 0 ? told.join(", ") : `like setup ${setup.like}, nothing noted yet`;
}
