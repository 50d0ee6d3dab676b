import { useState } from "react";
import { Link, useParams } from "react-router";
import { base } from "../../api/base";
import { latest, useBayActions, useBays, type Bay, type BayTrace as Readings } from "../../api/bays";
import { useJobList } from "../../api/jobs";
import { useWatched } from "../../api/live";
import { Failing, Loading } from "../../parts/States";
import { celsiusUnit, degrees } from "../../parts/degrees";
import { roleWords } from "../../parts/roles";
import { telling } from "../../parts/told";
import { useShortcuts } from "../../parts/shortcuts";
import { useTitle } from "../../parts/useTitle";
import { gigahertz } from "../../parts/words";
import { BayTrace, chipLane, type BayLane } from "../../pictures/BayTrace";
import { BayFigures, BayHeading, BayPicture, BaySays, isRunning } from "./BayFigures";
import { Join } from "./Join";
import { ReadByHand } from "./ReadByHand";
import { RigHands } from "./RigHands";
import { RunControls } from "./RunControls";

const lanes: readonly BayLane[] = [
  { title: "Power", unit: "W", channels: ["cpu-power"], stroke: "stroke-ink", from: 0, to: 50 },
  { title: "Cooler fan", unit: "rpm", channels: ["cpu-fan-speed"], stroke: "stroke-teal", from: 0, to: 1000 },
  { title: "Clock", unit: "MHz", channels: ["cpu-clock"], stroke: "stroke-muted", from: 0, to: 2000 },
];

/** What else is read just now, in words. */
const also = [
  ["ambient-temperature", "Room", celsiusUnit, 1],
  ["coolant-temperature", "Liquid", celsiusUnit, 1],
  ["tube-out-temperature", "Tube to the radiator", celsiusUnit, 1],
  ["tube-return-temperature", "Tube back", celsiusUnit, 1],
  ["pump-speed", "Pump", "rpm", 0],
  ["gpu-temperature", "Graphics card", celsiusUnit, 0],
  ["sound-level", "Sound", "dB(A)", 1],
] as const;

/** One bay, with all that can be seen of it and done to it. */
export function BayFocus() {
  const { number } = useParams();
  const bays = useBays();
  const bay = bays.data?.find((one) => String(one.number) === number);
  if (bays.isError && !bays.data) {
    return <Failing sentence={bays.error.message} onRetry={() => void bays.refetch()} />;
  }
  if (!bays.data) {
    return <Loading what="the bay" />;
  }
  if (!bay) {
    return (
      <Failing sentence={`There is no bay ${number ?? ""}.`}>
        <Link to="/bench" className="text-teal underline underline-offset-4">
          Go to the bench
        </Link>
      </Failing>
    );
  }
  return <Focus key={bay.id} bay={bay} />;
}

function Focus({ bay }: { bay: Bay }) {
  const jobs = useJobList("");
  const actions = useBayActions();
  const [starting, setStarting] = useState(false);
  useTitle(`Bay ${bay.number}`);
  useWatched([bay.id]);
  useShortcuts({
    " ": () =>
      isRunning(bay) ? telling(actions.stop(bay.id), "The run was not stopped.") : bay.online && setStarting(true),
  });
  return (
    <div className="px-4 py-5 md:px-7">
      <Link to="/bench" className="inline-flex min-h-11 items-center text-teal underline underline-offset-4">
        All bays
      </Link>
      <div className="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_340px]">
        <article aria-label={`Bay ${bay.number}`}>
          <BayHeading bay={bay} jobs={jobs.data ?? []}>
            <h1 className="text-3xl font-bold">Bay {bay.number}</h1>
          </BayHeading>
          <BayFigures bay={bay} large />
          <BaySays bay={bay} />
          <RunControls
            bay={bay}
            jobs={jobs.data ?? []}
            actions={actions}
            starting={starting}
            onStarting={setStarting}
            all
          />
          {bay.note && <p className="my-2 border-l-4 border-amber pl-3 text-lg">{bay.note}</p>}
          <BayPicture bay={bay}>
            {(readings) => (
              <>
                <BayTrace readings={readings} limitC={bay.run?.limitC ?? null} lane={chipLane} className="h-44" />
                {lanes.map((lane) => (
                  <Lane key={lane.title} lane={lane} readings={readings} />
                ))}
                <Also readings={readings} />
              </>
            )}
          </BayPicture>
        </article>
        <aside className="grid content-start gap-6">
          {isRunning(bay) && (
            <section aria-labelledby="by-hand">
              <h2 id="by-hand" className="mb-2 text-xl font-bold">
                Read by hand
              </h2>
              <ReadByHand bay={bay} actions={actions} />
            </section>
          )}
          {bay.sender?.simulated && (
            <section aria-labelledby="rig-hands">
              <h2 id="rig-hands" className="mb-2 text-xl font-bold">
                Your hands on this simulated machine
              </h2>
              <RigHands bay={bay} actions={actions} />
            </section>
          )}
          <section aria-labelledby="joined">
            <h2 id="joined" className="mb-2 text-xl font-bold">
              Connection
            </h2>
            {bay.sender?.machine && <p className="m-0">{bay.sender.machine}</p>}
            {(bay.sender?.missing.length ?? 0) > 0 && (
              <p className="my-1">It does not show: {bay.sender?.missing.map(roleWords).join(", ")}.</p>
            )}
            {!base && <Join bay={bay} />}
          </section>
        </aside>
      </div>
    </div>
  );
}

function Lane({ lane, readings }: { lane: BayLane; readings: Readings }) {
  const value = latest(readings, lane.channels[0]!);
  return value === undefined ? null : (
    <div className="mt-3">
      <p className="m-0 flex justify-between text-muted">
        <span>{lane.title}</span>
        <span className="font-mono text-lg text-ink">
          {lane.unit === "MHz" ? gigahertz(value) : `${value.toFixed(0)} ${lane.unit}`}
        </span>
      </p>
      <BayTrace readings={readings} lane={lane} className="h-16" />
    </div>
  );
}

function Also({ readings }: { readings: Readings }) {
  const there = also.flatMap(([channel, words, unit, digits]) => {
    const value = latest(readings, channel);
    return value === undefined
      ? []
      : [{ words, text: unit === celsiusUnit ? degrees(value, digits) : `${value.toFixed(digits)} ${unit}` }];
  });
  return (
    <dl className="mt-4 flex flex-wrap gap-x-8 gap-y-2">
      {there.map(({ words, text }) => (
        <div key={words}>
          <dt className="text-muted">{words}</dt>
          <dd className="m-0 font-mono text-xl">{text}</dd>
        </div>
      ))}
    </dl>
  );
}
