import { useMemo, useState } from "react";
import { Problem, type Run, type RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Choice } from "../../parts/Choice";
import { SaveWords } from "../../parts/SaveWords";
import type { SaveState } from "../../parts/saving";
import { useSaver } from "../../parts/useSaver";
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

/** What a condition may be; the server holds the same rules. */
const bounds = {
  fanPercent: [0, 100, "Fans run at 0 to 100 %."],
  ambientC: [-40, 60, "A room has −40 to 60 °C."],
  temperatureLimitC: [40, 130, "Limits lie between 40 and 130 °C."],
} as const;

/** How a run was made. A change reads the run anew under it. */
export function ConditionsForm({ run, actions }: { run: Run; actions: JobActions }) {
  const { id, version } = run;
  const { setConditions, refresh } = actions;
  const saving = useMemo(
    () => ({
      format: (value: RunConditions) => value,
      parse: (value: RunConditions) => ({ value }),
      save: async (value: RunConditions, base: RunConditions) => {
        try {
          await setConditions(id, value, version);
        } catch (failure) {
          throw await beside(failure, base, id, refresh);
        }
      },
    }),
    [id, version, setConditions, refresh],
  );
  const {
    draft: conditions,
    state,
    saver,
  } = useSaver<RunConditions, RunConditions>(`run:${id}:conditions`, run.conditions, saving);
  const set = (change: Partial<RunConditions>) => saver.change((now) => ({ ...now, ...change }), true);

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
        <Typed
          label="Fixed at"
          unit="%"
          name="fanPercent"
          value={conditions.fanPercent ?? null}
          onSet={(change) => saver.change((now) => ({ ...now, ...change }))}
        />
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
        onSet={(change) => saver.change((now) => ({ ...now, ...change }))}
        hint="A room channel in the log wins over it."
      />
      <Typed
        label="Temperature limit"
        unit="°C"
        name="temperatureLimitC"
        value={conditions.temperatureLimitC ?? null}
        onSet={(change) => saver.change((now) => ({ ...now, ...change }))}
      />
      <div className="sm:col-span-2">
        <SaveWords
          state={state}
          mine={inWords(conditions, state)}
          words={(theirs) => inWords(theirs as RunConditions, state, conditions)}
          onMine={() => saver.keepMine()}
          onTheirs={() => saver.takeTheirs()}
        />
      </div>
    </div>
  );
}

/** A run that was changed meanwhile: its conditions as they are now, to be shown beside one's own. One that was only read anew is saved once more. */
async function beside(failure: unknown, base: RunConditions, id: string, refresh: JobActions["refresh"]) {
  if (!(failure instanceof Problem) || failure.status !== 409) {
    return failure;
  }
  const theirs = (await refresh())?.runs.find((one) => one.id === id)?.conditions;
  return theirs === undefined || JSON.stringify(theirs) === JSON.stringify(base)
    ? new Problem(503, "The run was read anew meanwhile; this is saved in a moment.")
    : new Problem(409, failure.message, { theirs });
}

/** What two people have set differently, in words. */
function inWords(conditions: RunConditions, state: SaveState, beside?: RunConditions): string {
  const other = beside ?? (state.kind === "conflict" ? (state.theirs as RunConditions) : undefined);
  return Object.entries(conditions)
    .filter(([name, value]) => other && JSON.stringify(value) !== JSON.stringify(other[name as keyof RunConditions]))
    .map(([, value]) => (value === null ? "nothing" : typeof value === "object" ? "another load" : String(value)))
    .join(", ");
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
  name: keyof typeof bounds;
  value: number | null;
  onSet: (change: Partial<RunConditions>) => void;
  hint?: string;
}) {
  const shown = value === null ? "" : String(value);
  // What is typed stays as it was typed, until the field is left.
  const [typed, setTyped] = useState<string>();
  const [sentence, setSentence] = useState<string>();
  const type = (text: string) => {
    setTyped(text);
    const number = text.trim() === "" ? null : readNumber(text);
    const [low, high, wrong] = bounds[name];
    const problem =
      number === undefined
        ? "This is no number. Comma and point are both fine."
        : number !== null && (number < low || number > high)
          ? wrong
          : undefined;
    setSentence(problem);
    if (problem === undefined && number !== value) {
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
          value={typed ?? shown}
          aria-invalid={sentence !== undefined}
          onChange={(event) => type(event.target.value)}
          onBlur={() => sentence === undefined && setTyped(undefined)}
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
