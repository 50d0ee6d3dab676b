import { CopyPlus, Download, Plus } from "lucide-react";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { partFile, usePartActions, usePartFields, useParts, type Part, type PartField } from "../../api/parts";
import { Button, buttonLook } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { keptDrafts } from "../../parts/saving";
import { Failing, Loading } from "../../parts/States";
import { telling } from "../../parts/told";
import { amount, digitsOf, useCurrency } from "../../parts/useMoney";
import { useTitle } from "../../parts/useTitle";
import { PartFile } from "./PartFile";
import { PartForm } from "./PartForm";
import { Rates } from "./Rates";

export const kinds = [
  ["cooler", "Coolers"],
  ["processor", "Processors"],
  ["case", "Cases"],
  ["board", "Boards"],
  ["memory", "Memory"],
  ["graphics", "Cards"],
  ["fan", "Fans"],
] as const;

/** What of a part is worth a glance in the list. */
const glance: Record<string, readonly string[]> = {
  cooler: ["kind", "heightMm", "radiatorSizeMm", "priceMinor"],
  processor: ["socket", "sustainedPowerW", "temperatureLimitC", "priceMinor"],
  case: ["maxCoolerHeightMm", "maxCardLengthMm", "priceMinor"],
  board: ["socket", "memoryFromSocketMm", "firstSlotFromSocketMm"],
  memory: ["heightMm", "priceMinor"],
  graphics: ["powerW", "lengthMm", "priceMinor"],
  fan: ["sizeMm", "maxRpm", "noiseAtMaxDba", "priceMinor"],
};

/** A part being typed: a known one, or a new one that may begin as another's double. */
export interface Draft {
  id: string | null;
  kind: string;
  name: string;
  cells: Record<string, string>;
  version: number | null;
}

/** Where what is typed of a part is kept in this browser until it is saved. */
export const draftKey = (draft: Draft) => `part:${draft.id ?? `new ${draft.kind}`}`;

/** The workshop's own library: searched, typed in, doubled, retired, and out and in as files. */
export function PartsPlace() {
  const [address, setAddress] = useSearchParams();
  const kind = address.get("kind") ?? "cooler";
  const search = address.get("search") ?? "";
  const parts = useParts();
  const fields = usePartFields();
  const actions = usePartActions();
  const [draft, setDraft] = useState<Draft>();
  const [retired, setRetired] = useState(false);
  const [gone, setGone] = useState<Part>();
  useTitle("Parts");
  const failure = parts.error ?? fields.error;
  if (!parts.data || !fields.data) {
    return failure ? (
      <Failing sentence={failure.message} onRetry={() => void parts.refetch()} />
    ) : (
      <Loading what="the parts" />
    );
  }
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(address);
    if (value) {
      next.set(name, value);
    } else {
      next.delete(name);
    }
    setAddress(next, { replace: name === "search" });
  };
  const own = fields.data.find((one) => one.kind === kind)?.fields ?? [];
  const wanted = search.toLowerCase().split(/\s+/).filter(Boolean);
  const all = parts.data.filter((part) => part.kind === kind);
  const shown = all.filter(
    (part) =>
      (retired || part.retiredAt === null) &&
      wanted.every((word) => `${part.name} ${Object.values(part.cells).join(" ")}`.toLowerCase().includes(word)),
  );
  const open = (part: Part | null, double = false): Draft => ({
    id: part && !double ? part.id : null,
    kind,
    name: part ? `${part.name}${double ? ", double" : ""}` : "",
    cells: { ...(part?.cells ?? {}) },
    version: part && !double ? part.version : null,
  });
  return (
    <div className="px-4 py-5 md:px-7">
      <Link to="/coolers" className="inline-flex min-h-11 items-center text-teal underline underline-offset-4">
        Coolers for a machine
      </Link>
      <h1 className="text-3xl font-bold">The workshop’s parts</h1>
      <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-3">
        <Choice label="Kind" hideLabel value={kind} options={kinds} onChange={(next) => next && set("kind", next)} />
        <label className="min-w-56 grow">
          <span className="sr-only">Search the parts</span>
          <input
            type="search"
            value={search}
            placeholder="name, socket, size …"
            onChange={(event) => set("search", event.target.value)}
            className="min-h-11 w-full rounded-sm border border-edge bg-card px-3"
          />
        </label>
      </div>
      <div className="mt-3 flex flex-wrap gap-3">
        <Button kind="main" onClick={() => setDraft(open(null))}>
          <Plus size={18} aria-hidden="true" /> A new one
        </Button>
        <PartFile />
        <a href={partFile(kind, "csv")} download className={buttonLook("plain")}>
          <Download size={18} aria-hidden="true" /> As CSV
        </a>
        <a href={partFile(null, "json")} download className={buttonLook("plain")}>
          <Download size={18} aria-hidden="true" /> All as JSON
        </a>
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            checked={retired}
            onChange={() => setRetired(!retired)}
            className="size-6 accent-teal"
          />
          <span>with those retired</span>
        </label>
      </div>
      {gone && (
        <p role="status" className="mt-3 mb-0 flex flex-wrap items-center gap-3">
          {gone.name} is retired: it is offered no more, and stays known where it is on a machine.
          <Button onClick={() => telling(actions.retire(gone.id, false).then(() => setGone(undefined)))}>
            Bring it back
          </Button>
        </p>
      )}
      <div className="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_440px]">
        <div className="min-w-0">
          <List
            parts={shown}
            fields={own.filter((field) => glance[kind]?.includes(field.name))}
            openId={draft?.id ?? undefined}
            typed={keptDrafts()}
            onOpen={(part) => setDraft(open(part))}
          />
          {shown.length === 0 && (
            <p className="text-xl">
              {all.length === 0 ? "None is known yet. Type one in, or take a file." : "None is found."}
            </p>
          )}
        </div>
        <aside className="min-w-0">
          {draft ? (
            <PartForm
              key={draftKey(draft)}
              draft={draft}
              fields={fields.data.find((one) => one.kind === draft.kind)?.fields ?? []}
              learnt={parts.data.find((part) => part.id === draft.id)?.learnt ?? null}
              onKept={(part) =>
                setDraft({ id: part.id, kind: part.kind, name: part.name, cells: part.cells, version: part.version })
              }
              onClose={() => setDraft(undefined)}
            >
              {draft.id && (
                <>
                  <Button
                    onClick={() =>
                      setDraft(
                        open(
                          parts.data.find((part) => part.id === draft.id)!,
                          true,
                        ),
                      )
                    }
                  >
                    <CopyPlus size={18} aria-hidden="true" /> Double it
                  </Button>
                  <Retire
                    part={parts.data.find((part) => part.id === draft.id)}
                    onRetire={(part, wanted) =>
                      telling(
                        actions.retire(part.id, wanted).then((now) => {
                          setGone(wanted ? now : undefined);
                          setDraft(undefined);
                        }),
                        "It was not retired.",
                      )
                    }
                  />
                </>
              )}
            </PartForm>
          ) : (
            <>
              <Rates />
              <Link to="/workshop" className="inline-flex min-h-11 items-center text-teal underline underline-offset-4">
                More about the workshop
              </Link>
            </>
          )}
        </aside>
      </div>
    </div>
  );
}

