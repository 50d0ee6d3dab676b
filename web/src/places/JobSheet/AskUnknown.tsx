import { useState } from "react";
import type { JobSheet, Run, RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { celsiusOf, degrees, degreeSign } from "../../parts/degrees";
import { readNumber } from "../../parts/words";
import { loads } from "./loadWords";
import { useConditions } from "./useConditions";

const questions: Record<
  string,
  { ask: string; answers: readonly (readonly [words: string, change: Partial<RunConditions>])[] }
> = {
  workload: { ask: "Which load?", answers: loads.map(([workload, words]) => [words, { workload }] as const) },
  panel: {
    ask: "Panel?",
    answers: [
      ["Closed", { panel: "closed" }],
      ["Off", { panel: "side-off" }],
      ["Open bench", { panel: "open-bench" }],
    ],
  },
  fanPolicy: {
    ask: "Fans?",
    answers: [
      ["By themselves", { fanPolicy: "auto" }],
      ["Fixed", { fanPolicy: "fixed" }],
    ],
  },
  cardLoad: {
    ask: "Graphics card?",
    answers: [
      ["Idle", { cardLoad: "idle" }],
      ["Light", { cardLoad: "light" }],
      ["Full", { cardLoad: "full" }],
    ],
  },
};

/** What nobody has said of a run, each with one tap; until then it counts as unknown. */
export function AskUnknown({ run, job, actions }: { run: Run; job: JobSheet; actions: JobActions }) {
  const [room, setRoom] = useState("");
  const { saver } = useConditions(run, actions);
  if (run.unknown.length === 0) {
    return null;
  }
  const say = (change: Partial<RunConditions>) => saver.change((now) => ({ ...now, ...change }), true);
  const before = job.runs.filter((one) => one.id !== run.id && one.unknown.length === 0).at(-1);
  const noted = job.fields.roomC as number | null;
  const typed = readNumber(room);
  return (
    <div role="group" aria-label={`Not known of ${run.fileName}`} className="my-3 border-l-4 border-amber pl-3">
      <p className="m-0 font-semibold">Not known of this run</p>
      {run.unknown.map((name) => (
        <div key={name} className="mt-1 flex flex-wrap items-center gap-2">
          {name === "ambientC" ? (
            <>
              <span className="w-32">Room?</span>
              {noted !== null && (
                <Button onClick={() => say({ ambientC: noted })}>{degrees(noted, 1)}, as at the intake</Button>
              )}
              <input
                aria-label={`Room, ${degreeSign()}`}
                inputMode="decimal"
                value={room}
                onChange={(event) => setRoom(event.target.value)}
                className="min-h-11 w-24 rounded-sm border border-hairline bg-card px-3 font-mono"
              />
              <Button
                disabled={typed === undefined}
                onClick={() => typed !== undefined && say({ ambientC: celsiusOf(typed) })}
              >
                {degreeSign()}
              </Button>
            </>
          ) : name === "fanPercent" ? (
            <span>Fans fixed: at how many percent? It is asked for below.</span>
          ) : (
            <>
              <span className="w-32">{questions[name]?.ask}</span>
              {questions[name]?.answers.map(([words, change]) => (
                <Button key={words} onClick={() => say(change)}>
                  {words}
                </Button>
              ))}
            </>
          )}
        </div>
      ))}
      {before && (
        <Button
          kind="quiet"
          onClick={() => {
            const { workload, panel, fanPolicy, fanPercent, fanRpm, cardLoad } = before.conditions;
            say({ workload, panel, fanPolicy, fanPercent, fanRpm, cardLoad });
          }}
        >
          All as for {before.fileName}
        </Button>
      )}
    </div>
  );
}
