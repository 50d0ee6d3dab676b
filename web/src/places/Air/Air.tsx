import { RotateCcw, Undo2 } from "lucide-react";
import { Tabs } from "radix-ui";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { useAirLook, useAirSheet, type AirLoad, type AirLook, type AirPlan, type AirSheet } from "../../api/air";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { MachinePicker, useChosenMachine } from "../../parts/MachinePicker";
import { Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { CaseCutaway } from "../../pictures/CaseCutaway";
import { ExpectedLine } from "../../pictures/HeatStaircase";
import { AddFan } from "./AddFan";
import { Chosen } from "./Chosen";
import { Comparisons } from "./Comparisons";
import { Headers } from "./Headers";
import { Kept } from "./Kept";
import { OtherCooler, useTriedCooler } from "./OtherCooler";
import { Steer } from "./Steer";
import { drawsIn, loads, pressureWords } from "./airWords";
import { usePlan } from "./usePlan";
import { degrees, degreeSign, pointOf, spanOf } from "../../parts/degrees";

/** The air of a case: fans moved, turned and steered, and both chips answer at once. */
export function AirPlace() {
  const { jobId, parts } = useChosenMachine();
  useTitle("Air");
  const sheet = useAirSheet(jobId, parts);
  const chosen = jobId !== null || parts.processor !== undefined;
  return (
    <div className="px-4 py-5 md:px-7">
      <h1 className="sr-only">Air</h1>
      <MachinePicker label="The air of">
        {jobId && (
          <Link
            to={`/coolers?job=${jobId}`}
            className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
          >
            its coolers
          </Link>
        )}
      </MachinePicker>
      {!chosen ? (
        <p className="mt-6 text-xl">Choose a machine, and its case stands here cut open, with its fans and its air.</p>
      ) : sheet.isError ? (
        <div className="mt-6" role="alert">
          <p className="text-3xl font-bold">{sheet.error.message}</p>
          {jobId && (
            <Link
              to={`/jobs/${jobId}#intake`}
              className="inline-flex min-h-11 items-center text-teal underline underline-offset-4"
            >
              Go to the intake
            </Link>
          )}
        </div>
      ) : !sheet.data ? (
        <Loading what="its case" />
      ) : (
        <Opened key={jobId ?? JSON.stringify(parts)} jobId={jobId} sheet={sheet.data} />
      )}
    </div>
  );
}

const tab =
  "min-h-11 px-4 border-b-4 border-transparent text-muted data-[state=active]:border-teal data-[state=active]:font-bold data-[state=active]:text-teal";

function Opened({ jobId, sheet: machine }: { jobId: string | null; sheet: AirSheet }) {
  const own = usePlan(jobId, machine);
  const { plan, change } = own;
  const sheet = useTriedCooler(machine, plan);
  const [load, setLoad] = useState<AirLoad>("both");
  const [chosen, setChosen] = useState<string>();
  const settled = useDeferredValue(plan);
  const look = useAirLook(sheet, settled, load);
  const before = useAirLook(machine, machine.start, load);
  const move = (id: string, place: string) =>
    change(
      id === "radiator"
        ? { ...plan, cooler: { ...plan.cooler!, place, inward: drawsIn(place) } }
        : { ...plan, fans: plan.fans.map((fan) => (fan.id === id ? { ...fan, place, inward: drawsIn(place) } : fan)) },
    );
  const findings = look.data?.findings ?? [];
  return (
    <>
      <Figures sheet={sheet} look={look.data} before={own.isStart ? undefined : before.data} />
      {look.data?.known && load !== "card" && load !== "rest" && <ExpectedLine expected={look.data.known} />}
      {!own.isStart && <p className="sr-only">Changes are against the machine as it is.</p>}
      {look.isError && (
        <p role="alert" className="my-2 font-semibold text-amber">
          {look.error.message}
        </p>
      )}
      {findings.map((one) => (
        <p key={`${one.subject} ${one.message}`} className="my-2 border-l-4 border-amber pl-3 font-semibold text-amber">
          {one.message}
        </p>
      ))}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-7 gap-y-5 lg:grid-cols-[minmax(0,1fr)_360px]">
        <div className="min-w-0">
          <CaseCutaway
            sheet={sheet}
            plan={settled}
            look={look.data}
            chosen={chosen}
            onChoose={setChosen}
            onMove={move}
          />
        </div>
        <aside className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-4">
          <div className="flex flex-wrap gap-3">
            <Button disabled={!own.canUndo} onClick={own.undo}>
              <Undo2 size={18} aria-hidden="true" /> Undo
            </Button>
            <Button disabled={own.isStart} onClick={own.reset}>
              <RotateCcw size={18} aria-hidden="true" /> As it is
            </Button>
          </div>
          {jobId && <Kept plan={own} />}
          {chosen ? (
            <Chosen
              id={chosen}
              sheet={sheet}
              plan={plan}
              look={look.data}
              onChange={change}
              onGone={() => setChosen(undefined)}
            />
          ) : (
            <p className="m-0 text-muted">Touch a fan or the radiator, or drag it to another wall.</p>
          )}
          <AddFan
            sheet={sheet}
            plan={plan}
            onAdd={(wanted, id) => {
              change(wanted);
              setChosen(id);
            }}
          />
          <Choice
            label="At work"
            value={load}
            options={loads.filter(([id]) => sheet.build.graphics !== null || id === "both" || id === "rest")}
            onChange={(wanted) => setLoad((wanted as AirLoad | null) ?? load)}
          />
          <OtherCooler sheet={machine} plan={plan} onChange={change} />
          <Choice
            label="Side panel"
            value={plan.panelOff ? "off" : "on"}
            options={[
              ["on", "closed"],
              ["off", "off"],
            ]}
            onChange={(wanted) => change({ ...plan, panelOff: wanted === "off" })}
          />
          <Choice
            label="Filter"
            value={plan.filter}
            options={[
              ["clean", "clean"],
              ["dusty", "dusty"],
              ["none", "none"],
            ]}
            onChange={(filter) => change({ ...plan, filter: filter ?? plan.filter })}
          />
          {sheet.unknown.map((sentence) => (
            <p key={sentence} className="m-0 border-l-4 border-amber pl-3">
              {sentence}
            </p>
          ))}
        </aside>
      </div>
      <Tabs.Root defaultValue="compare" className="mt-6">
        <Tabs.List aria-label="More about its air" className="flex flex-wrap border-b border-hairline">
          <Tabs.Trigger value="compare" className={tab}>
            Compare
          </Tabs.Trigger>
          <Tabs.Trigger value="steer" className={tab}>
            Steering
          </Tabs.Trigger>
          <Tabs.Trigger value="headers" className={tab}>
            Headers
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="compare" className="pt-4">
          <Comparisons sheet={sheet} plan={settled} onTake={(wanted: AirPlan) => change(wanted)} />
        </Tabs.Content>
        <Tabs.Content value="steer" className="pt-4">
          <Steer sheet={sheet} plan={plan} look={look.data} onChange={change} />
        </Tabs.Content>
        <Tabs.Content value="headers" className="pt-4">
          <Headers sheet={sheet} plan={plan} look={look.data} onChange={change} />
        </Tabs.Content>
      </Tabs.Root>
    </>
  );
}

/** Both chips, what is heard, and the pressure; and what of it has changed. */
function Figures({ sheet, look, before }: { sheet: AirSheet; look?: AirLook; before?: AirLook }) {
  if (!look) {
    return <Loading what="its air" />;
  }
  const { air } = look;
  const limit = sheet.build.processor.temperatureLimitC;
  const hot = (air.processorC ?? 0) > limit;
  return (
    <dl aria-live="polite" className="mt-3 mb-0 flex flex-wrap gap-x-8 gap-y-2">
      {air.processorC != null && (
        <Figure
          name="Processor"
          value={Math.min(air.processorC, limit)}
          warm
          was={before?.air.processorC}
          alarm={hot}
          note={hot ? `at its limit of ${degrees(limit)}: it throttles` : undefined}
        />
      )}
      {air.cardC != null && (
        <Figure
          name="Card"
          value={air.cardC}
          warm
          was={before?.air.cardC}
          alarm={air.cardC > (sheet.build.graphics?.temperatureLimitC ?? Infinity)}
        />
      )}
      {air.liquidC != null && <Figure name="Liquid" value={air.liquidC} warm was={before?.air.liquidC} />}
      <Figure name="Air inside" value={air.caseAirC} warm was={before?.air.caseAirC} />
      <Figure
        name="Noise at 1 m"
        value={air.noiseDba}
        unit="dB(A)"
        was={before?.air.noiseDba}
        note={air.cardC == null ? undefined : "without the card’s own fans"}
      />
      <div>
        <dt className="text-muted">Pressure</dt>
        <dd className="m-0 text-2xl leading-10 font-bold">{pressureWords[air.pressure]}</dd>
        <dd className="m-0 text-muted">
          {air.casePa > 0 ? "+" : "−"}
          {Math.abs(air.casePa).toFixed(1)} Pa, {air.exchangeM3PerH.toFixed(0)} m³/h through it
        </dd>
      </div>
    </dl>
  );
}

function Figure({
  name,
  value,
  unit,
  warm = false,
  was,
  alarm = false,
  note,
}: {
  name: string;
  value: number;
  /** Of what is no temperature. */
  unit?: string;
  /** Whether it is a temperature, °C. */
  warm?: boolean;
  was?: number | null;
  alarm?: boolean;
  note?: string;
}) {
  const told = warm ? pointOf(value) : value;
  const change = was == null ? 0 : Math.round(warm ? spanOf(value - was) : value - was);
  const words = warm ? ["warmer", "cooler"] : ["louder", "quieter"];
  return (
    <div>
      <dt className="text-muted">{name}</dt>
      <dd className={`m-0 font-mono text-4xl font-bold ${alarm ? "text-copper-text" : ""}`}>
        {told.toFixed(0)}
        <span className="text-lg font-normal text-muted"> {warm ? degreeSign() : unit}</span>
      </dd>
      {change !== 0 && (
        <dd className="m-0 font-semibold">
          {Math.abs(change)} {change > 0 ? words[0] : words[1]}
        </dd>
      )}
      {note && <dd className="m-0 text-muted">{note}</dd>}
    </div>
  );
}
