import { useState } from "react";
import type { Run, RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Choice } from "../../parts/Choice";
import { celsiusOf, degrees, degreeSign, typedDegrees } from "../../parts/degrees";
import { SaveWords } from "../../parts/SaveWords";
import type { SaveState } from "../../parts/saving";
import { readNumber } from "../../parts/words";
import { Fold } from "../../parts/Fold";
import { loads } from "./loadWords";
import { useConditions } from "./useConditions";

const loadChoices = [...loads, ["own", "Owner’s own"]] as const;
const panels = [
  ["closed", "Closed"],
  ["side-off", "Panel off"],
  ["open-bench", "Open bench"],
] as const;
const fans = [
  ["auto", "Automatic"],
  ["fixed", "Fixed"],
] as const;

const cardLoads = [
  ["idle", "Idle"],
  ["light", "Light"],
  ["full", "Full"],
] as const;

const trials = [
  ["known-good-cooler", "A known-good cooler"],
  ["cooler-room", "A cooler room"],
  ["pump-full", "Pump at full"],
] as const;

const limits = "Limits lie between {least} and {most}.";

/** What a condition may be; the server holds the same rules. */
const bounds = {
  fanPercent: [0, 100, "Fans run at 0 to 100 %."],
  ambientC: [-40, 60, "A room has {least} to {most}."],
  temperatureLimitC: [40, 130, limits],
  fanRpm: [0, 20000, "A fan turns 0 to 20000 times a minute."],
  powerCapW: [0, 2000, "A cap lies between 1 and 2000 W; 0 is none."],
  clockLockMHz: [0, 20000, "A lock lies between 100 and 20000 MHz; 0 is none."],
  voltageLockV: [0, 3, "A core has 0.2 to 3 V; 0 is none."],
  gpuTemperatureLimitC: [40, 130, limits],
  gpuHotspotLimitC: [40, 150, limits],
  gpuMemoryLimitC: [40, 150, limits],
  soundDba: [5, 120, "A machine is 5 to 120 dB(A) loud."],
  soundDistanceM: [0.05, 10, "A meter stands 0.05 to 10 m away."],
  score: [0.000001, 1e12, "A score is above zero."],
} as const;

