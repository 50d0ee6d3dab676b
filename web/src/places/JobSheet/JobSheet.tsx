import { useCallback, useEffect, useRef, useState } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { base } from "../../api/base";
import { sentenceOf, type JobSheet } from "../../api/client";
import { useDiagnosis } from "../../api/diagnosis";
import { fieldRow } from "../../api/jobFields";
import { useJob, useJobActions } from "../../api/jobs";
import { useView } from "../../api/useView";
import { Button } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useShortcuts } from "../../parts/shortcuts";
import { useTitle } from "../../parts/useTitle";
import { waitWords } from "../../parts/waits";
import { keepUnits } from "../../parts/words";
import { PracticePanel } from "../Practice/AtPractice";
import { Diagnosis } from "./Diagnosis";
import { DropTargets, type Target } from "./DropTargets";
import { Fairness } from "./Fairness";
import { HandoverSection } from "./HandoverSection";
import { History } from "./History";
import { Intake } from "./Intake";
import { Look } from "./Look";
import { NextSetup } from "./NextSetup";
import { NowCard } from "./NowCard";
import { PairStrip } from "./PairStrip";
import { Repair } from "./Repair";
import { Result } from "./Result";
import { Rounds } from "./Rounds";
import { Section } from "./Section";
import { currentSetup, lastMount, roundReason } from "./setups";
import { SetupRuns } from "./SetupRuns";
import { StepRail } from "./StepRail";
import { UnderHands } from "./UnderHands";
import { useCheckRun } from "./useCheckRun";
import { useImports } from "./useImports";
import { isPicture, usePhotos } from "./usePhotos";
import { sectionOf, useWaitingDrafts } from "./useWaitingDrafts";
import { Waiting } from "./Waiting";

/** One machine, one long page in the order of work. */
export function JobSheetPlace() {
  const { id } = useParams();
  useView(id!);
  const job = useJob(id!);
  if (job.data) {
    return <Sheet key={id} job={job.data} stale={job.isError ? job.error.message : undefined} />;
  }
  if (job.isError) {
    return <Failing sentence={job.error.message} onRetry={() => void job.refetch()} />;
  }
  return <Loading what="the job" />;
}

