import { Link } from "react-router";
import type { JobSheet } from "../../api/client";
import { choiceOf, useOptions, type OptionSheet } from "../../api/options";
import { choiceWords } from "../../api/jobFields";
import { buttonLook } from "../../parts/Button";
import { Fold } from "../../parts/Fold";
import { OfJob } from "../../parts/OfJob";
import { Failing, Loading } from "../../parts/States";
import { useChoice } from "../../parts/useChoice";
import { useMoney } from "../../parts/useMoney";
import { useTitle } from "../../parts/useTitle";
import { ago, keepUnits } from "../../parts/words";
import { OptionCard } from "./OptionCard";
import { degrees } from "../../parts/degrees";

/** The one place where it is decided what is done: all options side by side, and what the owner chose. */
export function DecidePlace() {
  return <OfJob what="the options">{(job) => <Decide job={job} />}</OfJob>;
}

function Decide({ job }: { job: JobSheet }) {
  const options = useOptions(job.id, job.lastEventId);
  useTitle(`${job.tag} options`);
  return (
    <>
      {options.data ? (
        <Options job={job} sheet={options.data} />
      ) : options.isError ? (
        <Failing sentence={options.error.message} onRetry={() => void options.refetch()}>
          <Link to={`/jobs/${job.id}#intake`} className={buttonLook("plain")}>
            To the intake
          </Link>
        </Failing>
      ) : (
        <Loading what="the options" />
      )}
    </>
  );
}

function Options({ job, sheet }: { job: JobSheet; sheet: OptionSheet }) {
  const money = useMoney();
  const { open, closed, advised, sentence, nowC, held, cardW } = sheet.options;
  const beside = cardW > 0 ? ` with the card at its ${Math.round(cardW)} W` : "";
  const chosen = sheet.chosen ?? null;
  const { choose, problem } = useChoice(job.id, chosen);
  const wish = sheet.wish && choiceWords("wish", sheet.wish);
  return (
    <>
      <h1 className="mt-1 text-3xl leading-tight font-bold">{keepUnits(sentence)}</h1>
      <p className="mt-1 mb-0 text-lg text-muted">
        {keepUnits(
          [
            nowC != null &&
              (held
                ? `Its ${held.by} holds it to ${Math.round(held.watts)} of its rated ${Math.round(sheet.watts)} W: ${degrees(nowC)}${beside} in a room of ${degrees(sheet.roomC)}; its limit is ${degrees(sheet.limitC)}.`
                : `At its rated ${Math.round(sheet.watts)} W${beside} in a room of ${degrees(sheet.roomC)}, as it is, it comes to ${degrees(nowC)} once level; its limit is ${degrees(sheet.limitC)}.`),
            wish ? `Ordered by the owner’s wish: ${wish}.` : "The owner’s wish is not noted: ordered by what it costs.",
          ]
            .filter(Boolean)
            .join(" "),
        )}
      </p>
      {chosen && (
        <p
          role="status"
          className="mt-3 mb-0 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 border-teal bg-card py-2 pr-3 pl-4"
        >
          <span className="min-w-0 grow text-lg">
            The owner chose <strong>{chosen.title}</strong>, {money(chosen.totalMinor)}
            {sheet.choices[0] && `; noted by ${sheet.choices[0].by}, ${ago(sheet.choices[0].at)}`}.
          </span>
          <Link
            to={`/jobs/${job.id}${chosen.option === "leave" || chosen.option === "warranty-claim" ? "#repair" : "/repair"}`}
            className={buttonLook("main")}
          >
            {chosen.option === "leave" || chosen.option === "warranty-claim" ? "Note what was agreed" : "To its steps"}
          </Link>
        </p>
      )}
      {problem && (
        <p role="alert" className="mt-3 mb-0 font-semibold text-amber">
          {problem}
        </p>
      )}
      <ul aria-label="Options" className="m-0 mt-4 list-none p-0">
        {open.map((option) => (
          <OptionCard
            key={option.id}
            option={option}
            advised={option.id === advised}
            chosen={chosen?.option === option.id}
            nowC={nowC ?? null}
            money={money}
            onChoose={(on) => choose(on ? choiceOf(option, sheet.currency) : null)}
          />
        ))}
      </ul>
      <div className="mt-4">
        <Fold title="Not open here" gist={`${closed.length}, and why not`}>
          <ul className="m-0 list-none p-0">
            {closed.map((option) => (
              <li key={option.id} className="border-t border-hairline py-2">
                <strong>{option.title}</strong>: {option.whyNot}
              </li>
            ))}
          </ul>
        </Fold>
        {sheet.choices.length > 1 && (
          <Fold title="Chosen before" gist={`${sheet.choices.length} times`}>
            <ol className="m-0 list-none p-0">
              {sheet.choices.map((made) => (
                <li key={made.at} className="border-t border-hairline py-2">
                  {made.title == null ? "Nothing any more" : `${made.title}, ${money(made.totalMinor ?? 0)}`} ·{" "}
                  {made.by}, {ago(made.at)}
                </li>
              ))}
            </ol>
          </Fold>
        )}
      </div>
      <p className="mt-4 flex flex-wrap gap-3">
        <Link to={`/coolers?job=${job.id}`} className={buttonLook("plain")}>
          All coolers for it
        </Link>
        <Link to={`/air?job=${job.id}`} className={buttonLook("plain")}>
          Plan its air
        </Link>
      </p>
    </>
  );
}
