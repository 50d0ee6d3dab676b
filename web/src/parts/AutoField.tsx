import clsx from "clsx";
import { useCallback, useId, useMemo } from "react";
import { useMe } from "../api/session";
import { choicesOf, fieldRow, valueOf, type FieldName } from "../api/jobFields";
import type { JobActions } from "../api/jobs";
import type { JobSheet } from "../api/client";
import { Button } from "./Button";
import { Choice } from "./Choice";
import { degreeSign } from "./degrees";
import { formatOf, parserOf, type FieldValue } from "./fieldText";
import { SaveWords } from "./SaveWords";
import { minorIn, useCurrency } from "./useMoney";
import { useSaver } from "./useSaver";
import { toLocalInput } from "./words";

interface FieldProps {
  job: JobSheet;
  actions: JobActions;
  name: FieldName;
  /** Instead of the table's. */
  label?: string;
  hint?: string;
}

/** A field of a job under the save machine: its text, how it stands, and what changes it. */
function useField({ job, actions, name }: FieldProps) {
  const { saveField } = actions;
  const { kind } = fieldRow(name);
  const minor = minorIn(useCurrency());
  const save = useCallback((value: FieldValue, base: FieldValue) => saveField(name, value, base), [saveField, name]);
  const saving = useMemo(
    () => ({
      parse: parserOf(kind, minor),
      format: kind === "instant" ? (value: FieldValue) => toLocalInput(value as string | null) : formatOf(kind, minor),
      save,
    }),
    [kind, minor, save],
  );
  const { draft, state, saver } = useSaver<string, FieldValue>(
    `${job.id}:${name}`,
    valueOf(job, name) as FieldValue,
    saving,
  );
  return {
    text: draft ?? "",
    state,
    change: (text: string, now = false) => saver.change(text, now),
    flush: () => void saver.flush(),
    words: (id: string) => (
      <SaveWords
        id={id}
        state={state}
        mine={draft ?? ""}
        words={(theirs) => formatOf(kind, minor)(theirs as FieldValue)}
        onMine={() => saver.keepMine()}
        onTheirs={() => saver.takeTheirs()}
      />
    ),
  };
}

const box =
  "w-full min-h-11 rounded-sm border border-hairline bg-card px-3 py-2 text-ink focus:border-teal disabled:resize-none disabled:border-transparent disabled:bg-transparent disabled:px-0 disabled:placeholder:text-transparent";

/** What tells of a field beside its label: its hint, and how it stands. */
const describedBy = (id: string, hint?: string) => `${hint ? `${id}-hint ` : ""}${id}-state`;

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
  const field = useField(props);
  const shared = {
    id,
    value: field.text,
    placeholder: props.placeholder,
    "aria-invalid": field.state.kind === "wrong",
    "aria-describedby": describedBy(id, props.hint),
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
export function NumberField(props: FieldProps) {
  const id = useId();
  const field = useField(props);
  const row = fieldRow(props.name);
  return (
    <Frame id={id} {...props} field={field}>
      <div className="flex items-center gap-2">
        <input
          id={id}
          inputMode="decimal"
          className={clsx(box, "max-w-32 font-mono text-lg")}
          value={field.text}
          aria-invalid={field.state.kind === "wrong"}
          aria-describedby={describedBy(id, props.hint)}
          data-field={props.name}
          onChange={(event) => field.change(event.target.value)}
          onBlur={field.flush}
        />
        <span className="text-muted">{row.kind === "temperature" ? degreeSign() : row.unit}</span>
      </div>
    </Frame>
  );
}

/** A date, or a date and time in the technician's own zone. */
export function DateField(props: FieldProps & { quick?: readonly (readonly [words: string, date: string])[] }) {
  const id = useId();
  const field = useField(props);
  const row = fieldRow(props.name);
  const withTime = row.kind === "instant";
  return (
    <Frame id={id} {...props} field={field}>
      <div className={clsx("flex flex-wrap items-center gap-2", !props.quick && "md:flex-nowrap")}>
        <input
          id={id}
          type={withTime ? "datetime-local" : "date"}
          className={clsx(box, withTime ? "max-w-60" : "max-w-44")}
          value={field.text}
          aria-describedby={describedBy(id, props.hint)}
          data-field={props.name}
          onChange={(event) => field.change(event.target.value)}
          onBlur={field.flush}
        />
        {row.past && withTime && (
          <Button onClick={() => field.change(toLocalInput(new Date().toISOString()), true)}>Now</Button>
        )}
        {props.quick?.map(([words, date]) => (
          <Button key={words} onClick={() => field.change(date, true)}>
            {words}
          </Button>
        ))}
      </div>
    </Frame>
  );
}

/** Somebody who works here. */
export function PersonField(props: FieldProps & { people: readonly (readonly [id: string, name: string])[] }) {
  const id = useId();
  const field = useField(props);
  const known = field.text === "" || props.people.some(([person]) => person === field.text);
  return (
    <Frame id={id} {...props} field={field}>
      <select
        id={id}
        className={box}
        value={field.text}
        aria-describedby={describedBy(id, props.hint)}
        data-field={props.name}
        onChange={(event) => field.change(event.target.value, true)}
      >
        <option value="">anyone free</option>
        {!known && <option value={field.text}>someone who has left</option>}
        {props.people.map(([person, name]) => (
          <option key={person} value={person}>
            {name}
          </option>
        ))}
      </select>
    </Frame>
  );
}

/** A choice that saves when it is made. */
export function ChoiceField(props: FieldProps) {
  const id = useId();
  const field = useField(props);
  return (
    <div data-field={props.name}>
      <OnlyRead>
        <Choice
          label={props.label ?? fieldRow(props.name).label}
          value={field.text || null}
          options={choicesOf(props.name)}
          clearable
          onChange={(value) => field.change(value ?? "", true)}
        />
      </OnlyRead>
      {field.words(`${id}-state`)}
    </div>
  );
}

/** Whoever looks on reads a field: nothing of it can be typed or pressed, and it does not look so. */
function OnlyRead({ children }: { children: React.ReactNode }) {
  const me = useMe();
  return (
    <fieldset disabled={me?.rights === "reader"} className="m-0 min-w-0 border-0 p-0">
      {children}
    </fieldset>
  );
}

function Frame({
  id,
  name,
  label,
  hint,
  field,
  children,
}: FieldProps & { id: string; field: ReturnType<typeof useField>; children: React.ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-muted">
        {label ?? fieldRow(name).label}
      </label>
      <OnlyRead>{children}</OnlyRead>
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-muted">
          {hint}
        </p>
      )}
      {field.words(`${id}-state`)}
    </div>
  );
}
