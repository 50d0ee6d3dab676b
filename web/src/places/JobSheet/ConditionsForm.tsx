import { useEffect, useRef, useState } from "react";
import { z } from "zod";
import { sentenceOf, type Run, type RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Choice } from "../../parts/Choice";
import { readNumber } from "../../parts/words";

const loads = [
  ["all-core", "All cores"],
  ["vector", "Heaviest"],
  ["cpu-and-gpu", "With graphics"],
  ["game-like", "Game-like"],
  ["own", "Owner’s own"],
] as const;
const panels = [
  ["closed", "Closed"],
  ["side-off", "Panel off"],
  ["open-bench", "Open bench"],
] as const;
const fans = [
  ["auto", "Automatic"],
  ["fixed", "Fixed"],
] as const;

const trials = [
  ["known-good-cooler", "A known-good cooler"],
  ["cooler-room", "A cooler room"],
  ["pump-full", "Pump at full"],
] as const;

/** What a typed condition may be; the server holds the same rules. */
const typed = z.object({
  fanPercent: z.number().min(0, "Fans run at 0 to 100 %.").max(100, "Fans run at 0 to 100 %.").nullable(),
  ambientC: z.number().min(-40, "A room has −40 to 60 °C.").max(60, "A room has −40 to 60 °C.").nullable(),
  temperatureLimitC: z
    .number()
    .min(40, "Limits lie between 40 and 130 °C.")
    .max(130, "Limits lie between 40 and 130 °C.")
    .nullable(),
});
type Typed = z.infer<typeof typed>;

/** How a run was made. A change reads the run anew under it. */
export function ConditionsForm({ run, actions }: { run: Run; actions: JobActions }) {
  const [conditions, setConditions] = useState(run.conditions);
  const [problem, setProblem] = useState<string>();
  const [seen, setSeen] = useState(run.version);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const version = useRef(run.version);
  if (seen !== run.version) {
    setSeen(run.version);
    setConditions(run.conditions);
  }
  useEffect(() => {
    version.current = run.version;
  }, [run.version]);

  const set = (change: Partial<RunConditions>) => {
    const next = { ...conditions, ...change };
    setConditions(next);
    setProblem(undefined);
    // One after the other: each change builds on the version that the one before made.
    queue.current = queue.current.then(async () => {
      try {
        const sheet = await actions.setConditions(run.id, next, version.current);
        version.current = sheet.runs.find((one) => one.id === run.id)?.version ?? version.current;
      } catch (failure) {
        setProblem(sentenceOf(failure, "Not saved."));
        void actions.refresh();
      }
    });
  };

  const known = loads.some(([value]) => value === conditions.workload);
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="sm:col-span-2">
        <Choice
          label="Load"
          value={known ? conditions.workload! : conditions.workload ? "own" : null}
          options={loads}
          onChange={(workload) => set({ workload })}
        />
        {!known && conditions.workload && <p className="mt-1">{conditions.workload}</p>}
      </div>
      <Choice label="Panel" value={conditions.panel ?? null} options={panels} onChange={(panel) => set({ panel })} />
      <Choice
        label="Fans"
        value={conditions.fanPolicy ?? null}
        options={fans}
        onChange={(fanPolicy) => set({ fanPolicy, fanPercent: fanPolicy === "auto" ? null : conditions.fanPercent })}
      />
      {conditions.fanPolicy === "fixed" && (
        <Typed label="Fixed at" unit="%" name="fanPercent" value={conditions.fanPercent ?? null} onSet={set} />
      )}
      <div className="sm:col-span-2">
        <Choice
          label="Tried, to see whether it cures it"
          value={conditions.trial ?? null}
          options={trials}
          clearable
          onChange={(trial) => set({ trial })}
        />
      </div>
      <Typed
        label="Room, one reading"
        unit="°C"
        name="ambientC"
        value={conditions.ambientC ?? null}
        onSet={set}
        hint="A room channel in the log wins over it."
      />
      <Typed
        label="Temperature limit"
        unit="°C"
        name="temperatureLimitC"
        value={conditions.temperatureLimitC ?? null}
        onSet={set}
      />
      {problem && (
        <p role="alert" className="font-semibold text-amber sm:col-span-2">
          Not saved: {problem}
        </p>
      )}
    </div>
  );
}

function Typed({
  label,
  unit,
  name,
  value,
  onSet,
  hint,
}: {
  label: string;
  unit: string;
  name: keyof Typed;
  value: number | null;
  onSet: (change: Partial<RunConditions>) => void;
  hint?: string;
}) {
  const [text, setText] = useState(value === null ? "" : String(value));
  const [sentence, setSentence] = useState<string>();
  const [seen, setSeen] = useState(value);
  if (seen !== value) {
    setSeen(value);
    setText(value === null ? "" : String(value));
  }
  const leave = () => {
    const number = text.trim() === "" ? null : readNumber(text);
    if (number === undefined) {
      setSentence("This is no number. Comma and point are both fine.");
      return;
    }
    const checked = typed.shape[name].safeParse(number);
    setSentence(checked.success ? undefined : checked.error.issues[0]?.message);
    if (checked.success && number !== value) {
      onSet({ [name]: number });
    }
  };
  return (
    <label className="block">
      <span className="mb-1 block text-muted">{label}</span>
      <span className="flex items-center gap-2">
        <input
          inputMode="decimal"
          className="min-h-11 w-28 rounded-sm border border-hairline bg-card px-3 font-mono text-lg"
          value={text}
          aria-invalid={sentence !== undefined}
          onChange={(event) => setText(event.target.value)}
          onBlur={leave}
          onKeyDown={(event) => event.key === "Enter" && leave()}
        />
        <span className="text-muted">{unit}</span>
      </span>
      {hint && <span className="mt-1 block text-sm text-muted">{hint}</span>}
      {sentence && (
        <span role="alert" className="mt-1 block font-semibold text-amber">
          Not saved: {sentence}
        </span>
      )}
    </label>
  );
}
