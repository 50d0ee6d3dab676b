import { Rows3 } from "lucide-react";
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { sentenceOf, type JobSheet, type Run } from "../../api/client";
import { useFit, useTraces, type JobActions, type TraceWanted } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { CheckMenu } from "../../parts/CheckMenu";
import { useKept } from "../../parts/useKept";
import { LegendLine, RunTrace } from "../../pictures/RunTrace";
import {
  columnsOf,
  lanesOf,
  laneKinds,
  loadStart,
  looksOf,
  residualLane,
  usualLanes,
  type LaneKind,
  type Range,
  type SideTrace,
  unitOf,
} from "../../pictures/lanes";
import { Marks } from "./Marks";
import { MoreRuns, type ForeignRun } from "./MoreRuns";
import { labelled, shownPair } from "./setups";

const isText = (kept: unknown): kept is string[] => Array.isArray(kept) && kept.every((one) => typeof one === "string");

/** How long a zoom rests before a finer stretch is fetched, ms. */
const restBeforeFetch = 250;

/** The trace of a job: which runs it lays over each other, which lanes it shows, marks, and the load's edges. */
export function TracePanel({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const [chosen, setChosen] = useState<readonly string[]>();
  const [foreign, setForeign] = useState<readonly ForeignRun[]>([]);
  const [laneIds, setLaneIds] = useKept("trace-lanes", [...usualLanes], isText);
  const [extras, setExtras] = useKept("trace-extras", [], isText);
  const [view, setView] = useState<Range>();
  const [problem, setProblem] = useState<string>();
  const cursor = useRef(0);
  const rested = useRested(view, restBeforeFetch);

  const shown = useMemo(() => shownRuns(job, chosen, foreign), [job, chosen, foreign]);
  const runs = useMemo(() => shown.map((one) => one.run), [shown]);
  const possible = useMemo(() => lanesOf(runs), [runs]);
  const cores = extras.includes("cores") && runs.some(hasCores);
  const front = shown.at(-1)?.run;
  const fit = useFit(front?.id, front?.version, extras.includes("fit") && front?.analysis.heatPathFit != null);
  const lanes = useMemo(() => {
    const picked = possible.filter((kind) => laneIds.includes(kind.id));
    const drawn = picked.length > 0 ? picked : possible.slice(0, 1);
    return fit.data ? [drawn[0]!, residualLane, ...drawn.slice(1)] : drawn;
  }, [possible, laneIds, fit.data]);

  const wanted = runs.map((run) => wantedOf(run, lanes, cores));
  const { traces: wholes, error } = useTraces(wanted);
  const finer = wanted.flatMap((one, index) =>
    rested && (wholes[index]?.level ?? 0) > 0 ? [zoomed(one, runs[index]!, rested)] : [],
  );
  const { traces: parts } = useTraces(finer);
  const sides = useMemo(
    () =>
      shown.flatMap((one): SideTrace[] => {
        const whole = wholes.find((trace) => trace?.runId === one.run.id);
        const part = parts.find((trace) => trace?.runId === one.run.id);
        return whole
          ? [{ ...one, trace: part ?? whole, whole, ...(one.run === front && fit.data && { fit: fit.data }) }]
          : [];
      }),
    [shown, wholes, parts, front, fit.data],
  );
  const drawnSides = useDeferredValue(sides);

  const say = useCallback(
    (change: Promise<unknown>) => {
      setProblem(undefined);
      change.catch((failure: unknown) => {
        setProblem(sentenceOf(failure, "Not saved."));
        void actions.refresh();
      });
    },
    [actions],
  );
  if (!front) {
    return null;
  }
  const mine = job.runs.some((run) => run.id === front.id);
  const looks = looksOf(shown);
  const limitC = front.conditions.temperatureLimitC ?? null;
  const toggleLane = (id: string, on: boolean) =>
    extraNames.some(([extra]) => extra === id)
      ? setExtras(on ? [...extras, id] : extras.filter((one) => one !== id))
      : setLaneIds(on ? [...laneIds, id] : laneIds.filter((one) => one !== id));

  return (
    <section aria-label="Run trace" className="mt-2">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 text-muted">
        {shown.map((one, index) => (
          <span key={one.run.id} className="inline-flex items-center gap-2">
            <LegendLine look={looks[index]!} /> {one.label}
          </span>
        ))}
        <span className="ml-auto flex flex-wrap gap-2">
          <MoreRuns
            job={job}
            shown={shown.map((one) => one.run.id)}
            foreign={foreign}
            onShown={setChosen}
            onForeign={setForeign}
          />
          <CheckMenu
            trigger={
              <>
                <Rows3 size={18} aria-hidden="true" /> Lanes
              </>
            }
            groups={[
              possible.filter((kind) => !kind.source).map((kind) => laneItem(kind, laneIds)),
              extraNames
                .filter(([id]) => (id === "cores" ? runs.some(hasCores) : front.analysis.heatPathFit != null))
                .map(([id, words]) => ({ id, words, checked: extras.includes(id) })),
              possible.filter((kind) => kind.source).map((kind) => laneItem(kind, laneIds)),
            ]}
            onToggle={toggleLane}
          />
          {mine && (
            <Marks
              run={front}
              at={() => cursor.current}
              onMarks={(marks) => say(actions.setMarks(front.id, marks, front.version))}
            />
          )}
        </span>
      </div>
      {problem && (
        <p role="alert" className="mt-2 font-semibold text-amber">
          Not saved: {problem}
        </p>
      )}
      {mine && front.conditions.load && (
        <p className="m-0 flex flex-wrap items-center gap-x-2 text-muted">
          The load’s edges were set by hand.
          <Button
            kind="quiet"
            onClick={() => say(actions.setConditions(front.id, { ...front.conditions, load: null }, front.version))}
          >
            Find them again
          </Button>
        </p>
      )}
      {drawnSides.length > 0 ? (
        <RunTrace
          sides={drawnSides}
          lanes={lanes}
          limitC={limitC}
          view={view}
          onView={setView}
          onCursor={(at) => {
            cursor.current = at;
          }}
          onEdges={
            mine
              ? (load) => say(actions.setConditions(front.id, { ...front.conditions, load }, front.version))
              : undefined
          }
        />
      ) : (
        <p role="status" className={error ? "font-semibold text-amber" : "text-muted"}>
          {error ? `The trace could not be fetched: ${error.message}` : "Fetching the trace …"}
        </p>
      )}
      {fit.isError && <p className="text-amber">{fit.error.message}</p>}
    </section>
  );
}

const extraNames = [
  ["cores", "Cores, coolest to hottest"],
  ["fit", "Fit, and what it leaves"],
] as const;

const hasCores = (run: Run) =>
  run.analysis.channels.filter((channel) => channel.role === "core-temperature" && channel.samples > 0).length > 1;

const laneItem = (kind: LaneKind, chosen: readonly string[]) => ({
  id: kind.id,
  words: kind.unit && !kind.source ? `${kind.title} (${unitOf(kind)})` : kind.title,
  checked: chosen.includes(kind.id),
});

type Shown = Pick<SideTrace, "label" | "side" | "foreign" | "run">;

/** What is drawn, back to front: what was chosen, else the pair that the sheet speaks of. */
function shownRuns(job: JobSheet, chosen: readonly string[] | undefined, foreign: readonly ForeignRun[]): Shown[] {
  const own = labelled(job);
  const picked = chosen?.filter((id) => own.some((one) => one.run.id === id));
  const { before, after } = shownPair(job);
  const pair = own.filter((one) => one.run.id === before?.id || one.run.id === after?.id);
  const usual = pair.length > 0 ? pair : own.slice(-1);
  const mine = picked && picked.length > 0 ? own.filter((one) => picked.includes(one.run.id)) : usual;
  return [
    ...foreign.map(({ tag, label, side, run }): Shown => ({ label: `${tag} ${label}`, side, foreign: true, run })),
    ...mine,
  ];
}

function wantedOf(run: Run, lanes: readonly LaneKind[], cores: boolean): TraceWanted {
  // The brush shows the chip, whatever the lanes are.
  const columns = [laneKinds[0]!, ...lanes].flatMap((kind) => {
    const { main, also } = columnsOf(run, kind);
    return main === undefined ? also : [main, ...also];
  });
  return { runId: run.id, version: run.version, columns: [...new Set(columns)].sort((a, b) => a - b), cores };
}

const zoomed = (wanted: TraceWanted, run: Run, range: Range): TraceWanted => {
  // A margin of half a screen to either side, so that a small pan needs nothing new.
  const margin = (range.to - range.from) / 2;
  const start = loadStart(run);
  return { ...wanted, range: { from: Math.max(0, range.from - margin + start), to: range.to + margin + start } };
};

/** A value once it has rested. */
function useRested<T>(value: T, milliseconds: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return rested;
}
