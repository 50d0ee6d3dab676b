import { Plus, X } from "lucide-react";
import { useEffect, useId, useState, type ReactNode } from "react";
import { Problem } from "../../api/client";
import { usePartActions, type Part, type PartField } from "../../api/parts";
import { Button } from "../../parts/Button";
import { forgetDraft, readDraft, writeDraft } from "../../parts/saving";
import { draftKey, type Draft } from "./Parts";

const box = "min-h-11 w-full rounded-sm border border-hairline bg-card px-2";

type Typed = Pick<Draft, "name" | "cells">;

/** A part's fields, each as it would stand in a table's cell; what does not go is told in a sentence, and stays typed. */
export function PartForm({
  draft,
  fields,
  learnt,
  onKept,
  onClose,
  children,
}: {
  draft: Draft;
  fields: readonly PartField[];
  learnt: string | null;
  onKept: (part: Part) => void;
  onClose: () => void;
  children?: ReactNode;
}) {
  const actions = usePartActions();
  // What was typed of it before and never saved comes first; it was begun on the version that was there then.
  const [kept] = useState(() => readDraft<Typed, number | null>(draftKey(draft)));
  const [name, setName] = useState(kept?.draft.name ?? draft.name);
  const [cells, setCells] = useState(kept?.draft.cells ?? draft.cells);
  const [version, setVersion] = useState(kept ? kept.base : draft.version);
  const [problem, setProblem] = useState<string>();
  const [theirs, setTheirs] = useState<Part>();
  const [before, setBefore] = useState<Draft>();
  const changed = name !== draft.name || JSON.stringify(cells) !== JSON.stringify(draft.cells);
  useEffect(() => {
    if (changed) {
      writeDraft(draftKey(draft), { name, cells }, version);
    } else {
      forgetDraft(draftKey(draft));
    }
  }, [changed, draft, name, cells, version]);
  const save = async (wanted: Draft) => {
    setProblem(undefined);
    try {
      const kept = await actions.type(wanted.id, {
        kind: wanted.kind,
        name: wanted.name,
        cells: wanted.cells,
        version: wanted.version,
      });
      forgetDraft(draftKey(draft));
      setTheirs(undefined);
      setVersion(kept.version);
      setName(kept.name);
      setCells(kept.cells);
      onKept(kept);
    } catch (failure) {
      const refused = failure instanceof Problem ? failure : new Problem(0, "It could not be kept.");
      setProblem(refused.message);
      setTheirs(refused.more.theirs as Part | undefined);
    }
  };
  return (
    <form
      aria-label={draft.id ? draft.name : "A new part"}
      className="border-l-4 border-teal pl-4"
      onSubmit={(event) => {
        event.preventDefault();
        setBefore(draft.id ? draft : undefined);
        void save({ ...draft, name, cells, version });
      }}
    >
      <label className="block">
        <span className="text-muted">Name</span>
        <input
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
          className={`${box} text-lg font-bold`}
        />
      </label>
      {kept && changed && <p className="my-2 text-amber">Typed before and not saved yet.</p>}
      {learnt && <p className="my-2 text-teal">{learnt}</p>}
      <div className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
        {fields.map((field) => (
          <Field
            key={field.name}
            field={field}
            value={cells[field.name] ?? ""}
            onChange={(value) => setCells({ ...cells, [field.name]: value })}
          />
        ))}
      </div>
      {problem && (
        <p role="alert" className="my-2 border-l-4 border-amber pl-3 font-semibold text-amber">
          {problem}
        </p>
      )}
      {theirs && (
        <div className="my-2 flex flex-wrap items-center gap-3">
          <span>
            Theirs:{" "}
            {fields
              .filter((field) => (theirs.cells[field.name] ?? "") !== (cells[field.name] ?? ""))
              .map((field) => `${field.title} ${theirs.cells[field.name] ?? "nothing"}`)
              .join("; ") || "the same"}
          </span>
          <Button onClick={() => void save({ ...draft, name, cells, version: theirs.version })}>Keep mine</Button>
          <Button
            onClick={() => {
              setName(theirs.name);
              setCells(theirs.cells);
              setVersion(theirs.version);
              setTheirs(undefined);
              setProblem(undefined);
              onKept(theirs);
            }}
          >
            Take theirs
          </Button>
        </div>
      )}
      <div className="mt-3 flex flex-wrap gap-3">
        <Button kind="main" type="submit" disabled={!changed || name.trim() === ""}>
          {draft.id ? "Save" : "Keep it"}
        </Button>
        <Button
          onClick={() => {
            forgetDraft(draftKey(draft));
            onClose();
          }}
        >
          {changed ? "Leave it as it was" : "Close"}
        </Button>
        {before && !changed && (
          <Button
            onClick={() => {
              setBefore(undefined);
              void save({ ...before, version });
            }}
          >
            Undo
          </Button>
        )}
        {children}
      </div>
    </form>
  );
}

