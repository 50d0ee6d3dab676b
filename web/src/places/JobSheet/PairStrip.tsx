import { useSearchParams } from "react-router";
import type { JobSheet } from "../../api/client";
import { viewOf, viewText, type View } from "../../api/view";
import { Choice } from "../../parts/Choice";
import { loadWords } from "./loadWords";

const select = "min-h-11 max-w-full rounded-sm border border-edge bg-card px-2";

const subjects: Record<string, string> = { processor: "Processor", graphics: "Graphics card" };

/** What everything on the sheet is said of: which setup is held against which, under which load, and whose cooling. */
export function PairStrip({ job }: { job: JobSheet }) {
  const [search, setSearch] = useSearchParams();
  const { pair, setups } = job;
  if (pair.before.length + pair.after.length === 0) {
    return null;
  }
  const view = viewOf(search);
  const look = (change: View) => setSearch(new URLSearchParams(viewText({ ...view, ...change })), { replace: true });
  const loads = pair.loads.filter((load) => load !== null);
  const withRuns = setups.filter((setup) => job.runs.some((run) => run.setup === setup.number));
  return (
    <div
      role="group"
      aria-label="What is compared"
      className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-hairline pt-2"
    >
      {withRuns.length < 2 ? (
        <span className="font-semibold">{pair.words}</span>
      ) : (
        <>
          <Setups
            label="Judged"
            value={pair.compared ?? 0}
            none={pair.compared === null}
            options={withRuns.filter((setup) => setup.number !== pair.reference)}
            onChange={(compared) => look({ compared })}
          />
          <Setups
            label="against"
            value={pair.reference}
            options={withRuns.filter((setup) => setup.number !== pair.compared)}
            onChange={(reference) => look({ reference })}
          />
        </>
      )}
      {loads.length > 1 ? (
        <label className="flex items-center gap-2">
          <span className="text-muted">under</span>
          <select
            value={pair.load ?? ""}
            onChange={(event) => look({ load: event.target.value || undefined })}
            className={select}
          >
            {loads.map((load) => (
              <option key={load} value={load}>
                {loadWords(load)}
              </option>
            ))}
          </select>
        </label>
      ) : (
        <span className="text-muted">under {loadWords(pair.load)}</span>
      )}
      {pair.subjects.length > 1 && (
        <Choice
          label="Whose cooling"
          hideLabel
          value={pair.subject}
          options={pair.subjects.map((one) => [one, subjects[one] ?? one] as const)}
          onChange={(subject) => look({ subject: (subject as View["subject"]) ?? undefined })}
        />
      )}
      {viewText(view) !== "" && (
        <button
          type="button"
          className="min-h-11 text-teal underline"
          onClick={() => setSearch(new URLSearchParams(), { replace: true })}
        >
          Back to what leaves
        </button>
      )}
    </div>
  );
}

function Setups({
  label,
  value,
  options,
  none = false,
  onChange,
}: {
  label: string;
  value: number;
  /** Whether nothing that stands has a run to be judged by. */
  none?: boolean;
  options: JobSheet["setups"];
  onChange: (number: number) => void;
}) {
  return (
    <label className="flex min-w-0 items-center gap-2">
      <span className="text-muted">{label}</span>
      <select value={value} onChange={(event) => onChange(Number(event.target.value))} className={select}>
        {none && <option value={0}>nothing yet</option>}
        {options.map((setup) => (
          <option key={setup.id} value={setup.number}>
            {setup.name}
            {setup.failedWhy ? " (abandoned)" : ""}
          </option>
        ))}
      </select>
    </label>
  );
}
