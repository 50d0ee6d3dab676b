import clsx from "clsx";
import { useAirQuestions, type AirPlan, type AirQuestion, type AirSheet, type AirWay } from "../../api/air";
import { Button } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { pressureWords } from "./airWords";
import { degreeSign, pointOf } from "../../parts/degrees";

/** The tables that would otherwise cost a day of swapping; each way can be taken over with one touch. */
export function Comparisons({
  sheet,
  plan,
  onTake,
}: {
  sheet: AirSheet;
  plan: AirPlan;
  onTake: (plan: AirPlan) => void;
}) {
  const questions = useAirQuestions(sheet, plan);
  if (questions.isError && !questions.data) {
    return <p role="alert">{questions.error.message}</p>;
  }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-8">
      {(questions.data ?? []).map((question) => (
        <Question key={question.id} question={question} onTake={onTake} />
      ))}
    </div>
  );
}

function Question({ question, onTake }: { question: AirQuestion; onTake: (plan: AirPlan) => void }) {
  const { ways } = question;
  const card = ways.some((way) => way.cardC != null);
  const liquid = ways.some((way) => way.processorC != null);
  const can = (way: AirWay) => way.fits && way.over.length === 0;
  const least = (value: (way: AirWay) => number | null | undefined) =>
    Math.min(...ways.filter(can).map((way) => value(way) ?? Infinity));
  const best = {
    processor: least((way) => way.processorC),
    card: least((way) => way.cardC),
    alone: least((way) => way.cardAloneC),
    noise: least((way) => way.noiseDba),
  };
  const cell = (value: number | null | undefined, lowest: number, able: boolean, told = pointOf) => (
    <td
      className={clsx(
        "py-2 pr-4 text-right font-mono text-lg",
        value != null && able && value < lowest + 0.5 && "font-bold text-teal",
      )}
    >
      {value == null ? "—" : told(value).toFixed(0)}
      {value != null && able && value < lowest + 0.5 && <span className="sr-only"> best</span>}
    </td>
  );
  return (
    <section aria-label={question.title}>
      <h2 className="text-xl font-bold">{question.title}</h2>
      <p className="my-1 text-lg">{keepUnits(question.sentence)}</p>
      <div className="relative overflow-x-auto" role="region" aria-label={`${question.title}, as a table`} tabIndex={0}>
        <table className="w-full border-collapse text-left">
          <thead className="text-muted">
            <tr>
              <th scope="col" className="py-1 pr-4 font-normal">
                Way
              </th>
              {liquid && <Head>processor {degreeSign()}</Head>}
              {card && <Head>card {degreeSign()}</Head>}
              {card && <Head>card alone {degreeSign()}</Head>}
              <Head>dB(A)</Head>
              <th scope="col" className="py-1 pr-4 font-normal">
                Air
              </th>
              <th scope="col">
                <span className="sr-only">Take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {ways.map((way) => (
              <tr key={way.title} className={clsx("border-t border-hairline", !way.fits && "text-muted")}>
                <th scope="row" className="min-w-36 py-2 pr-4 font-normal">
                  {way.title}
                  {way.isNow && <span className="font-bold text-copper-text"> · now</span>}
                  {!way.fits && <span className="text-amber"> · does not go in</span>}
                  {way.over.map((limit) => (
                    <span key={limit} className="text-amber">
                      {" "}
                      · {keepUnits(limit)}
                    </span>
                  ))}
                </th>
                {liquid && cell(way.processorC, best.processor, can(way))}
                {card && cell(way.cardC, best.card, can(way))}
                {card && cell(way.cardAloneC, best.alone, can(way))}
                {cell(way.noiseDba, best.noise, can(way), (dba) => dba)}
                <td className="py-2 pr-4 whitespace-nowrap text-muted">{pressureWords[way.pressure]}</td>
                <td className="text-right">
                  {!way.isNow && way.fits && (
                    <Button kind="quiet" aria-label={`Take it: ${way.title}`} onClick={() => onTake(way.plan)}>
                      Take it
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

const Head = ({ children }: { children: React.ReactNode }) => (
  <th scope="col" className="py-1 pr-4 text-right font-normal whitespace-nowrap">
    {children}
  </th>
);
