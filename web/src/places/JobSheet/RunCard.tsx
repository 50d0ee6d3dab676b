import { at } from "../../api/base";
import { Download, Trash2 } from "lucide-react";
import type { JobSheet, Run } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button, buttonLook } from "../../parts/Button";
import { degreeBy, degrees, degreesBy } from "../../parts/degrees";
import { clock, gigahertz, megabytes, moment, rpm, watts } from "../../parts/words";
import { ColumnDesk } from "./ColumnDesk";
import { telling } from "../../parts/told";
import { AskUnknown } from "./AskUnknown";
import { ConditionsForm } from "./ConditionsForm";
import { CountsIn, LeaveOut } from "./LeaveOut";
import { RunMount } from "./RunMount";

type Named = [string, string, string?];

/** A figure that only some logs carry. */
const optional = (name: string, value: number | null | undefined, words: (value: number) => string): Named[] =>
  value == null ? [] : [[name, words(value)]];

const fanStates: Record<string, string> = {
  ramps: "speeds up",
  "low-while-hot": "stays low while hot",
  stopped: "stands still",
  fixed: "stays as it is",
};

const fanWords = (fan: Run["analysis"]["fan"]) => fanStates[fan?.state ?? ""] ?? "—";

/** One run: what it shows, its figures, how it was made, and what was left out or assumed. */
export function RunCard({ run, job, actions }: { run: Run; job: JobSheet; actions: JobActions }) {
  const { load, resistance: r, ambientC, idle, recovery, sustainablePowerW, projectedAtRatedPowerC } = run.analysis;
  const figures: Named[] = load
    ? [
        ["sustained", degrees(load.sustainedTemperatureC, 1), `± ${degreeBy(load.sustainedHalfWidthC, 1)}`],
        ["at", watts(load.sustainedPowerW)],
        ...optional("°C/W, its own heat", run.analysis.ownResistance?.valueCPerW, (value) => value.toFixed(3)),
        ["°C/W, chip to room", r ? r.valueCPerW.toFixed(3) : "—", r ? `± ${r.halfWidthCPerW.toFixed(3)}` : undefined],
        ["can hold", watts(sustainablePowerW)],
        ["at rated power", degrees(projectedAtRatedPowerC)],
        ["peak", degrees(load.peakTemperatureC)],
        ["room", degrees(ambientC, 1)],
        ["idle above room", degreesBy(idle?.riseC, 1)],
        ["clock", gigahertz(load.sustainedClockMHz)],
        ["fan", rpm(load.sustainedFanRpm)],
        ["fan answers", fanWords(run.analysis.fan)],
        ["half cooled after", recovery?.halfSeconds == null ? "—" : `${recovery.halfSeconds.toFixed(0)} s`],
        [
          "would settle at",
          degrees(load.forecastFinalTemperatureC, 1),
          load.settled == null ? undefined : load.settled ? "settled" : "not settled",
        ],
        ...optional("between cores", load.coreSpreadC, (value) => degreesBy(value, 1)),
        ...optional("flow", run.analysis.flow?.litresPerMinute, (value) => `${value.toFixed(2)} L/min`),
        ...optional("control reads above", run.analysis.controlOffsetC, (value) => degreesBy(value)),
        ...optional("score", load.sustainedScore, (value) => value.toPrecision(4)),
        ...optional("sound", load.soundDba, (value) => `${value.toFixed(0)} dB(A)`),
        ...optional("heat path’s fit leaves", run.analysis.heatPathFit?.residualC, (value) => degreesBy(value, 1)),
      ]
    : [];
  return (
    <article aria-label={`Run ${run.fileName}`} className="border-t border-hairline py-4 first:border-t-0">
      <header className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h4 className="text-xl font-bold">{run.finding}</h4>
        <span className="text-muted">
          {run.fileName}
          {run.stretch && `, from ${clock(run.stretch.startSeconds)} to ${clock(run.stretch.endSeconds)}`} ·{" "}
          {megabytes(run.fileBytes)} · {clock(run.analysis.durationSeconds)} · added {moment(run.importedAt)}
        </span>
      </header>
      <dl className="my-4 grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-4">
        {figures.map(([name, value, beside]) => (
          <div key={name}>
            <dt className="text-muted">{name}</dt>
            <dd className="m-0 font-mono text-lg">
              {value} {beside && <span className="text-base text-muted">{beside}</span>}
            </dd>
          </div>
        ))}
      </dl>
      {run.cardFinding && <CardOfRun run={run} />}
      <AskUnknown run={run} job={job} actions={actions} />
      {run.missingOriginal && (
        <p className="my-3 border-l-4 border-amber pl-3">
          Its original log is missing from the file store. What was read of it stands; it cannot be read anew until it
          is back.
        </p>
      )}
      {run.alsoOn.length > 0 && (
        <p className="my-3 border-l-4 border-amber pl-3">
          The same file is also on {run.alsoOn.join(", ")}. If it was dropped here by mistake, take it off this job.
        </p>
      )}
      {run.analysis.warnings.length > 0 && (
        <ul className="my-3 list-none border-l-4 border-amber p-0 pl-3">
          {run.analysis.warnings.map((warning) => (
            <li key={warning.code + warning.message}>{warning.message}</li>
          ))}
        </ul>
      )}
      {run.leftOut !== null ? <LeaveOut run={run} actions={actions} /> : <CountsIn run={run} job={job} />}
      <ConditionsForm run={run} actions={actions} />
      <div className="mt-4">
        <RunMount run={run} job={job} actions={actions} />
      </div>
      <div className="mt-4 flex flex-wrap gap-3">
        <a className={buttonLook("plain")} href={at(`/api/runs/${run.id}/original`)} download={run.fileName}>
          <Download size={18} aria-hidden="true" /> Original log
        </a>
        <a className={buttonLook("plain")} href={at(`/api/runs/${run.id}/tidy`)} download>
          <Download size={18} aria-hidden="true" /> Tidy CSV
        </a>
        <a className={buttonLook("plain")} href={at(`/api/runs/${run.id}/conditions`)} download>
          <Download size={18} aria-hidden="true" /> Conditions
        </a>
        <Button onClick={() => telling(actions.removeRun(run.id), "The run was not taken off.")}>
          <Trash2 size={18} aria-hidden="true" /> Take off this job
        </Button>
        <ColumnDesk run={run} actions={actions} />
        {run.leftOut === null && <LeaveOut run={run} actions={actions} />}
      </div>
    </article>
  );
}

/** The graphics card's own finding and figures. */
function CardOfRun({ run }: { run: Run }) {
  const card = run.analysis.graphics!;
  const figures: Named[] = [
    ["card’s core", degrees(card.core.sustainedC, 1), `± ${degreeBy(card.core.halfWidthC, 1)}`],
    ...optional("hot spot", card.hotSpot?.sustainedC, (value) => degrees(value)),
    ...optional("memory", card.memory?.sustainedC, (value) => degrees(value)),
    ["card draws", watts(card.powerW)],
    ...optional("its fans", card.fanRpm, rpm),
    ...optional(card.airIsCase ? "°C/W to the case’s air" : "°C/W to the room", card.resistance?.valueCPerW, (value) =>
      value.toFixed(3),
    ),
  ];
  return (
    <div className="my-3">
      <p className="m-0 font-semibold">{run.cardFinding}</p>
      <dl className="mt-2 grid grid-cols-2 gap-x-6 gap-y-3 sm:grid-cols-4">
        {figures.map(([name, value, beside]) => (
          <div key={name}>
            <dt className="text-muted">{name}</dt>
            <dd className="m-0 font-mono text-lg">
              {value} {beside && <span className="text-base text-muted">{beside}</span>}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
