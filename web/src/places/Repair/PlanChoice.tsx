import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type JobSheet } from "../../api/client";
import { useRepairActions, type PlanAsked, type RepairSheet } from "../../api/repair";
import { Button, buttonLook } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { stageWords, stagesOf } from "./stages";

/** What is to be done, and what that comes to in steps, before anything is begun. */
export function PlanChoice({
  job,
  sheet,
  asked,
  refused,
  onAsked,
  onBegun,
}: {
  job: JobSheet;
  sheet: RepairSheet;
  asked: PlanAsked;
  refused?: string;
  onAsked: (asked: PlanAsked) => void;
  onBegun: () => void;
}) {
  const { begin } = useRepairActions(job.id);
  const [problem, setProblem] = useState<string>();
  // What was ticked counts at once; the steps follow a moment later.
  const acts = asked.acts ?? sheet.chosen;
  const chosen = new Set(acts);
  const toggle = (act: string) =>
    onAsked({ ...asked, acts: chosen.has(act) ? acts.filter((one) => one !== act) : [...acts, act] });
  const start = () => {
    setProblem(undefined);
    begin({ ...asked, acts })
      .then(onBegun)
      .catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not begun.")));
  };
  const nothing = acts.length === 0 && asked.acts !== undefined;
  const plan = nothing ? null : sheet.preview;
  const told = nothing ? "Nothing is chosen: tick what is to be done." : (refused ?? sheet.problem);
  return (
    <>
      <h1 className="mt-1 text-3xl leading-tight font-bold">
        {plan ? (
          <>
            {plan.title}:{" "}
            <span className="text-teal">{`${plan.steps.length} steps, about ${Math.round(plan.minutes)} min`}</span>
          </>
        ) : (
          "What is to be done?"
        )}
      </h1>
      {sheet.why && <p className="m-0 mt-1 text-xl">{keepUnits(sheet.why)}</p>}
      <div className="mt-4 grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_360px]">
        <div className="lg:col-start-2 lg:row-start-1">
          <section aria-label="Begin" className="border border-hairline bg-card px-5 py-4">
            {told ? (
              <div role="alert" className="border-l-4 border-amber pl-3">
                <p className="m-0">{told}</p>
                {/cooler/i.test(told) && (
                  <Link to={`/coolers?job=${job.id}`} className={`${buttonLook("main")} mt-3`}>
                    Choose the cooler
                  </Link>
                )}
              </div>
            ) : (
              plan && (
                <>
                  {plan.tools.length > 0 && (
                    <>
                      <h2 className="text-lg font-bold">Have ready</h2>
                      <p className="mt-1 mb-4">{plan.tools.join(", ")}.</p>
                    </>
                  )}
                  <Button kind="main" className="min-h-14 w-full text-xl!" onClick={start}>
                    Begin
                  </Button>
                </>
              )
            )}
            {problem && (
              <p role="alert" className="mt-3 mb-0 font-semibold text-amber">
                {problem}
              </p>
            )}
          </section>
          <fieldset className="m-0 mt-4 border-0 p-0">
            <legend className="p-0 text-lg font-bold">What is to be done</legend>
            {sheet.acts.map((act) => (
              <Tick key={act.id} checked={chosen.has(act.id)} words={act.title} onChange={() => toggle(act.id)} />
            ))}
          </fieldset>
          <fieldset className="m-0 mt-4 border-0 p-0">
            <legend className="p-0 text-lg font-bold">This machine</legend>
            <Tick
              checked={asked.liquidMetal === true}
              words="Liquid metal goes on"
              onChange={() => onAsked({ ...asked, liquidMetal: !asked.liquidMetal })}
            />
            <Tick
              checked={asked.noBoot === true}
              words="It cannot be switched on"
              onChange={() => onAsked({ ...asked, noBoot: !asked.noBoot })}
            />
          </fieldset>
        </div>
        <div className="min-w-0 lg:col-start-1 lg:row-start-1">
          {plan &&
            stagesOf(plan.steps).map(([stage, steps]) => (
              <section key={stage} className="border-t border-hairline py-2">
                <h2 className="text-muted">{stageWords[stage]}</h2>
                <ol className="m-0 list-none p-0">
                  {steps.map((step) => (
                    <li key={step.id} className="flex gap-3 py-1">
                      <span className="w-16 shrink-0 text-right font-mono text-muted">
                        {step.minutes < 1 ? "½ min" : `${Math.round(step.minutes)} min`}
                      </span>
                      <span className="min-w-0">
                        {keepUnits(step.title)}
                        {step.hold !== "none" && <span className="text-muted"> — hold point</span>}
                        {step.irreversible && <span className="font-semibold text-amber"> — cannot be undone</span>}
                      </span>
                    </li>
                  ))}
                </ol>
              </section>
            ))}
        </div>
      </div>
    </>
  );
}

function Tick({ checked, words, onChange }: { checked: boolean; words: string; onChange: () => void }) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input type="checkbox" className="size-6 shrink-0 accent-teal" checked={checked} onChange={onChange} />
      {words}
    </label>
  );
}
