import { ChevronLeft, Check } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { useRepairActions, type PlanAnswer, type PlanStep, type StepMark } from "../../api/repair";
import { Button, buttonLook } from "../../parts/Button";
import { useShortcuts } from "../../parts/shortcuts";
import { keepUnits } from "../../parts/words";
import { StepDrawing } from "../../pictures/StepDrawing";
import { HoldPoint } from "./HoldPoint";
import { Skip } from "./Skip";
import { StepList } from "./StepList";
import { stageWords } from "./stages";
import { useMarks } from "./useMarks";
import { useStopwatch } from "./useStopwatch";

/** One step fills the screen; what follows stands in grey, minutes run by themselves. */
export function StepsAtBench({
  job,
  plan,
  actions,
  away,
  onAnother,
}: {
  job: JobSheet;
  plan: PlanAnswer;
  actions: JobActions;
  away: boolean;
  onAnother: () => void;
}) {
  const { steps, title } = plan.plan;
  const { marks, unsent, refused, set, sendAgain } = useMarks(job.id, plan, actions);
  const { layAside } = useRepairActions(job.id);
  const next = steps.find((step) => !marks.has(step.id));
  const [looked, setLooked] = useState<string>();
  const [skipping, setSkipping] = useState(false);
  const [problem, setProblem] = useState<string>();
  const step = steps.find((one) => one.id === looked) ?? next;
  const seconds = useStopwatch(step?.id ?? "");
  const at = step ? steps.indexOf(step) : steps.length;
  const left = steps
    .filter((one) => !marks.has(one.id) && one.hold !== "run")
    .reduce((sum, one) => sum + one.minutes, 0);

  const go = (id: string | undefined) => {
    setSkipping(false);
    setLooked(id);
  };
  const mark = (one: PlanStep, more: Partial<StepMark> = {}) => {
    set(one.id, { state: "done", at: new Date().toISOString(), seconds: seconds(), ...more });
    go(undefined);
  };
  const tick = () => step && ["none", "look"].includes(step.hold) && !marks.has(step.id) && mark(step);
  useShortcuts({
    " ": tick,
    Enter: tick,
    // A foot switch types the keys of a page turner.
    PageDown: tick,
    ArrowLeft: () => at > 0 && go(steps[at - 1]!.id),
    PageUp: () => at > 0 && go(steps[at - 1]!.id),
    ArrowRight: () => at < steps.length - 1 && go(steps[at + 1]!.id),
  });

  const listed = step
    ? steps
        .filter((other) => other.undoneBy === step.id && other.hold === "list")
        .flatMap((other) => marks.get(other.id)?.lines ?? [])
    : [];
  const done = step && marks.get(step.id);
  const following = step && steps[at + 1];
  return (
    <div className="grid gap-x-8 gap-y-6 lg:grid-cols-[minmax(0,1fr)_320px]">
      <article aria-label={step ? step.title : "All steps are done"} className="min-w-0">
        <p className="m-0 flex flex-wrap gap-x-4 text-muted">
          <span className="font-semibold text-ink">{title}</span>
          <span>
            {step ? `Step ${at + 1} of ${steps.length}` : `${steps.length} steps`}
            {left > 0 && ` · about ${Math.round(left)} min of work left`}
          </span>
        </p>
        <div
          role="progressbar"
          aria-label="How far it is"
          aria-valuenow={marks.size}
          aria-valuemin={0}
          aria-valuemax={steps.length}
          className="mt-1 flex h-2 bg-shade"
        >
          <svg className="h-2 w-full" viewBox={`0 0 ${steps.length} 1`} preserveAspectRatio="none" aria-hidden="true">
            <rect width={marks.size} height="1" className="fill-teal" />
          </svg>
        </div>
        {unsent.length > 0 && (away || unsent.length > 1) && (
          <p role="status" className="mt-2 mb-0 flex flex-wrap items-center gap-3 border-l-4 border-amber pl-3">
            {unsent.length === 1 ? "One step is" : `${unsent.length} steps are`} kept on this device and not sent yet.
            Go on; they are sent as soon as the server answers.
            <Button kind="quiet" onClick={sendAgain}>
              Try now
            </Button>
          </p>
        )}
        {step ? (
          <>
            <p className="mt-4 mb-0 text-xl text-muted">{stageWords[step.stage]}</p>
            <div className="flex flex-wrap items-start gap-x-8 gap-y-3">
              <div className="min-w-0 grow basis-96">
                <h1 className="mt-1 text-4xl leading-tight font-bold text-balance lg:text-5xl">
                  {keepUnits(step.title)}
                </h1>
                <p className="mt-3 mb-0 text-2xl leading-snug">{keepUnits(step.how)}</p>
              </div>
              {step.drawing && <StepDrawing step={step} className="w-60 shrink-0" />}
            </div>
            {step.caution && <p className="mt-4 mb-0 border-l-8 border-amber pl-4 text-xl">{step.caution}</p>}
            {step.irreversible && !done && <p className="mt-3 mb-0 font-semibold text-amber">This cannot be undone.</p>}
            {refused.has(step.id) && (
              <p role="alert" className="mt-4 mb-0 border-l-8 border-amber pl-4 text-xl font-semibold">
                Not ticked: {refused.get(step.id)}
              </p>
            )}
            <div className="mt-5">
              {done ? (
                <Ticked
                  step={step}
                  mark={done}
                  by={plan.by[step.id]}
                  onBack={() => set(step.id, null)}
                  onNext={() => go(undefined)}
                />
              ) : skipping ? (
                <Skip
                  step={step}
                  onSkip={(text) => mark(step, { state: "skipped", text })}
                  onStop={() => setSkipping(false)}
                />
              ) : (
                <HoldPoint
                  key={step.id}
                  job={job}
                  step={step}
                  listed={listed}
                  actions={actions}
                  onPass={(more) => mark(step, more)}
                />
              )}
            </div>
            <div className="mt-3 flex flex-wrap items-center gap-2">
              <Button onClick={() => go(steps[at - 1]!.id)} disabled={at === 0}>
                <ChevronLeft size={20} aria-hidden="true" /> Back
              </Button>
              {!done && !skipping && <Button onClick={() => setSkipping(true)}>Skip it …</Button>}
              <Link to={`/jobs/${job.id}#diagnosis`} className={buttonLook("plain")}>
                Something unexpected
              </Link>
            </div>
            <p className="mt-4 mb-0 text-muted">Why: {keepUnits(step.why)}</p>
            {step.tools.length > 0 && <p className="mt-1 mb-0 text-muted">At hand: {step.tools.join(", ")}.</p>}
            {following && <p className="mt-1 mb-0 text-muted">Then: {keepUnits(following.title)}</p>}
          </>
        ) : (
          <Finished job={job} plan={plan} onAnother={onAnother} />
        )}
      </article>
      <aside className="min-w-0">
        <StepList steps={steps} marks={marks} unsent={unsent} at={step?.id} onGo={go} />
        <Button
          kind="quiet"
          onClick={() => {
            setProblem(undefined);
            layAside(plan.number).catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not set aside.")));
          }}
        >
          Set this plan aside
        </Button>
        {problem && (
          <p role="alert" className="m-0 font-semibold text-amber">
            {problem}
          </p>
        )}
      </aside>
    </div>
  );
}

