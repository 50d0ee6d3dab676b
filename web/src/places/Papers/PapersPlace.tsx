import clsx from "clsx";
import { ArrowLeft, FileDown, Plus, X } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { sentenceOf } from "../../api/client";
import { useJob } from "../../api/jobs";
import { paperPdf, usePaperActions, usePapers, type NewLine, type Paper, type PaperList } from "../../api/papers";
import { Button, buttonLook } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Failing, Loading } from "../../parts/States";
import { amount } from "../../parts/useMoney";
import { useTitle } from "../../parts/useTitle";
import { day, keepUnits, readNumber } from "../../parts/words";
import { fromLine, lineOf, sumOf, type Typed } from "./lines";

/** Quotes and bills of a job: made from what was chosen and done, opened as documents, agreed, taken back. */
export function PapersPlace() {
  const { id } = useParams();
  const job = useJob(id!);
  const papers = usePapers(id!);
  useTitle(job.data ? `${job.data.tag} quote and bill` : "Quote and bill");
  const failure = job.error ?? papers.error;
  if (!job.data || !papers.data) {
    return failure ? (
      <Failing sentence={failure.message} onRetry={() => void papers.refetch()} />
    ) : (
      <Loading what="quotes and bills" />
    );
  }
  return (
    <div className="px-4 py-5 md:px-7">
      <Link to={`/jobs/${job.data.id}`} className={buttonLook("plain")}>
        <ArrowLeft size={20} aria-hidden="true" /> {job.data.tag}
      </Link>
      <h1 className="mt-4 text-3xl leading-tight font-bold">Quote and bill</h1>
      <div className="mt-4 grid gap-x-10 gap-y-8 lg:grid-cols-[minmax(0,1fr)_420px]">
        <NewPaper key={papers.data.papers.length} jobId={job.data.id} list={papers.data} />
        <Made jobId={job.data.id} list={papers.data} />
      </div>
    </div>
  );
}

const box = "min-h-11 w-full rounded-sm border border-hairline bg-card px-2";