function Sheet({ job, stale }: { job: JobSheet; stale?: string }) {
  const actions = useJobActions(job.id);
  const waitingDrafts = useWaitingDrafts(job, actions);
  const imports = useImports(job.id, actions);
  const photos = usePhotos(actions);
  const diagnosis = useDiagnosis(job);
  const checkRun = useCheckRun(job.id);
  const navigate = useNavigate();
  const pickers = useRef<Partial<Record<"before" | "after", HTMLInputElement | null>>>({});
  const [problem, setProblem] = useState<string>();
  const { hash, search } = useLocation();
  // A section stays as it was left; a step that becomes the current one opens by itself.
  const [open, setOpen] = useState<ReadonlySet<string>>(() => new Set([job.currentStep, hash.slice(1)]));
  const [current, setCurrent] = useState(job.currentStep);
  if (current !== job.currentStep) {
    setCurrent(job.currentStep);
    setOpen(new Set([...open, job.currentStep]));
  }
  useTitle(`${job.tag} ${job.fields.machine ?? ""}`.trim());

  const show = useCallback((step: string, focus?: string, part?: string) => {
    setOpen((now) => new Set([...now, step]));
    requestAnimationFrame(() => {
      const section = document.getElementById(step);
      ((part && section?.querySelector(part)) || section)?.scrollIntoView({ block: "start" });
      if (focus) {
        const fields = [...(section?.querySelectorAll<HTMLInputElement>(focus) ?? [])];
        (fields.find((field) => field.value === "") ?? fields[0])?.focus();
      }
    });
  }, []);

  // Whoever comes for a part of the sheet stands before it.
  useEffect(() => {
    if (hash) {
      document.getElementById(hash.slice(1))?.scrollIntoView({ block: "start" });
    }
  }, [hash]);

  /** A part of the intake, unfolded. */
  const showGroup = (id: string) => {
    setOpen((now) => new Set([...now, "intake"]));
    requestAnimationFrame(() => {
      const group = document.getElementById(id) as HTMLDetailsElement | null;
      if (group) {
        group.open = true;
        group.scrollIntoView({ block: "start" });
      }
    });
  };

  const tryTo = (change: Promise<unknown>, otherwise: string) => {
    setProblem(undefined);
    return change.catch((failure: unknown) => setProblem(sentenceOf(failure, otherwise)));
  };

  /** Files fall on a mount that is there, or on one that is made for them. */
  const land = async (target: Target, files: File[]) => {
    if (target.kind === "picture") {
      return;
    }
    show(target.kind === "mount" && target.setup === 1 ? "before" : "after");
    const sheet =
      target.kind === "new"
        ? await actions.addSetup({ kind: target.change })
        : target.kind === "remount"
          ? await actions.addMount(target.setup)
          : undefined;
    const mount = target.kind === "mount" ? target.mount : lastMount(currentSetup(sheet!)).id;
    await imports.add(mount, files);
  };

  const act = (action: string) => {
    switch (action) {
      case "fill-in":
        return show("intake", "input[data-field], textarea[data-field]");
      case "before-run":
      case "after-run": {
        const side = action === "before-run" ? "before" : "after";
        show(side);
        if (side === "after" && job.setups.length === 1) {
          // What was done makes the next setup; the log is chosen on it.
          return void tryTo(actions.addSetup({ kind: "repair" }), "The setup was not made.");
        }
        // A section that was folded has its picker a moment later.
        return void requestAnimationFrame(() => pickers.current[side]?.click());
      }
      case "next-round":
        return void tryTo(
          actions.openRound(roundReason(job)).then(() => show("repair")),
          "The round was not opened.",
        );
      case "look":
        return show("look");
      case "parts":
        return showGroup("parts");
      case "check":
        return show("diagnosis", undefined, "[data-next-check]");
      case "run":
        return checkRun.start(diagnosis.data?.checks[0]?.variant ?? "usual");
      case "coolers":
      case "air":
        return void navigate(`/${action}?job=${job.id}`);
      case "warranty":
        return showGroup("warranty");
      case "decide":
        return void navigate(`/jobs/${job.id}/decide`);
      case "plan":
        return void navigate(`/jobs/${job.id}/repair`);
      case "repair":
        return show("repair", "textarea[data-field], input[data-field]");
      case "handover":
        return void navigate(`/jobs/${job.id}/handover${search}`);
    }
  };
  useShortcuts({ ".": () => act(job.now.action) });

  const section = (id: string) => ({
    step: job.steps.find((step) => step.id === id)!,
    open: open.has(id),
    onOpen: (wanted: boolean) =>
      setOpen((now) => new Set(wanted ? [...now, id] : [...now].filter((other) => other !== id))),
  });
  const current_ = currentSetup(job);
  const setup = (one: JobSheet["setups"][number]) => (
    <SetupRuns
      key={one.id}
      setup={one}
      job={job}
      actions={actions}
      imports={imports}
      picker={one.number === 1 ? "before" : one === current_ ? "after" : null}
      pickerRef={
        one.number === 1 || one === current_
          ? (element) => {
              pickers.current[one.number === 1 ? "before" : "after"] = element;
            }
          : undefined
      }
    />
  );

  const waiting = (
    <p role="status" className="m-0 text-muted">
      {diagnosis.isError ? diagnosis.error.message : "Fetching the diagnosis …"}
    </p>
  );

  const { lead, claim, rest, hot, beside } = job.headline;
  const { owner, machine } = job.fields;
  return (
    <div className="px-4 py-5 md:px-7">
      <header>
        <div className="flex flex-wrap items-baseline gap-x-4 text-muted">
          <span className="font-mono font-bold text-ink">{job.tag}</span>
          <span className="min-w-0 grow truncate">{[owner, machine].filter(Boolean).join(" · ")}</span>
          <span>{waitWords(job.waitsFor)}</span>
        </div>
        <h1 className="mt-1 text-3xl leading-tight font-bold">
          {keepUnits(lead)} <span className={hot ? "text-copper-text" : "text-teal"}>{keepUnits(claim)}</span>
          {keepUnits(rest)}
        </h1>
        {beside && <p className="mt-1 mb-0 text-xl">{keepUnits(beside)}</p>}
      </header>
      {stale && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          This sheet may be out of date: {stale}
        </p>
      )}
      {waitingDrafts.length > 0 && (
        <p role="alert" className="mt-2 mb-0 flex flex-wrap items-center gap-x-3 font-semibold text-amber">
          Typed here before and not saved yet:
          {waitingDrafts.map((name) => (
            <Button key={name} kind="quiet" onClick={() => show(sectionOf(name), `[data-field="${name}"]`)}>
              {fieldRow(name).label}
            </Button>
          ))}
        </p>
      )}
      <UnderHands job={job} />
      <PairStrip job={job} />
      <StepRail steps={job.steps} current={job.currentStep} onGo={show} />
      <div className="mt-4 grid gap-x-7 gap-y-6 lg:grid-cols-[minmax(0,1fr)_344px]">
        <aside className="lg:col-start-2 lg:row-start-1">
          <div className="flex flex-col gap-4 lg:sticky lg:top-4">
            <NowCard now={job.now.action === "run" ? { ...job.now, button: checkRun.words } : job.now} onAct={act} />
            {base && <PracticePanel job={job.id} />}
            {[checkRun.problem, problem].map(
              (one) =>
                one && (
                  <p key={one} role="alert" className="m-0 font-semibold text-amber">
                    {one}
                  </p>
                ),
            )}
            {job.verdict && <Fairness verdict={job.verdict} />}
            {!base && job.waitsFor !== "done" && <Waiting job={job} actions={actions} />}
            <History job={job} actions={actions} />
          </div>
        </aside>
        <div className="min-w-0 lg:col-start-1 lg:row-start-1">
          <Result job={job} actions={actions} />
          <Section {...section("intake")}>
            <Intake job={job} actions={actions} diagnosis={diagnosis.data} photos={photos} />
          </Section>
          <Section {...section("look")}>
            {diagnosis.data ? <Look job={job} actions={actions} diagnosis={diagnosis.data} /> : waiting}
          </Section>
          <Section {...section("before")}>{setup(job.setups[0]!)}</Section>
          <Section {...section("diagnosis")}>
            {diagnosis.data ? <Diagnosis job={job} actions={actions} diagnosis={diagnosis.data} /> : waiting}
          </Section>
          <Section {...section("repair")}>
            <Rounds job={job} />
            <Repair job={job} actions={actions} diagnosis={diagnosis.data} />
            {!job.setups.some((one) => one.number > 1 && one.round === job.round) && (
              <NextSetup job={job} actions={actions} onMade={() => show("after")} />
            )}
          </Section>
          <Section {...section("after")}>
            {job.setups.slice(1).map(setup)}
            <NextSetup job={job} actions={actions} />
          </Section>
          <Section {...section("handover")}>
            <HandoverSection job={job} actions={actions} />
          </Section>
        </div>
      </div>
      <DropTargets
        job={job}
        onDrop={(target, files) => {
          // A picture is one wherever it falls; a log falls on a setup.
          const pictures = target.kind === "picture" ? files : files.filter(isPicture);
          const logs = files.filter((file) => !pictures.includes(file));
          if (pictures.length > 0) {
            showGroup("pictures");
            void photos.add(pictures);
          }
          if (logs.length > 0) {
            void tryTo(land(target, logs), "The log was not taken.");
          }
        }}
      />
    </div>
  );
}
