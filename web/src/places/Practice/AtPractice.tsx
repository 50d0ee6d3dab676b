import { useState } from "react";
import { Link } from "react-router";
import { sentenceOf } from "../../api/client";
import { leave, usePracticeActions, usePracticeNow, type PracticeNow, type PracticeQuestion } from "../../api/practice";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { useMoney } from "../../parts/useMoney";

/** Over every page of practice: that nothing here counts, what it has cost so far, and the way out. */
export function PracticeBanner() {
  const now = usePracticeNow();
  const money = useMoney();
  return (
    <p className="no-print m-0 flex flex-wrap items-center gap-x-5 border-b-4 border-teal bg-teal-soft px-4 py-1 md:px-7">
      <strong>Practice</strong>
      {now.data ? (
        <>
          <span>
            Level {now.data.level}: {Math.round(now.data.minutes)} min of labour, {money(now.data.partsMinor)} of parts
          </span>
          <Link
            to={`/jobs/${now.data.jobId}`}
            className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
          >
            The sheet
          </Link>
          <Link
            to={`/bench/${now.data.bayNumber}?job=${now.data.jobId}`}
            className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
          >
            The bay
          </Link>
        </>
      ) : (
        now.isError && <span role="alert">{now.error.message}</span>
      )}
      <Button kind="quiet" className="ml-auto" onClick={() => leave()}>
        Back to work
      </Button>
    </p>
  );
}

/** Beside the sheet of the machine that is practised on: whom to ask, where to look, what to do, and the end of it. */
export function PracticePanel({ job }: { job: string }) {
  const now = usePracticeNow();
  return now.data?.jobId === job ? <Panel now={now.data} job={job} /> : null;
}

function Panel({ now, job }: { now: PracticeNow; job: string }) {
  const actions = usePracticeActions(job);
  const [problem, setProblem] = useState<string>();
  const act = (change: Promise<unknown>) => {
    setProblem(undefined);
    return change.catch((failure: unknown) => setProblem(sentenceOf(failure, "It was not done.")));
  };
  if (now.ended) {
    return (
      <section aria-label="Practice" className="border-t-4 border-teal bg-card p-4">
        <h2 className="text-xl font-bold">This case is ended</h2>
        <Button kind="main" onClick={() => leave(`/practice/${now.id}`)}>
          How it went
        </Button>
      </section>
    );
  }
  const asks = now.questions.filter((one) => one.kind === "ask");
  const looks = now.questions.filter((one) => one.kind === "look");
  const ask = (one: PracticeQuestion) => void act(actions.ask.mutateAsync(one.id));
  return (
    <section aria-label="Practice" className="border-t-4 border-teal bg-card p-4">
      <h2 className="text-xl font-bold">The machine and its owner</h2>
      <Questions title="Ask the owner" questions={asks} onAsk={ask} busy={actions.ask.isPending} />
      <Questions
        title="Look, listen, feel"
        questions={looks}
        onAsk={ask}
        busy={actions.ask.isPending}
        off={now.cooler === "lifted"}
      />
      <p className="mt-3 mb-0">
        Runs and hands are in{" "}
        <Link to={`/bench/${now.bayNumber}?job=${now.jobId}`} className="text-teal underline underline-offset-4">
          the bay
        </Link>
        : panel, cooler, instruments.
      </p>
      <div className="mt-2">
        <Choice
          label="Runs go"
          value={String(now.speed)}
          options={[
            ["1", "as they are"],
            ["20", "× 20"],
            ["60", "× 60"],
            ["120", "× 120"],
          ]}
          onChange={(speed) => void act(actions.speed.mutateAsync(Number(speed)))}
        />
      </div>
      <Repairs now={now} onRepair={(id) => void act(actions.repair.mutateAsync(id))} busy={actions.repair.isPending} />
      {problem && (
        <p role="alert" className="mt-3 mb-0 font-semibold text-amber">
          {problem}
        </p>
      )}
      <End
        busy={actions.end.isPending}
        onEnd={(told) => void act(actions.end.mutateAsync(told).then(() => leave(`/practice/${now.id}`)))}
      />
    </section>
  );
}

function Questions({
  title,
  questions,
  onAsk,
  busy,
  off = true,
}: {
  title: string;
  questions: readonly PracticeQuestion[];
  onAsk: (one: PracticeQuestion) => void;
  busy: boolean;
  off?: boolean;
}) {
  const asked = questions.filter((one) => one.asked).length;
  return (
    <details className="mt-2 border-t border-hairline pt-2">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        {title}{" "}
        <span className="font-normal text-muted">
          {asked} of {questions.length}
        </span>
      </summary>
      <ul className="m-0 grid list-none gap-1 p-0">
        {questions.map((one) => (
          <li key={one.id} className="flex flex-wrap items-center justify-between gap-x-3">
            {one.asked ? (
              <>
                <span>{one.title}</span>
                <strong>{one.answer ?? "does not know"}</strong>
              </>
            ) : (
              <Button
                kind="quiet"
                className="w-full justify-between gap-3 text-left"
                title={one.how}
                disabled={busy || (one.wantsCoolerOff && !off)}
                onClick={() => onAsk(one)}
              >
                {one.title}
                <span className="font-mono whitespace-nowrap text-muted">
                  {one.wantsCoolerOff && !off ? "cooler off first" : `${one.minutes} min`}
                </span>
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}

function Repairs({ now, onRepair, busy }: { now: PracticeNow; onRepair: (id: string) => void; busy: boolean }) {
  const money = useMoney();
  return (
    <details className="mt-2 border-t border-hairline pt-2">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        Do a repair <span className="font-normal text-muted">{now.busy ? "after the run" : ""}</span>
      </summary>
      <p className="mt-0 text-muted">
        What is changed is a new setup on the sheet: make it before the next run. Another cooler is mounted in the bay.
      </p>
      <ul className="m-0 grid list-none gap-1 p-0">
        {now.repairs.map((one) => (
          <li key={one.id}>
            <Button
              kind="quiet"
              className="w-full justify-between gap-3 text-left"
              disabled={busy || now.busy || now.cooler === "lifted"}
              onClick={() => onRepair(one.id)}
            >
              {one.title}
              <span className="font-mono whitespace-nowrap text-muted">
                {one.done ? "done" : `${Math.round(one.minutes)} min`}
                {one.partsMinor > 0 && !one.done && `, ${money(one.partsMinor)}`}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

const verdicts = [
  ["mended", "it is mended"],
  ["better", "better, not all of it"],
  ["sound", "nothing was wrong"],
  ["not-yet", "not mended yet"],
] as const;

function End({ onEnd, busy }: { onEnd: (told: string) => void; busy: boolean }) {
  const [told, setTold] = useState<string | null>(null);
  return (
    <div className="mt-3 border-t border-hairline pt-3">
      <Choice label="What you tell the owner" strong value={told} options={verdicts} clearable onChange={setTold} />
      <Button kind="main" className="mt-3" disabled={told === null || busy} onClick={() => onEnd(told!)}>
        {busy ? "Working it the best way …" : "Give it back, and end the case"}
      </Button>
    </div>
  );
}