function NewPaper({ jobId, list }: { jobId: string; list: PaperList }) {
  const { make } = usePaperActions(jobId);
  const [typed, setTyped] = useState<readonly Typed[]>(() => list.proposed.map((line) => fromLine(line, list.digits)));
  const [problem, setProblem] = useState<string>();
  const lines = typed.map((line) => lineOf(line, list.digits));
  const whole = lines.every((line) => line !== undefined) && lines.length > 0;
  const sum = sumOf(
    lines.filter((line) => line !== undefined),
    list.rates.taxPercent,
  );
  const set = (i: number, more: Partial<Typed>) =>
    setTyped(typed.map((line, j) => (i === j ? { ...line, ...more } : line)));
  const send = (kind: "quote" | "bill") => {
    setProblem(undefined);
    const wanted = lines.flatMap((line): NewLine[] =>
      line ? [{ what: line.what, quantity: line.quantity, unit: line.unit, unitMinor: line.unitMinor }] : [],
    );
    make(kind, wanted).catch((failure: unknown) => setProblem(sentenceOf(failure, "It could not be made.")));
  };
  const write = (minor: number) => amount(minor, list.digits);
  return (
    <section aria-label="The next one">
      <h2 className="text-xl font-bold">The next one</h2>
      {typed.length === 0 && (
        <p className="mt-1">
          Nothing was chosen and nothing was noted as used yet. Add lines, or choose first what is done.
        </p>
      )}
      <div className="mt-2 grid gap-2">
        {typed.length > 0 && (
          <div
            aria-hidden="true"
            className="grid grid-cols-[minmax(0,1fr)_5rem_6.5rem_6rem_2.75rem] gap-2 text-muted [&>span:not(:first-child)]:text-right"
          >
            <span>what</span>
            <span>how many</span>
            <span>price</span>
            <span>{list.currency}</span>
          </div>
        )}
        {typed.map((line, i) => (
          <div key={i} className="grid grid-cols-[minmax(0,1fr)_5rem_6.5rem_6rem_2.75rem] items-center gap-2">
            <input
              aria-label={`Line ${i + 1}, what`}
              className={box}
              value={line.what}
              onChange={(event) => set(i, { what: event.target.value })}
            />
            <input
              aria-label={`Line ${i + 1}, ${line.unit === "min" ? "minutes" : "how many"}`}
              className={`${box} text-right font-mono`}
              inputMode="decimal"
              value={line.quantity}
              aria-invalid={readNumber(line.quantity) === undefined}
              onChange={(event) => set(i, { quantity: event.target.value })}
            />
            <input
              aria-label={`Line ${i + 1}, ${line.unit === "min" ? "price of an hour" : "price of one"}`}
              className={`${box} text-right font-mono`}
              inputMode="decimal"
              value={line.price}
              aria-invalid={readNumber(line.price) === undefined}
              onChange={(event) => set(i, { price: event.target.value })}
            />
            <span className="text-right font-mono">{lines[i] ? write(lines[i].netMinor) : "—"}</span>
            <button
              type="button"
              aria-label={`Take line ${i + 1} out`}
              onClick={() => setTyped(typed.filter((_, j) => j !== i))}
              className="grid min-h-11 place-items-center"
            >
              <X size={20} aria-hidden="true" />
            </button>
            {list.seen[line.what] && (
              <p className={clsx("col-span-full m-0", list.seen[line.what]!.early && "text-amber")}>
                {keepUnits(list.seen[line.what]!.sentence)} <span className="text-muted">Not on the paper.</span>
              </p>
            )}
          </div>
        ))}
      </div>
      <div className="mt-2 flex flex-wrap gap-3">
        <Button onClick={() => setTyped([...typed, { what: "", quantity: "1", unit: null, price: "" }])}>
          <Plus size={18} aria-hidden="true" /> A part
        </Button>
        <Button
          onClick={() =>
            setTyped([
              ...typed,
              { what: "Labour", quantity: "", unit: "min", price: write(list.rates.labourMinorPerHour) },
            ])
          }
        >
          <Plus size={18} aria-hidden="true" /> Minutes
        </Button>
      </div>
      <dl className="mt-4 grid max-w-sm grid-cols-[1fr_auto] gap-x-6 gap-y-1">
        <dt className="text-muted">Without tax</dt>
        <dd className="m-0 text-right font-mono">{write(sum.net)}</dd>
        <dt className="text-muted">Tax, {list.rates.taxPercent} %</dt>
        <dd className="m-0 text-right font-mono">{write(sum.tax)}</dd>
        <dt className="text-2xl font-bold">Total</dt>
        <dd className="m-0 text-right font-mono text-2xl font-bold whitespace-nowrap">
          {write(sum.net + sum.tax)} {list.currency}
        </dd>
      </dl>
      {!whole && typed.length > 0 && (
        <p className="mt-2 mb-0 text-muted">
          Every line needs words, a number and a price; 0 where nothing is charged.
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          {problem}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-3">
        <Button kind="main" disabled={!whole} onClick={() => send("quote")}>
          Make the quote
        </Button>
        <Button disabled={!whole} onClick={() => send("bill")}>
          Make the bill
        </Button>
      </div>
    </section>
  );
}

const ways = [
  ["in-person", "in person"],
  ["telephone", "by telephone"],
  ["mail", "by mail"],
  ["signed", "signed"],
] as const;

function Made({ jobId, list }: { jobId: string; list: PaperList }) {
  return (
    <section aria-label="Those that went out">
      <h2 className="text-xl font-bold">Those that went out</h2>
      {list.papers.length === 0 && <p className="mt-1">None yet.</p>}
      <ul className="m-0 list-none p-0">
        {list.papers.map((paper) => (
          <OnePaper key={paper.id} jobId={jobId} paper={paper} digits={list.digits} />
        ))}
      </ul>
    </section>
  );
}

function OnePaper({ jobId, paper, digits }: { jobId: string; paper: Paper; digits: number }) {
  const { sayYes, takeBack } = usePaperActions(jobId);
  const [why, setWhy] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const fail = (failure: unknown) => setProblem(sentenceOf(failure, "It was not kept."));
  return (
    <li className="border-t border-hairline py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h3 className={`grow text-lg font-bold ${paper.voidedAt ? "line-through" : ""}`}>{paper.name}</h3>
        <span className="font-mono text-lg font-bold">
          {amount(paper.statement.totalMinor, digits)} {paper.statement.currency}
        </span>
      </div>
      <p className="m-0 text-muted">
        {day(paper.madeAt)}, {paper.by}
        {paper.voidedAt && ` · taken back ${day(paper.voidedAt)}: ${paper.voidedWhy}`}
        {paper.yesAt && ` · agreed ${ways.find(([id]) => id === paper.yesBy)?.[1]}, ${day(paper.yesAt)}`}
      </p>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <a href={paperPdf(jobId, paper.id)} target="_blank" rel="noreferrer" className={buttonLook("plain")}>
          <FileDown size={18} aria-hidden="true" /> Open
        </a>
        {!paper.voidedAt && why === undefined && <Button onClick={() => setWhy("")}>Take it back …</Button>}
      </div>
      {!paper.voidedAt && paper.kind === "quote" && (
        <div className="mt-2">
          <Choice
            label="The owner said yes"
            clearable
            value={paper.yesBy ?? null}
            options={ways}
            onChange={(by) => void sayYes(paper.id, by).catch(fail)}
          />
        </div>
      )}
      {why !== undefined && !paper.voidedAt && (
        <form
          className="mt-2 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void takeBack(paper.id, why).then(() => setWhy(undefined), fail);
          }}
        >
          <label className="grow">
            <span className="text-muted">Why</span>
            <input className={box} value={why} onChange={(event) => setWhy(event.target.value)} />
          </label>
          <Button type="submit" disabled={why.trim() === ""}>
            Take it back
          </Button>
          <Button onClick={() => setWhy(undefined)}>Keep it</Button>
        </form>
      )}
      {problem && (
        <p role="alert" className="mt-2 mb-0 font-semibold text-amber">
          {problem}
        </p>
      )}
    </li>
  );
}
