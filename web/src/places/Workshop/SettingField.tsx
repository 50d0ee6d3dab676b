import { useId, useMemo } from "react";
import { useSaveSetting, useSettings, type Settings } from "../../api/settings";
import type { Parsed } from "../../parts/saving";
import { SaveWords } from "../../parts/SaveWords";
import { amount, digitsOf, minorIn, useCurrency } from "../../parts/useMoney";
import { useSaver } from "../../parts/useSaver";
import { readNumber } from "../../parts/words";

type Name = Exclude<keyof Settings, "weights" | "open" | "logo">;
/** An optional number may be left empty. */
type Kind = "text" | "note" | "number" | "optional" | "money" | "time";
type Value = string | number | null;

const formats: Record<Kind, (value: Value, currency: string) => string> = {
  text: String,
  note: (value) => String(value ?? ""),
  number: String,
  optional: (value) => (value === null ? "" : String(value)),
  money: (value, currency) => amount(Number(value), digitsOf(currency)),
  time: (value) => String(value ?? ""),
};

const number = (text: string, times: number): Parsed<Value> => {
  const value = readNumber(text);
  return value === undefined
    ? { sentence: "This is no number. Comma and point are both fine." }
    : { value: times === 1 ? value : Math.round(value * times) };
};

const parsers: Record<Kind, (text: string, currency: string) => Parsed<Value>> = {
  text: (text) => ({ value: text.trim() }),
  note: (text) => ({ value: text.trim() || null }),
  number: (text) => number(text, 1),
  optional: (text) => (text.trim() === "" ? { value: null } : number(text, 1)),
  money: (text, currency) => number(text, minorIn(currency)),
  time: (text) => ({ value: text || null }),
};

interface Props {
  name: Name;
  label: string;
  kind: Kind;
  suggestions?: readonly string[];
  /** Of a note: more than one line. */
  lines?: number;
}

/** A setting of the workshop that saves as it is typed. */
export function SettingField(props: Props) {
  const settings = useSettings();
  return settings.data ? (
    <Field {...props} stored={settings.data[props.name] ?? null} />
  ) : (
    <p role="status" className="m-0 text-muted">
      {settings.isError ? settings.error.message : `Fetching ${props.label.toLowerCase()} …`}
    </p>
  );
}

function Field({ name, label, kind, suggestions, lines, stored }: Props & { stored: Value }) {
  const id = useId();
  const saveSetting = useSaveSetting();
  const currency = useCurrency();
  const saving = useMemo(
    () => ({
      format: (value: Value) => formats[kind](value, currency),
      parse: (text: string) => parsers[kind](text, currency),
      save: (value: Value, base: Value) => saveSetting(name, value as never, base as never),
    }),
    [kind, name, currency, saveSetting],
  );
  const { draft, state, saver } = useSaver<string, Value>(`settings:${name}`, stored, saving);
  const words = kind === "text" || kind === "note";
  const box = {
    value: draft,
    "aria-invalid": state.kind === "wrong",
    "aria-describedby": `${id}-state`,
    onChange: (event: { target: { value: string } }) => saver.change(event.target.value),
    onBlur: () => void saver.flush(),
    className: `min-h-11 rounded-sm border border-hairline bg-card px-2 text-lg ${words ? "w-64" : kind === "time" ? "w-40 font-mono" : "w-32 font-mono"}`,
  };
  return (
    <div>
      <label className="flex items-center justify-between gap-3">
        <span>{label}</span>
        {lines ? (
          <textarea rows={lines} {...box} />
        ) : (
          <input
            type={kind === "time" ? "time" : undefined}
            inputMode={words || kind === "time" ? undefined : "decimal"}
            list={suggestions && `${id}-list`}
            {...box}
          />
        )}
      </label>
      {suggestions && (
        <datalist id={`${id}-list`}>
          {suggestions.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
      <SaveWords
        id={`${id}-state`}
        state={state}
        mine={draft}
        words={(theirs) => formats[kind](theirs as Value, currency)}
        onMine={() => saver.keepMine()}
        onTheirs={() => saver.takeTheirs()}
      />
    </div>
  );
}