/** How a run was made. A change reads the run anew under it. */
export function ConditionsForm({ run, actions }: { run: Run; actions: JobActions }) {
  const { draft: conditions, state, saver } = useConditions(run, actions);
  const set = (change: Partial<RunConditions>) => saver.change((now) => ({ ...now, ...change }), true);

  const typed = (label: string, unit: string, name: keyof typeof bounds, hint?: string) => (
    <Typed
      key={name}
      label={label}
      unit={unit}
      name={name}
      value={conditions[name] ?? null}
      onSet={(change) => saver.change((now) => ({ ...now, ...change }))}
      hint={hint}
    />
  );

  const known = loads.some(([value]) => value === conditions.workload);
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="sm:col-span-2">
        <Choice
          label="Load"
          value={known ? conditions.workload! : conditions.workload ? "own" : null}
          options={loadChoices}
          onChange={(workload) => set({ workload: workload === "own" ? "the owner’s own load" : workload })}
        />
        {!known && conditions.workload && (
          <Words label="Its name" value={conditions.workload} onSet={(workload) => set({ workload })} />
        )}
      </div>
      <Choice label="Panel" value={conditions.panel ?? null} options={panels} onChange={(panel) => set({ panel })} />
      <Choice
        label="Fans"
        value={conditions.fanPolicy ?? null}
        options={fans}
        onChange={(fanPolicy) => set({ fanPolicy, fanPercent: fanPolicy === "auto" ? null : conditions.fanPercent })}
      />
      {conditions.fanPolicy === "fixed" && (
        <div className="flex flex-wrap gap-4">
          {typed("Fixed at", "%", "fanPercent")}
          {typed("or at", "rpm", "fanRpm")}
        </div>
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
      {typed("Room, one reading", degreeSign(), "ambientC", "A room channel in the log wins over it.")}
      {typed("Temperature limit", degreeSign(), "temperatureLimitC")}
      <div className="sm:col-span-2">
        <Fold title="Caps, card, sound, score" gist={more(conditions)}>
          <div className="grid gap-4 sm:grid-cols-3">
            {typed("Power cap", "W", "powerCapW", "0 says: none")}
            {typed("Clock lock", "MHz", "clockLockMHz", "0 says: none")}
            {typed("Voltage lock", "V", "voltageLockV", "0 says: none")}
            <div className="sm:col-span-3">
              <Choice
                label="Graphics card meanwhile"
                value={conditions.cardLoad ?? null}
                options={cardLoads}
                clearable
                onChange={(cardLoad) => set({ cardLoad })}
              />
            </div>
            {typed("Card’s limit", degreeSign(), "gpuTemperatureLimitC")}
            {typed("Hot spot’s limit", degreeSign(), "gpuHotspotLimitC")}
            {typed("Memory’s limit", degreeSign(), "gpuMemoryLimitC")}
            {typed("Sound, by hand", "dB(A)", "soundDba", "Under load, when it is level.")}
            {typed("from", "m", "soundDistanceM", "The same distance each time.")}
            {typed("Score", "", "score")}
            <Words
              label="Score of"
              value={conditions.scoreName ?? ""}
              onSet={(scoreName) => set({ scoreName: scoreName || null })}
            />
            <Words
              label="What else is different"
              value={conditions.changed ?? ""}
              onSet={(changed) => set({ changed: changed || null })}
            />
          </div>
        </Fold>
      </div>
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

/** What two people have set differently, in words. */
function inWords(conditions: RunConditions, state: SaveState, beside?: RunConditions): string {
  const other = beside ?? (state.kind === "conflict" ? (state.theirs as RunConditions) : undefined);
  return Object.entries(conditions)
    .filter(([name, value]) => other && JSON.stringify(value) !== JSON.stringify(other[name as keyof RunConditions]))
    .map(([, value]) => (value === null ? "nothing" : typeof value === "object" ? "another load" : String(value)))
    .join(", ");
}

/** What is noted of a run beyond the usual, in a line. */
function more(conditions: RunConditions): string {
  const { powerCapW, cardLoad, soundDba, score, changed } = conditions;
  const told = [
    powerCapW ? `capped at ${powerCapW} W` : powerCapW === 0 ? "no cap" : null,
    cardLoad ? `card ${cardLoad}` : null,
    soundDba ? `${soundDba} dB(A)` : null,
    score ? `score ${score}` : null,
    changed,
  ].filter(Boolean);
  return told.length > 0 ? told.join(", ") : "nothing noted";
}

/** A line of words that is saved when it is left. */
function Words({ label, value, onSet }: { label: string; value: string; onSet: (value: string) => void }) {
  const [typed, setTyped] = useState<string>();
  return (
    <label className="block">
      <span className="mb-1 block text-muted">{label}</span>
      <input
        className="min-h-11 w-full rounded-sm border border-hairline bg-card px-3"
        maxLength={200}
        value={typed ?? value}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => {
          if (typed !== undefined && typed.trim() !== value) {
            onSet(typed.trim());
          }
          setTyped(undefined);
        }}
      />
    </label>
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
  name: keyof typeof bounds;
  value: number | null;
  onSet: (change: Partial<RunConditions>) => void;
  hint?: string;
}) {
  const isTemperature = name.endsWith("C");
  const shown = value === null ? "" : isTemperature ? typedDegrees(value) : String(value);
  // What is typed stays as it was typed, until the field is left.
  const [typed, setTyped] = useState<string>();
  const [sentence, setSentence] = useState<string>();
  const type = (text: string) => {
    setTyped(text);
    const read = text.trim() === "" ? null : readNumber(text);
    const number = isTemperature && read != null ? celsiusOf(read) : read;
    const [low, high, wrong] = bounds[name];
    const problem =
      number === undefined
        ? "This is no number. Comma and point are both fine."
        : number !== null && (number < low || number > high)
          ? wrong.replace("{least}", degrees(low)).replace("{most}", degrees(high))
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
