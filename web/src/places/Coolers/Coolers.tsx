import { useDeferredValue, useEffect, useRef, useState, type ReactNode } from "react";
import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { useCoolers, type Candidate, type ChosenParts, type CoolerAnswer, type WhatIf } from "../../api/coolers";
import { useJobActions, useJob } from "../../api/jobs";
import { Fold } from "../../parts/Fold";
import { MachinePicker, useChosenMachine } from "../../parts/MachinePicker";
import { Loading } from "../../parts/States";
import { useOptions } from "../../api/options";
import { minorIn, useCurrency, useMoney } from "../../parts/useMoney";
import { useChoice } from "../../parts/useChoice";
import { useTitle } from "../../parts/useTitle";
import { keepUnits } from "../../parts/words";
import { TradeOff } from "../../pictures/TradeOff";
import { CandidateRow } from "./CandidateRow";
import { Measures } from "./Measures";
import { SideBySide } from "./SideBySide";
import { Ways } from "./Ways";
import { Weights } from "./Weights";
import { Schools, WhatIfStrip } from "./WhatIfStrip";

const few = 5;
const link = "inline-flex min-h-11 items-center text-teal underline underline-offset-4";
const mostSideBySide = 4;

/** A cooler for a machine: what fits, what it would do, what it costs, or that none is needed. */
export function CoolersPlace() {
  const { jobId, parts } = useChosenMachine();
  useTitle("Coolers");
  return (
    <div className="px-4 py-5 md:px-7">
      <MachinePicker label="A cooler for">
        {jobId && (
          <Link to={`/air?job=${jobId}`} className={link}>
            its air
          </Link>
        )}
        <Link to="/coolers/parts" className={`${link} md:ml-auto`}>
          The workshop’s parts
        </Link>
      </MachinePicker>
      {jobId !== null || parts.processor !== undefined ? (
        <Answered key={jobId ?? "parts"} jobId={jobId} parts={parts} />
      ) : (
        <p className="mt-6 text-xl">Choose a machine, and its coolers stand here.</p>
      )}
    </div>
  );
}

function Answered({ jobId, parts }: { jobId: string | null; parts: ChosenParts }) {
  const [what, setWhat] = useState<WhatIf>({});
  const coolers = useCoolers(jobId, parts, useDeferredValue(what));
  if (coolers.isError && !coolers.data) {
    return (
      <div className="mt-6">
        <h1 className="text-3xl font-bold">{coolers.error.message}</h1>
        {jobId && (
          <Link
            to={`/jobs/${jobId}#intake`}
            className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
          >
            Go to the intake
          </Link>
        )}
      </div>
    );
  }
  if (!coolers.data) {
    return <Loading what="the coolers" />;
  }
  const strip = (
    <>
      <WhatIfStrip answer={coolers.data} what={what} onChange={setWhat} />
      <Weights schools={coolers.data.schools.filter((school) => school.id !== "own")} />
    </>
  );
  return (
    <>
      <h1 className="mt-3 text-3xl leading-tight font-bold">
        {coolers.data.measured ? "Find out what is wrong first" : keepUnits(coolers.data.match.advice)}
      </h1>
      {coolers.isError && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          {coolers.error.message}
        </p>
      )}
      {coolers.data.measured && (
        <>
          <p className="mt-2 mb-0 text-xl">
            {keepUnits(coolers.data.measured)}{" "}
            <Link to={`/jobs/${jobId}#diagnosis`} className="text-teal underline underline-offset-4">
              To its diagnosis
            </Link>
          </p>
          <p className="mt-2 mb-0">Once it is sound: {keepUnits(coolers.data.match.advice)}</p>
        </>
      )}
      {[...coolers.data.unknown, ...coolers.data.match.warnings].map((sentence) => (
        <p key={sentence} className="mt-2 mb-0 border-l-4 border-amber pl-3">
          {sentence}
        </p>
      ))}
      <Schools answer={coolers.data} what={what} onChange={setWhat} />
      {jobId === null ? (
        <Lists answer={coolers.data} strip={strip} />
      ) : (
        <OnJob jobId={jobId} answer={coolers.data} strip={strip} />
      )}
    </>
  );
}

/** The lists of a job, where what is chosen is noted. */
function OnJob({ jobId, answer, strip }: { jobId: string; answer: CoolerAnswer; strip: ReactNode }) {
  const sheet = useJob(jobId);
  const actions = useJobActions(jobId);
  useAnewAfter(jobId, sheet.data?.lastEventId);
  const fields = sheet.data?.fields;
  const currency = useCurrency();
  const options = useOptions(jobId, sheet.data?.lastEventId ?? 0);
  const { choose, problem } = useChoice(jobId, options.data?.chosen ?? null);
  return (
    <>
      {problem && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          {problem}
        </p>
      )}
      <Lists
        answer={answer}
        strip={strip}
        chosen={
          fields && {
            jobId,
            measures: (
              <Measures
                job={sheet.data!}
                actions={actions}
                measures={answer.measures}
                candidates={answer.match.candidates}
              />
            ),
            measured: answer.measures.some(({ field }) => fields[field as keyof typeof fields] != null),
            cooler: fields.decisionRoute === "cooler" ? (fields.repairCooler ?? null) : null,
            onCooler: (one) =>
              choose(
                one && {
                  option: "another-cooler",
                  title: `Fit ${one.name}`,
                  cooler: one.name,
                  totalMinor: answer.quotes[one.id]?.totalMinor ?? 0,
                  currency,
                  lines: answer.quotes[one.id]?.lines ?? [],
                },
              ),
          }
        }
      />
    </>
  );
}

