import clsx from "clsx";
import { useCallback, useId } from "react";
import type { JobActions } from "../api/jobs";
import type { JobFieldValues, JobSheet } from "../api/client";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { useAutosave, type SaveState } from "./useAutosave";
import { inMonths, readNumber, toLocalInput } from "./words";

type Name = keyof JobFieldValues;
type Value = string | number | null;

interface FieldProps {
  job: JobSheet;
  actions: JobActions;
  name: Name;
  label: string;
  hint?: string;
}

const asText = (text: string) => ({ value: text.trim() === "" ? null : text });
const asNumber = (text: string) => {
  if (text.trim() === "") {
    return { value: null };
  }
  const value = readNumber(text);
  return value === undefined ? { sentence: "This is no number. Comma and point are both fine." } : { value };
};
const asMoment = (text: string) => ({ value: text === "" ? null : new Date(text).toISOString() });
const plain = (value: Value) => (value === null ? "" : String(value));

function useField(
  { job, actions, name }: FieldProps,
  parse: (text: string) => { value: Value } | { sentence: string },
  format = plain,
) {
  const { saveField } = actions;
  const save = useCallback((value: Value, base: Value) => saveField(name, value, base), [saveField, name]);
  return useAutosave<Value>({
    stored: job.fields[name] as Value,
    format,
    parse,
    save,
    draftKey: `${job.id}:${String(name)}`,
  });
}

const box = "w-full min-h-11 rounded-sm border border-hairline bg-card px-3 py-2 text-ink focus:border-teal";

/** A line or some lines of text that save as they are typed. */
export function TextField(
  props: FieldProps & {
    lines?: number;
    placeholder?: string;
    /** What may be meant; anything else can be typed as well. */
    suggestions?: readonly string[];
    onText?: (text: string) => void;
  },
) {
  const id = useId();
  const field = useField(props, asText);
  const shared = {
    id,
    value: field.text,
    placeholder: props.placeholder,
    "aria-invalid": field.state.kind === "wrong",
    "aria-describedby": `${id}-state`,
    onChange: (event: { target: { value: string } }) => {
      field.change(event.target.value);
      props.onText?.(event.target.value);
    },
    onBlur: field.flush,
    "data-field": props.name,
  };
  const list = props.suggestions && `${id}-list`;
  return (
    <Frame id={id} {...props} field={field}>
      {props.lines ? (
        <textarea rows={props.lines} className={clsx(box, "resize-y")} {...shared} />
      ) : (
        <input className={box} list={list} {...shared} />
      )}
      {list && (
        <datalist id={list}>
          {props.suggestions!.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      )}
    </Frame>
  );
}

/** A number with its unit; comma and point are both taken. */
export function NumberField(props: FieldProps & { unit: string }) {
  const id = useId();
  const field = useField(props, asNumber);
  return (
    <Frame id={id} {...props} field={field}>
      <div className="flex items-center gap-2">
        <input
          id={id}
          inputMode="decimal"
          className={clsx(box, "max-w-32 font-mono text-lg")}
          value={field.text}
          aria-invalid={field.state.kind === "wrong"}
          aria-describedby={`${id}-state`}
          data-field={props.name}
          onChange={(event) => field.change(event.target.value)}
          onBlur={field.flush}
        />
        <span className="text-muted">{props.unit}</span>
      </div>
    </Frame>
  );
}

/** A date, or a date and time in the technician's own zone. */
export function DateField(
  props: FieldProps & { withTime?: boolean; quick?: readonly (readonly [words: string, months: number])[] },
) {
  const id = useId();
  const field = useField(
    props,
    props.withTime ? asMoment : asText,
    props.withTime ? (value) => toLocalInput(value as string | null) : plain,
  );
  return (
    <Frame id={id} {...props} field={field}>
      <div className="flex flex-wrap items-center gap-2 md:flex-nowrap">
        <input
          id={id}
          type={props.withTime ? "datetime-local" : "date"}
          className={clsx(box, props.withTime ? "max-w-60" : "max-w-44")}
          value={field.text}
          aria-describedby={`${id}-state`}
          data-field={props.name}
          onChange={(event) => field.change(event.target.value)}
          onBlur={field.flush}
        />
        {props.withTime && (
          <Button onClick={() => field.change(toLocalInput(new Date().toISOString()), true)}>Now</Button>
        )}
        {props.quick?.map(([words, months]) => (
          <Button key={words} onClick={() => field.change(inMonths(months), true)}>
            {words}
          </Button>
        ))}
      </div>
    </Frame>
  );
}

/** A choice that saves when it is made. */
export function ChoiceField(props: FieldProps & { options: readonly (readonly [string, string])[] }) {
  const id = useId();
  const field = useField(props, asText);
  return (
    <div data-field={props.name}>
      <Choice
        label={props.label}
        value={field.text || null}
        options={props.options}
        clearable
        onChange={(value) => field.change(value ?? "", true)}
      />
      <State id={id} state={field.state} field={field} />
    </div>
  );
}

function Frame({
  id,
  label,
  hint,
  field,
  children,
}: FieldProps & { id: string; field: ReturnType<typeof useField>; children: React.ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-muted">
        {label}
      </label>
      {children}
      {hint && <p className="mt-1 text-muted">{hint}</p>}
      <State id={id} state={field.state} field={field} />
    </div>
  );
}

const quietWords: Partial<Record<SaveState["kind"], string>> = { saving: "Saving …", saved: "Saved" };

function State({ id, state, field }: { id: string; state: SaveState; field: ReturnType<typeof useField> }) {
  if (state.kind === "conflict") {
    const theirs = state.theirs as Value;
    return (
      <div id={`${id}-state`} role="alert" className="mt-2 border-l-4 border-amber pl-3">
        <p>
          {state.by ?? "Somebody"} changed this while you typed. Theirs: <strong>{plain(theirs) || "(empty)"}</strong>.
          Yours: <strong>{field.text || "(empty)"}</strong>.
        </p>
        <div className="mt-2 flex gap-2">
          <Button onClick={() => field.keepMine(theirs)}>Keep mine</Button>
          <Button onClick={() => field.takeTheirs(theirs)}>Take theirs</Button>
        </div>
      </div>
    );
  }
  const sentence = state.kind === "wrong" || state.kind === "unsaved" ? state.sentence : undefined;
  return (
    <p
      id={`${id}-state`}
      role={sentence ? "alert" : "status"}
      className={clsx("mt-1 min-h-0", sentence ? "font-semibold text-amber" : "text-sm text-muted")}
    >
      {sentence ? (state.kind === "wrong" ? `Not saved: ${sentence}` : sentence) : (quietWords[state.kind] ?? "")}
    </p>
  );
}