function Ticked({
  step,
  mark,
  by,
  onBack,
  onNext,
}: {
  step: PlanStep;
  mark: StepMark;
  by?: string;
  onBack: () => void;
  onNext: () => void;
}) {
  const what =
    mark.state === "skipped"
      ? `Skipped: ${mark.text ?? ""}`
      : mark.reading != null
        ? `${step.ask}: ${mark.reading} ${step.unit}`
        : mark.lines
          ? mark.lines.join(" · ")
          : (mark.text ?? "Done");
  const time = new Date(mark.at).toLocaleTimeString(undefined, { hour: "2-digit", minute: "2-digit" });
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p className="m-0 flex items-center gap-3 text-2xl text-teal">
        <Check size={32} aria-hidden="true" /> {what}
        <span className="text-base text-muted">{[by, time].filter(Boolean).join(", ")}</span>
      </p>
      <Button onClick={onBack}>Take it back</Button>
      <Button kind="main" onClick={onNext}>
        To the step that is next
      </Button>
    </div>
  );
}

function Finished({ job, plan, onAnother }: { job: JobSheet; plan: PlanAnswer; onAnother: () => void }) {
  const taken = plan.progress.minutesTaken;
  const skipped = plan.plan.steps.filter((step) => plan.marks[step.id]?.state === "skipped");
  return (
    <>
      <h1 className="mt-4 text-4xl leading-tight font-bold">All steps are done.</h1>
      <p className="mt-2 text-2xl">
        {taken == null ? "" : `${Math.ceil(taken)} min of work were logged. `}
        {plan.madeSetup == null ? "" : `It is setup ${plan.madeSetup} of the job now.`}
      </p>
      {skipped.length > 0 && (
        <p className="mt-2">
          Skipped: {skipped.map((step) => `${step.title} (${plan.marks[step.id]?.text ?? ""})`).join("; ")}.
        </p>
      )}
      <div className="mt-5 flex flex-wrap gap-3">
        <Link to={`/jobs/${job.id}`} className={`${buttonLook("main")} min-h-14 text-xl!`}>
          Back to the job
        </Link>
        {job.fields.repairKept && (
          <Link to={`/jobs/${job.id}/bag`} className={buttonLook("plain")}>
            Label for the old parts
          </Link>
        )}
        <Button onClick={onAnother}>Plan something else</Button>
      </div>
    </>
  );
}
