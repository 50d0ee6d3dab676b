import clsx from "clsx";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { buttonLook } from "../../parts/Button";
import { keepUnits } from "../../parts/words";

export type Decision = Schemas["Decision"];
type Quote = Schemas["Quote"];

/** Repair, another cooler, a capped power or nothing, beside each other with what each costs and gives up. */
export function Ways({
  decision,
  money,
  jobId,
}: {
  decision: Decision;
  money: (minor: number) => string;
  /** Where it is decided; left out where there is no job. */
  jobId?: string;
}) {
  return (
    <section aria-label="What it costs" className="mt-6 border-t border-hairline pt-3">
      <h2 className="text-2xl font-bold">What it costs</h2>
      <p className="mt-1 mb-3 flex flex-wrap items-center gap-x-5 gap-y-2 text-lg">
        {keepUnits(decision.sentence)}
        {jobId && (
          <Link to={`/jobs/${jobId}/decide`} className={buttonLook("plain")}>
            All options side by side
          </Link>
        )}
      </p>
      <ul className="m-0 grid list-none gap-x-7 gap-y-4 p-0 sm:grid-cols-2 lg:grid-cols-4">
        {decision.ways.map((way) => (
          <li
            key={way.id}
            className={clsx("border-t-4 pt-2", way.id === decision.advised ? "border-teal" : "border-hairline")}
          >
            <h3 className="text-xl font-bold">
              {way.title}
              {way.id === decision.advised && <span className="block text-base text-teal">advised</span>}
            </h3>
            <p className="m-0 font-mono text-3xl font-bold">{money(way.expectedMinor)}</p>
            <p className="m-0 text-muted">
              {way.steps.length > 0 ? "on average until it is fixed" : way.minutes > 0 ? "in all" : "nothing to pay"}
              {way.minutes > 0 && `, ${way.minutes.toFixed(0)} min`}
              {way.clockLossPercent != null &&
                way.clockLossPercent >= 1 &&
                `, ${way.clockLossPercent.toFixed(0)} % of the clock lost`}
            </p>
            <p className="mt-1 mb-1">{keepUnits(way.sentence)}</p>
            {way.steps.length > 0 && (
              <ol className="m-0 list-decimal pl-6">
                {way.steps.map((step) => (
                  <li key={step.id}>
                    {keepUnits(
                      `${step.title}, ${(100 * step.probability).toFixed(0)} %, ${money(step.quote.totalMinor)}`,
                    )}
                  </li>
                ))}
              </ol>
            )}
            {way.quote && way.quote.lines.length > 0 && <QuoteLines quote={way.quote} money={money} />}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A quote's lines, tax and sum. */
export function QuoteLines({ quote, money }: { quote: Quote; money: (minor: number) => string }) {
  const rows: [string, number][] = [
    ...quote.lines.map((line) => [line.what, line.netMinor] as [string, number]),
    ...(quote.taxMinor > 0 ? [["Tax", quote.taxMinor] as [string, number]] : []),
  ];
  return (
    <dl className="m-0">
      {rows.map(([what, minor]) => (
        <div key={what} className="flex justify-between gap-4">
          <dt className="text-muted">{what}</dt>
          <dd className="m-0 font-mono whitespace-nowrap">{money(minor)}</dd>
        </div>
      ))}
      <div className="flex justify-between gap-4 border-t border-hairline font-bold">
        <dt>In all</dt>
        <dd className="m-0 font-mono whitespace-nowrap">{money(quote.totalMinor)}</dd>
      </div>
    </dl>
  );
}
