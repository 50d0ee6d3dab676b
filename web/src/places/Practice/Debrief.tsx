import clsx from "clsx";
import { Link, useParams } from "react-router";
import { useDebrief, type PracticeDebrief } from "../../api/practice";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";

/** A case that was ended: what it was, how it was worked beside the best way, and where the information lay. */
export function DebriefPlace() {
  const { id } = useParams();
  const debrief = useDebrief(id!);
  useTitle("Debrief");
  if (!debrief.data) {
    return debrief.isError ? (
      <Failing sentence={debrief.error.message} onRetry={() => void debrief.refetch()} />
    ) : (
      <Loading what="the debrief" />
    );
  }
  const { score, debrief: lay, machine, owner, story, acts, best, levelTitle } = debrief.data;
  const mine = debrief.data.try.mine;
  const who = mine ? "You" : debrief.data.try.person;
  const causes = lay.causes.map((cause) => cause.charAt(0).toLowerCase() + cause.slice(1));
  return (
    <div className="max-w-6xl px-4 py-5 md:px-7">
      <Link to="/practice" className="inline-flex min-h-11 items-center text-teal underline underline-offset-4">
        Practice
      </Link>
      <p className="m-0 text-muted">
        {debrief.data.try.person} · {machine} · {owner} · level {debrief.data.try.level}, {levelTitle.toLowerCase()}
      </p>
      <h1 className="mt-1 text-3xl leading-tight font-bold">
        {Math.round(score.points)} of 100.{" "}
        <span className="text-teal">
          {causes.length === 0 ? "Nothing was wrong with it" : `It was: ${causes.join(", and ")}`}
        </span>
      </h1>
      <p className="mt-1 mb-0 text-xl">“{story}.”</p>
      <div className="mt-6 grid items-start gap-x-14 gap-y-8 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section aria-label="How it was worked">
          <h2 className="text-xl font-bold">How it was worked</h2>
          <Lines lines={score.lines} who={who} />
        </section>
        <section aria-label="How the odds moved">
          <h2 className="text-xl font-bold">How the odds moved</h2>
          <p className="mt-0 text-muted">
            How probable exactly the right repair was, by all that had been asked and measured.
          </p>
          <Path steps={lay.path} />
        </section>
        <section aria-label="Where the information lay">
          <h2 className="text-xl font-bold">Where the information lay</h2>
          <p className="mt-0 text-muted">
            What each question tells of this very machine, asked first: how many times more probable the right repair
            becomes.
          </p>
          <Questions rows={lay.rows} />
        </section>
        <section aria-label="What was done" className="grid gap-4">
          <Acts title={`What ${mine ? "you" : who} did`} acts={acts} />
          <Acts title="The best way" acts={best} />
        </section>
      </div>
    </div>
  );
}

function Lines({ lines, who }: { lines: PracticeDebrief["score"]["lines"]; who: string }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-hairline text-muted">
            <th className="py-2 pr-4 font-normal">
              <span className="sr-only">What</span>
            </th>
            <th className="py-2 pr-4 font-normal">{who}</th>
            <th className="py-2 pr-4 font-normal">The best way</th>
            <th className="py-2 text-right font-normal">Points</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.id} className="border-b border-hairline align-baseline">
              <th className="py-2 pr-4 font-semibold">
                {line.title}
                {line.why && <div className="font-normal text-amber">{line.why}</div>}
              </th>
              <td className="py-2 pr-4">{line.yours}</td>
              <td className="py-2 pr-4 text-muted">{line.best ?? "—"}</td>
              <td
                className={clsx(
                  "py-2 text-right font-mono whitespace-nowrap",
                  line.points < line.of && "font-bold text-amber",
                )}
              >
                {Math.round(line.points)} of {line.of}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Path({ steps }: { steps: PracticeDebrief["debrief"]["path"] }) {
  return (
    <ol className="m-0 grid list-none gap-1 p-0">
      {steps.map((step, at) => (
        <li key={at} className="grid grid-cols-[minmax(0,1fr)_7rem_3.5rem] items-center gap-3">
          <span>{step.title}</span>
          <svg viewBox="0 0 100 10" preserveAspectRatio="none" className="h-3 w-full" aria-hidden="true">
            <rect width="100" height="10" className="fill-hairline" />
            <rect width={100 * step.share} height="10" className="fill-teal" />
          </svg>
          <span className="text-right font-mono">{percent(step.share)}</span>
        </li>
      ))}
    </ol>
  );
}

const percent = (share: number) => (share > 0.99 ? "> 99 %" : share < 0.01 ? "< 1 %" : `${Math.round(100 * share)} %`);

function Questions({ rows }: { rows: PracticeDebrief["debrief"]["rows"] }) {
  return (
    <ul className="m-0 list-none p-0">
      {rows.map((row) => (
        <li key={row.id} className="border-b border-hairline py-2">
          <div className="flex flex-wrap items-baseline gap-x-4">
            <span className="font-semibold">{row.title}</span>
            <span className="text-muted">
              {row.minutes} min{row.made ? ", asked" : ", not asked"}
            </span>
            <span className={clsx("ml-auto font-mono", row.bits < 0 ? "text-amber" : "font-bold text-teal")}>
              {worth(row.bits)}
            </span>
          </div>
          <div className="text-muted">{row.answer.join(" · ")}</div>
        </li>
      ))}
    </ul>
  );
}

function worth(bits: number) {
  const times = 2 ** Math.abs(bits);
  const words = times >= 10 ? Math.round(times).toString() : times.toFixed(1);
  return Math.abs(bits) < 0.07 ? "says nothing" : bits < 0 ? `misleads, ÷ ${words}` : `× ${words}`;
}

function Acts({ title, acts }: { title: string; acts: readonly string[] }) {
  return (
    <div>
      <h2 className="text-xl font-bold">{title}</h2>
      {acts.length === 0 ? (
        <p className="m-0 text-muted">Nothing.</p>
      ) : (
        <ol className="m-0 pl-6">
          {acts.map((act, at) => (
            <li key={at}>{act}</li>
          ))}
        </ol>
      )}
    </div>
  );
}
