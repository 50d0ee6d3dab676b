import { FilePlus2 } from "lucide-react";
import type { Ref } from "react";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import type { Side } from "../../pictures/lanes";
import { ImportRows } from "./ImportRows";
import { RunCard } from "./RunCard";
import type { useImports } from "./useImports";

const accepted = ".csv,.tsv,.txt,.log,text/*";

const empty: Record<Side, string> = {
  before: "Drop the log of the before run anywhere on this page: idle until level, full load, cool-down, case closed.",
  after: "Drop the log of the after run anywhere on this page: same load, panel and fans as before.",
};

/** The runs of one side: those that are read, those on their way, and where the next one comes in. */
export function RunSide({
  side,
  job,
  actions,
  imports,
  pickerRef,
}: {
  side: Side;
  job: JobSheet;
  actions: JobActions;
  imports: ReturnType<typeof useImports>;
  pickerRef: Ref<HTMLInputElement>;
}) {
  const runs = job.runs.filter((run) => run.side === side);
  const sending = imports.sending.filter((one) => one.side === side);
  const reading = job.imports.filter((one) => one.side === side);
  return (
    <div>
      {runs.map((run) => (
        <RunCard key={run.id} run={run} actions={actions} />
      ))}
      <ImportRows sending={sending} imports={reading} actions={actions} />
      <div className="flex flex-wrap items-center gap-4 border border-dashed border-edge px-5 py-4">
        <p className="grow basis-72">{runs.length === 0 ? empty[side] : "A further run makes the figures sharper."}</p>
        <label>
          <span className="sr-only">Choose logs of the {side} run</span>
          <input
            ref={pickerRef}
            type="file"
            multiple
            accept={accepted}
            className="sr-only"
            tabIndex={-1}
            data-picker={side}
            onChange={(event) => {
              void imports.add(side, [...(event.target.files ?? [])]);
              event.target.value = "";
            }}
          />
        </label>
        <Button onClick={(event) => event.currentTarget.parentElement?.querySelector("input")?.click()}>
          <FilePlus2 size={20} aria-hidden="true" /> {runs.length === 0 ? "Choose a log" : "Add another log"}
        </Button>
      </div>
    </div>
  );
}