/** Asks anew once something of the job has changed, here or on another tablet. */
function useAnewAfter(jobId: string, eventId: number | undefined) {
  const cache = useQueryClient();
  const seen = useRef(eventId);
  useEffect(() => {
    if (seen.current !== undefined && eventId !== seen.current) {
      void cache.invalidateQueries({ queryKey: ["coolers", jobId] });
    }
    seen.current = eventId;
  }, [cache, jobId, eventId]);
}

interface ChosenOnJob {
  jobId: string;
  /** Where lengths are answered. */
  measures: ReactNode;
  /** Whether some are. */
  measured: boolean;
  cooler: string | null;
  onCooler: (one: Candidate | null) => void;
}

function Lists({ answer, strip, chosen }: { answer: CoolerAnswer; strip: ReactNode; chosen?: ChosenOnJob }) {
  const money = useMoney();
  const currency = useCurrency();
  const [all, setAll] = useState(false);
  const [openId, setOpenId] = useState<string>();
  const [beside, setBeside] = useState<readonly string[]>([]);
  const { candidates, front, changes } = answer.match;
  const fitting = candidates.filter((one) => one.fits === true);
  const measure = candidates.filter((one) => one.fits === null);
  const out = candidates.filter((one) => one.fits === false);
  const shown = all ? fitting : fitting.slice(0, few);
  const toggle = (id: string) =>
    setBeside(beside.includes(id) ? beside.filter((one) => one !== id) : [...beside, id].slice(-mostSideBySide));
  const choose = (id: string) => {
    setOpenId(id);
    if (!shown.some((one) => one.id === id)) {
      setAll(true);
    }
    requestAnimationFrame(() => document.getElementById(`cooler-${id}`)?.scrollIntoView({ block: "nearest" }));
  };
  return (
    <>
      <div className="mt-4 grid gap-x-7 gap-y-6 lg:grid-cols-[minmax(0,1fr)_400px]">
        <div className="min-w-0">
          <ol aria-label="Coolers that fit" className="m-0 list-none p-0">
            {shown.map((one) => (
              <CandidateRow
                key={one.id}
                one={one}
                money={money}
                limitC={answer.build.processor.temperatureLimitC}
                open={openId === one.id}
                onOpen={(wanted) => setOpenId(wanted ? one.id : undefined)}
                beside={beside.includes(one.id)}
                onBeside={() => toggle(one.id)}
                quote={answer.quotes[one.id]}
                mostSharePercent={answer.mostPriceSharePercent ?? null}
                today={answer.today}
                seen={answer.seen[one.id]}
                taken={chosen?.cooler === one.name}
                onTake={chosen && (() => chosen.onCooler(chosen.cooler === one.name ? null : one))}
              />
            ))}
          </ol>
          {fitting.length === 0 && <p className="text-xl">None of the workshop’s coolers is known to fit.</p>}
          {fitting.length > few && (
            <button
              type="button"
              onClick={() => setAll(!all)}
              className="min-h-11 text-teal underline decoration-1 underline-offset-4"
            >
              {all ? "Only the first" : `All ${fitting.length} that fit`}
            </button>
          )}
        </div>
        <aside className="min-w-0">
          {strip}
          {fitting.length > 0 && (
            <TradeOff
              offers={fitting.flatMap((one) => (one.priceMinor == null ? [] : [offerOf(one, front)]))}
              limitC={answer.build.processor.temperatureLimitC}
              money={money}
              minor={minorIn(currency)}
              chosen={openId}
              onChoose={choose}
            />
          )}
          {changes.length > 0 && (
            <section aria-label="What would change it" className="mt-4">
              <h2 className="text-xl font-bold">What would change it</h2>
              <ul className="m-0 mt-1 list-none p-0">
                {changes.map((change) => (
                  <li key={change} className="border-t border-hairline py-2">
                    {keepUnits(change)}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </aside>
      </div>
      {beside.length > 1 && (
        <SideBySide
          candidates={candidates.filter((one) => beside.includes(one.id))}
          quotes={answer.quotes}
          today={answer.today}
          limitC={answer.build.processor.temperatureLimitC}
          money={money}
          onClose={() => setBeside([])}
        />
      )}
      <Ways decision={answer.decision} money={money} jobId={chosen?.jobId} />
      <div className="mt-4">
        {(measure.length > 0 || chosen?.measured) && (
          <Fold
            title="Measure first"
            gist={measure.length === 1 ? "one cooler depends on it" : `${measure.length} coolers depend on it`}
            open={fitting.length === 0}
          >
            {chosen?.measures ?? <Reasons candidates={measure} />}
          </Fold>
        )}
        {out.length > 0 && (
          <Fold title="Does not fit" gist={`${out.length}, and by how much`}>
            <Reasons candidates={out} />
          </Fold>
        )}
      </div>
    </>
  );
}

const offerOf = (one: Candidate, front: readonly string[]) => ({
  id: one.id,
  name: one.name,
  priceMinor: one.priceMinor!,
  temperatureC: one.temperatureC.value,
  noiseDba: one.noiseDba,
  onFront: front.includes(one.id),
  isCurrent: one.isCurrent,
});

function Reasons({ candidates }: { candidates: readonly Candidate[] }) {
  return (
    <dl className="m-0 grid gap-x-6 sm:grid-cols-[14rem_minmax(0,1fr)]">
      {candidates.map((one) => (
        <div key={one.id} className="col-span-full grid grid-cols-subgrid border-t border-hairline py-2">
          <dt className="font-semibold">{one.name}</dt>
          <dd className="m-0">
            {one.reasons
              .filter((reason) => reason.code !== "price" && reason.code !== "noise")
              .map((reason) => keepUnits(reason.message))
              .join(" ")}
          </dd>
        </div>
      ))}
    </dl>
  );
}
