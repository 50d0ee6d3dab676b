import { useRef, useState } from "react";
import { Link } from "react-router";
import { sentenceOf } from "../../api/client";
import { begin, caseFile, enter, usePractice, type PracticeTry } from "../../api/practice";
import { Button, buttonLook } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Failing, Loading } from "../../parts/States";
import { ago } from "../../parts/words";
import { useTitle } from "../../parts/useTitle";

/** Machines with a hidden fault, to train on: levels, cases out of a file, and how one has done. */
export function PracticePlace() {
  const practice = usePractice();
  const [level, setLevel] = useState("1");
  const [advice, setAdvice] = useState("with");
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const picker = useRef<HTMLInputElement>(null);
  useTitle("Practice");
  if (!practice.data) {
    return practice.isError ? (
      <Failing sentence={practice.error.message} onRetry={() => void practice.refetch()} />
    ) : (
      <Loading what="the practice place" />
    );
  }
  const { levels, tries } = practice.data;
  const open = tries.find((one) => one.mine && one.endedAt === null);
  const start = (what: Parameters<typeof begin>[0]) => {
    setBusy(true);
    setProblem(undefined);
    begin({ ...what, alone: advice === "alone" })
      .then((now) => enter(now.jobId))
      .catch((failure: unknown) => {
        setBusy(false);
        setProblem(sentenceOf(failure, "The case was not begun."));
      });
  };
  const chosen = levels.find((one) => String(one.number) === level);
  return (
    <div className="max-w-6xl px-4 py-5 md:px-7">
      <h1 className="text-3xl leading-tight font-bold">
        {open ? "A machine waits in your practice bay" : "Take a machine and find what is wrong with it"}
      </h1>
      <p className="mt-1 mb-0 max-w-prose text-xl">
        Everything is as at work: the sheet, the bay, the runs. Nothing of it counts in jobs, records or the league.
      </p>
      {open && (
        <p className="mt-4 mb-0 flex flex-wrap items-center gap-4">
          <Button kind="main" onClick={() => enter(open.jobId)}>
            Go on with it
          </Button>
          <span className="text-muted">
            Level {open.level}, begun {ago(open.startedAt)}. Another case puts it away unsolved.
          </span>
        </p>
      )}
      <div className="mt-6 grid items-start gap-x-14 gap-y-8 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
        <section aria-label="A new case" className="grid gap-4">
          <h2 className="text-xl font-bold">A new case</h2>
          <Choice
            label="Level"
            value={level}
            options={levels.map((one) => [String(one.number), `${one.number} · ${one.title}`] as const)}
            onChange={(next) => setLevel(next!)}
          />
          <p className="m-0">{chosen?.what}</p>
          <Choice
            label="The sheet’s own opinion"
            value={advice}
            options={[
              ["with", "says what it thinks"],
              ["alone", "keeps it to itself"],
            ]}
            onChange={(next) => setAdvice(next!)}
          />
          <div className="flex flex-wrap gap-3">
            <Button kind={open ? "plain" : "main"} disabled={busy} onClick={() => start({ level: Number(level) })}>
              {busy ? "Bringing it in …" : "Bring a machine in"}
            </Button>
            <Button disabled={busy} onClick={() => picker.current?.click()}>
              A case from a file
            </Button>
            <input
              ref={picker}
              type="file"
              accept=".json,application/json"
              hidden
              data-case
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = "";
                void file?.text().then((text) => start({ file: text }));
              }}
            />
          </div>
          {problem && (
            <p role="alert" className="m-0 font-semibold text-amber">
              {problem}
            </p>
          )}
        </section>
        <section aria-label="How it went">
          <h2 className="text-xl font-bold">How it went</h2>
          {tries.length === 0 ? (
            <p className="m-0 text-muted">
              No case was worked yet. Each is scored against the best way to work the same machine, and tells afterwards
              where the information lay.
            </p>
          ) : (
            <Tries tries={tries} />
          )}
        </section>
      </div>
    </div>
  );
}

function Tries({ tries }: { tries: readonly PracticeTry[] }) {
  const several = new Set(tries.map((one) => one.person)).size > 1;
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-hairline text-muted">
            {several && <th className="py-2 pr-4 font-normal">Who</th>}
            <th className="py-2 pr-4 font-normal">Case</th>
            <th className="py-2 pr-4 text-right font-normal">Points</th>
            <th className="py-2 pr-4 text-right font-normal">Hands</th>
            <th className="py-2 font-normal">To give away</th>
          </tr>
        </thead>
        <tbody>
          {tries.map((one) => (
            <tr key={one.id} className="border-b border-hairline align-baseline">
              {several && <td className="py-2 pr-4">{one.person}</td>}
              <td className="py-2 pr-4">
                Level {one.level}
                {one.alone && ", without advice"}, {ago(one.endedAt ?? one.startedAt)}
              </td>
              <td className="py-2 pr-4 text-right font-mono">
                {one.points !== null ? (
                  <Link to={`/practice/${one.id}`} className="font-bold text-teal underline underline-offset-4">
                    {Math.round(one.points)} of 100
                  </Link>
                ) : one.endedAt ? (
                  <span className="text-muted">put away</span>
                ) : (
                  <span className="text-muted">at work</span>
                )}
              </td>
              <td className="py-2 pr-4 text-right font-mono">{Math.round(one.minutes)} min</td>
              <td className="py-2">
                <a className={buttonLook("quiet")} href={caseFile(one.id)} download>
                  Case {one.seed}
                </a>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
