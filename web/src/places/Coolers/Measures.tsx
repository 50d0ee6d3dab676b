import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type JobFieldValues, type JobSheet, type Schemas } from "../../api/client";
import { useKeepMeasure, type Candidate } from "../../api/coolers";
import type { FieldName } from "../../api/jobFields";
import type { JobActions } from "../../api/jobs";
import { useParts } from "../../api/parts";
import { NumberField } from "../../parts/AutoField";
import { Button } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { RulerDrawing } from "../../pictures/RulerDrawing";

type Measure = Schemas["MeasureRow"];

interface Wanted {
  name: string;
  atLeastMm: number | null;
  atMostMm: number | null;
}

const mostNamed = 5;
const measureNeeded = "measure-needed";

/** What the coolers that hang on a measure want of it, the easiest first. */
function wantedBy(field: string, candidates: readonly Candidate[]): Wanted[] {
  return candidates
    .flatMap((one) =>
      one.reasons
        .filter((reason) => reason.measure?.field === field)
        .map(({ measure }) => ({
          name: one.name,
          atLeastMm: measure!.atLeastMm ?? null,
          atMostMm: measure!.atMostMm ?? null,
        })),
    )
    .sort((one, other) => (one.atLeastMm ?? -(one.atMostMm ?? 0)) - (other.atLeastMm ?? -(other.atMostMm ?? 0)));
}

const wantWords = ({ name, atLeastMm, atMostMm }: Wanted) =>
  atLeastMm !== null
    ? `${Math.ceil(atLeastMm)} mm or more for ${name}`
    : atMostMm !== null
      ? `up to ${Math.floor(atMostMm)} mm for ${name}`
      : name;

/** Lengths that a ruler answers at the machine: each decides some coolers, stays on the job, and may go into the part. */
export function Measures({
  job,
  actions,
  measures,
  candidates,
}: {
  job: JobSheet;
  actions: JobActions;
  measures: readonly Measure[];
  candidates: readonly Candidate[];
}) {
  const open = candidates.filter((one) => one.fits === null);
  const shown = measures
    .map((measure) => ({ measure, wanted: wantedBy(measure.field, open) }))
    .filter(({ measure, wanted }) => wanted.length > 0 || valueIn(job, measure.field) !== null);
  const unsaid = unsaidOf(open);
  return (
    <>
      {shown.map(({ measure, wanted }) => (
        <MeasureAsked key={measure.field} job={job} actions={actions} measure={measure} wanted={wanted} />
      ))}
      {unsaid.length > 0 && (
        <section aria-label="What the parts do not say" className="mt-4">
          <h3 className="text-lg font-bold">What the parts do not say</h3>
          <ul className="m-0 list-none p-0">
            {unsaid.map(({ message, of, names }) => (
              <li key={message} className="flex flex-wrap items-center gap-x-4 border-t border-hairline py-1">
                <span>{keepUnits(bare(message))}</span>
                {of === "cooler" ? (
                  names.slice(0, mostNamed).map((name) => (
                    <Link key={name} to={partPage("cooler", name)} className={link}>
                      {name}
                    </Link>
                  ))
                ) : (
                  <Link to={pageOf(job, of)} className={link}>
                    {names.length === 1 ? "One cooler depends" : `${names.length} coolers hang`} on it
                  </Link>
                )}
                {of === "cooler" && names.length > mostNamed && (
                  <span className="text-muted">{`and ${names.length - mostNamed} more`}</span>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

/** “Measure first: how high the cooler is.” as what is not known. */
function bare(message: string) {
  const what = message.replace(/^Measure first: /, "");
  return what.charAt(0).toUpperCase() + what.slice(1);
}

/** What no ruler at the machine answers, each once with the coolers that hang on it. */
function unsaidOf(open: readonly Candidate[]) {
  const all = new Map<string, { message: string; of: string; names: string[] }>();
  for (const one of open) {
    for (const { code, message, measure, of } of one.reasons) {
      if (code === measureNeeded && !measure) {
        const known = all.get(message) ?? { message, of: of ?? "cooler", names: [] };
        known.names.push(one.name);
        all.set(message, known);
      }
    }
  }
  return [...all.values()].sort((one, other) => other.names.length - one.names.length);
}

const link = "inline-flex min-h-11 items-center font-semibold text-teal underline underline-offset-4";

const partPage = (kind: string, name: string) => `/coolers/parts?kind=${kind}&search=${encodeURIComponent(name)}`;

/** Where a part of the machine is told more of: among the parts, or at the intake while nobody has noted which it is. */
function pageOf(job: JobSheet, kind: string) {
  const name = job.fields[kind as keyof JobFieldValues] as string | null;
  return name ? partPage(kind, name) : `/jobs/${job.id}#intake`;
}

const valueIn = (job: JobSheet, field: string) => job.fields[field as keyof JobFieldValues] as number | null;

function MeasureAsked({
  job,
  actions,
  measure,
  wanted,
}: {
  job: JobSheet;
  actions: JobActions;
  measure: Measure;
  wanted: readonly Wanted[];
}) {
  const value = valueIn(job, measure.field);
  const more = wanted.length - mostNamed;
  return (
    <section
      aria-label={measure.title}
      className="grid gap-x-6 gap-y-2 border-t border-hairline py-3 sm:grid-cols-[200px_minmax(0,1fr)]"
    >
      <RulerDrawing field={measure.field} title={measure.title} className="w-50" />
      <div className="min-w-0">
        <NumberField job={job} actions={actions} name={measure.field as FieldName} label={measure.title} />
        <p className="mt-1 mb-0">{keepUnits(measure.how)}</p>
        {wanted.length > 0 && (
          <p className="mt-1 mb-0 text-muted">
            Decides {wanted.length === 1 ? "one cooler" : `${wanted.length} coolers`}:{" "}
            {keepUnits(wanted.slice(0, mostNamed).map(wantWords).join("; "))}
            {more > 0 ? `, and ${more} more` : ""}.
          </p>
        )}
        {value !== null && <IntoPart job={job} measure={measure} value={value} />}
      </div>
    </section>
  );
}

/** What was measured here is offered to the part, so that nobody measures the next one of its kind. */
function IntoPart({ job, measure, value }: { job: JobSheet; measure: Measure; value: number }) {
  const parts = useParts();
  const keep = useKeepMeasure(job.id);
  const [problem, setProblem] = useState<string>();
  const name = job.fields[measure.part as keyof JobFieldValues] as string | null;
  const part = parts.data?.find(
    (one) => one.kind === measure.part && one.name.toLowerCase() === name?.trim().toLowerCase(),
  );
  if (!part) {
    return null;
  }
  const known = measure.place
    ? part.values.case?.radiators?.find((one) => one.place === measure.place)?.maxThicknessMm
    : Number(part.cells[measure.partField] ?? NaN);
  return known === value ? (
    <p className="mt-1 mb-0 text-muted">{part.name} says the same.</p>
  ) : (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <Button
        onClick={() => {
          setProblem(undefined);
          void keep(measure.field).catch((failure: unknown) =>
            setProblem(sentenceOf(failure, "The part was not changed.")),
          );
        }}
      >
        Keep it with the part {part.name}
      </Button>
      {known != null && !Number.isNaN(known) && <span className="text-muted">It says {keepUnits(`${known} mm`)}.</span>}
      {problem && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {problem}
        </p>
      )}
    </div>
  );
}