function Field({ field, value, onChange }: { field: PartField; value: string; onChange: (value: string) => void }) {
  const id = useId();
  if (field.type === "rows") {
    return <Rows field={field} value={value} onChange={onChange} />;
  }
  const wide = field.type === "texts" || field.type === "text";
  return (
    <div className={wide ? "col-span-2" : "min-w-0"}>
      <label htmlFor={id} className="text-muted">
        {field.title}
        {field.unit ? `, ${field.unit}` : ""}
        {field.needed && <span className="text-copper-text"> · needed</span>}
      </label>
      {field.choices && field.type === "choice" ? (
        <select id={id} value={value} onChange={(event) => onChange(event.target.value)} className={box}>
          <option value="">not known</option>
          {field.choices.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      ) : field.type === "yes-no" ? (
        <select id={id} value={value} onChange={(event) => onChange(event.target.value)} className={box}>
          <option value="">not known</option>
          <option>yes</option>
          <option>no</option>
        </select>
      ) : (
        <input
          id={id}
          value={value}
          inputMode={wide ? undefined : "decimal"}
          placeholder={field.choices?.join(" ")}
          aria-describedby={field.hint ? `${id}-hint` : undefined}
          onChange={(event) => onChange(event.target.value)}
          className={`${box} ${wide ? "" : "font-mono"}`}
        />
      )}
      {field.hint && (
        <p id={`${id}-hint`} className="m-0 text-muted">
          {field.hint}
        </p>
      )}
    </div>
  );
}

/** Rows of a part, such as fans or headers: a line of small fields each. */
function Rows({ field, value, onChange }: { field: PartField; value: string; onChange: (value: string) => void }) {
  const of = field.of ?? [];
  const rows =
    value === ""
      ? []
      : value.split(";").map((row) =>
          row
            .trim()
            .split(":")
            .map((cell) => cell.trim()),
        );
  const write = (next: string[][]) => onChange(next.map((row) => row.join(":").replace(/:+$/, "")).join("; "));
  const set = (i: number, column: number, text: string) =>
    write(
      rows.map((row, at) =>
        at === i ? of.map((_, j) => (j === column ? text.replace(/[:;]/g, "") : (row[j] ?? ""))) : row,
      ),
    );
  return (
    <fieldset className="col-span-2 m-0 min-w-0 border-0 border-t border-hairline p-0 pt-2">
      <legend className="float-left mb-1 w-full p-0 font-bold">{field.title}</legend>
      <div className="clear-both grid gap-2">
        {rows.map((row, i) => (
          <div key={i} className="flex flex-wrap items-end gap-2">
            {of.map((one, column) => (
              <label key={one.name} className="w-28 min-w-0">
                <span className="block text-muted">
                  {one.title}
                  {one.unit ? `, ${one.unit}` : ""}
                </span>
                {one.choices ? (
                  <select
                    value={row[column] ?? ""}
                    onChange={(event) => set(i, column, event.target.value)}
                    className={box}
                  >
                    <option value="">?</option>
                    {one.choices.map((choice) => (
                      <option key={choice}>{choice}</option>
                    ))}
                  </select>
                ) : (
                  <input
                    value={row[column] ?? ""}
                    onChange={(event) => set(i, column, event.target.value)}
                    className={`${box} font-mono`}
                  />
                )}
              </label>
            ))}
            <button
              type="button"
              aria-label={`Take row ${i + 1} of ${field.title} out`}
              onClick={() => write(rows.filter((_, at) => at !== i))}
              className="flex size-11 items-center justify-center text-muted"
            >
              <X size={20} aria-hidden="true" />
            </button>
          </div>
        ))}
        <Button
          className="justify-self-start"
          onClick={() => write([...rows, of.map((one, i) => (i === 0 ? (one.choices?.[0] ?? "0") : ""))])}
        >
          <Plus size={18} aria-hidden="true" /> A row
        </Button>
      </div>
    </fieldset>
  );
}