function Retire({ part, onRetire }: { part: Part | undefined; onRetire: (part: Part, wanted: boolean) => void }) {
  return (
    part && (
      <Button onClick={() => onRetire(part, part.retiredAt === null)}>
        {part.retiredAt === null ? "Retire it" : "Bring it back"}
      </Button>
    )
  );
}

function List({
  parts,
  fields,
  openId,
  typed,
  onOpen,
}: {
  parts: readonly Part[];
  fields: readonly PartField[];
  openId?: string;
  /** Keys of drafts that wait in this browser. */
  typed: readonly string[];
  onOpen: (part: Part) => void;
}) {
  const currency = useCurrency();
  return (
    <ul aria-label="Parts" className="m-0 list-none p-0">
      {parts.map((part) => (
        <li key={part.id} className="border-t border-hairline">
          <button
            type="button"
            aria-pressed={part.id === openId}
            onClick={() => onOpen(part)}
            className="group grid min-h-12 w-full grid-cols-[minmax(0,1fr)] items-baseline gap-x-4 py-2 text-left aria-pressed:bg-teal-soft sm:grid-cols-[minmax(0,14rem)_minmax(0,1fr)]"
          >
            <span className="font-semibold">
              {part.name}
              {typed.includes(`part:${part.id}`) && <span className="font-normal text-amber"> · typed, not saved</span>}
              {part.retiredAt !== null && <span className="font-normal text-amber"> · retired</span>}
            </span>
            <span className="text-muted group-aria-pressed:text-ink">
              {Object.keys(part.cells).length === 0
                ? "known by name alone"
                : fields
                    .filter((field) => part.cells[field.name])
                    .map((field) => glanceOf(field, part.cells[field.name]!, currency))
                    .join(" · ")}
              {part.learnt && <span className="block text-teal">{part.learnt}</span>}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}

const glanceOf = (field: PartField, text: string, currency: string) =>
  field.type === "money"
    ? amount(Number(text), digitsOf(currency))
    : field.unit
      ? `${field.title.toLowerCase()} ${text} ${field.unit}`
      : text;
