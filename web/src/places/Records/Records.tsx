import { Collapsible } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";
import {
  recordTable,
  useBehind,
  useBehindCooler,
  useRecords,
  type CoolerOfRecord,
  type SeriesOfRecord,
} from "../../api/records";
import { buttonLook } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { keepUnits } from "../../parts/words";
import { Due } from "../Jobs/Due";
import { FittedParts } from "./FittedParts";
import { Bench } from "./Bench";
import { MachinesBehind } from "./MachinesBehind";
import { OpeningRow } from "./OpeningRow";
import { Repairs } from "./Repairs";
import { Trials } from "./Trials";
import { SurvivalCurve } from "../../pictures/SurvivalCurve";

/** What the workshop remembers: which series wear out and when, what coolers did here, how well the bench repeats itself. */
export function RecordsPlace() {
  const records = useRecords();
  useTitle("Records");
  if (!records.data) {
    return records.isError ? (
      <Failing sentence={records.error.message} onRetry={() => void records.refetch()} />
    ) : (
      <Loading what="the records" />
    );
  }
  const { series, league, bench, repairs, parts, trials } = records.data;
  const worn = series.filter((one) => one.failures > 0);
  return (
    <div className="px-4 py-5 md:px-7">
      <h1 className="text-3xl leading-tight font-bold">{headline(worn)}</h1>
      <Due />
      <div className="mt-5 grid items-start gap-x-14 gap-y-8 lg:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <div className="grid gap-8">
          <section aria-label="How long coolers last">
            <Head title="How long coolers last" table={worn.length > 0 ? recordTable("series") : undefined} />
            {worn.length === 0 ? (
              <p className="m-0 text-muted">
                None that came in with its age noted had worn out. It is counted by itself once a machine’s cooler, its
                age and what was found are on its sheet.
              </p>
            ) : (
              worn.map((one, at) => <Series key={one.name} series={one} first={at === 0} />)
            )}
          </section>
          <section aria-label="Pastes and methods">
            <Head title="Pastes and methods" table={trials.length > 0 ? recordTable("trials") : undefined} />
            {trials.length === 0 ? (
              <p className="m-0 text-muted">
                Nothing was tried against its like yet: it counts by itself once two setups of a machine differ in
                nothing but paste, the way it was put on, or the mounting kit.
              </p>
            ) : (
              <Trials trials={trials} />
            )}
          </section>
        </div>
        <div className="grid gap-8">
          <section aria-label="Coolers on this bench">
            <Head title="Coolers on this bench" table={league.length > 0 ? recordTable("league") : undefined} />
            {league.length === 0 ? (
              <p className="m-0 text-muted">
                Nothing is measured yet: usual runs after a repair count, of machines whose parts are known.
              </p>
            ) : (
              <League league={league} />
            )}
          </section>
          <section aria-label="Repairs">
            <Head title="Repairs" table={repairs.length > 0 ? recordTable("repairs") : undefined} />
            {repairs.length === 0 ? (
              <p className="m-0 text-muted">
                None is on record yet: a repair counts once its steps are ticked through, or its machine has left.
              </p>
            ) : (
              <Repairs repairs={repairs} />
            )}
          </section>
          <section aria-label="Parts that were fitted">
            <Head title="Parts that were fitted" table={parts.length > 0 ? recordTable("parts") : undefined} />
            {parts.length === 0 ? (
              <p className="m-0 text-muted">
                None yet: a cooler, a named paste or a mounting kit counts once its machine has left with it.
              </p>
            ) : (
              <FittedParts parts={parts} />
            )}
          </section>
          <Bench bench={bench} />
        </div>
      </div>
    </div>
  );
}

function headline(worn: readonly SeriesOfRecord[]): string {
  const early = worn.filter((one) => one.early);
  const most = worn[0];
  return early.length > 3
    ? `${early.length} series fail early`
    : early.length > 0
      ? `${early.map((one) => one.name).join(", ")} ${early.length === 1 ? "fails" : "fail"} early`
      : most && !most.sentence.includes("too few")
        ? `${most.name}: ${most.sentence.charAt(0).toLowerCase()}${most.sentence.slice(1)}`
        : "No series has worn out often enough to tell how long it lasts";
}

function Head({ title, table }: { title: string; table?: string }) {
  return (
    <div className="flex flex-wrap items-baseline justify-between gap-x-4">
      <h2 className="text-xl font-bold">{title}</h2>
      {table && (
        <a className={buttonLook("quiet")} href={table} download>
          as a table
        </a>
      )}
    </div>
  );
}

/** A series in two lines; its curve and the machines behind it once it is opened. */
function Series({ series, first }: { series: SeriesOfRecord; first: boolean }) {
  const { name, sentence, early, causes, machines } = series;
  const [open, setOpen] = useState(first);
  return (
    <Collapsible.Root asChild open={open} onOpenChange={setOpen}>
      <section
        aria-label={name}
        className={`border-t border-hairline py-3 ${early ? "border-l-4 border-l-amber pl-3" : ""}`}
      >
        <h3 className="text-lg font-bold">{name}</h3>
        <p className="m-0">{keepUnits(sentence)}</p>
        {causes.length > 0 && <p className="m-0 text-muted">Found: {causes.join("; ").toLowerCase()}.</p>}
        <Collapsible.Trigger className={buttonLook("quiet")}>
          {open ? "Close" : machines === 1 ? "The machine behind it" : `The ${machines} machines behind it`}
        </Collapsible.Trigger>
        <Collapsible.Content>
          <Behind name={name} />
        </Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}

function Behind({ name }: { name: string }) {
  const behind = useBehind(name);
  if (!behind.data) {
    return behind.isError ? (
      <Failing sentence={behind.error.message} onRetry={() => void behind.refetch()} />
    ) : (
      <Loading what="the machines" />
    );
  }
  const { curve, machines } = behind.data;
  return (
    <>
      {curve.length > 0 && (
        <>
          <div className="mt-2 max-w-xl">
            <SurvivalCurve
              name={name}
              curve={curve}
              working={machines.filter((machine) => !machine.failed).map((machine) => machine.months)}
            />
          </div>
          <p className="m-0 text-sm text-muted">
            How many still work by their age in months, with 95 %; a mark is one that still worked when it was here.
            Only machines that were brought in are seen.
          </p>
        </>
      )}
      <p className="mt-1 mb-0 flex flex-wrap gap-x-4">
        {machines.map((machine) => (
          <Link
            key={machine.job}
            to={`/jobs/${machine.job}`}
            className="inline-flex min-h-11 items-center text-teal underline decoration-1 underline-offset-4"
          >
            {machine.tag}: {machine.months.toFixed(0)} months, {machine.failed ? "worn out" : "worked"}
          </Link>
        ))}
      </p>
    </>
  );
}

/** The machines behind a cooler's figure open under it. */
function League({ league }: { league: readonly CoolerOfRecord[] }) {
  const [open, setOpen] = useState<string>();
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="h-8 text-left text-muted">
          <th className="font-normal">cooler</th>
          <th className="text-right font-normal">over its catalogue</th>
          <th className="text-right font-normal">machines</th>
        </tr>
      </thead>
      <tbody>
        {league.map((cooler) => (
          <OpeningRow
            key={cooler.name}
            title={cooler.name}
            cells={[
              `${percent(cooler.factor - 1)} ± ${(100 * cooler.halfWidth).toFixed(0)} %`,
              String(cooler.machines),
            ]}
            open={open === cooler.name}
            onOpen={(wanted) => setOpen(wanted ? cooler.name : undefined)}
          >
            <p className="m-0">{keepUnits(cooler.sentence)}</p>
            <BehindCooler name={cooler.name} />
          </OpeningRow>
        ))}
      </tbody>
    </table>
  );
}

function BehindCooler({ name }: { name: string }) {
  const behind = useBehindCooler(name);
  return (
    <>
      {behind.data && <p className="m-0 text-muted">{keepUnits(behind.data.trend)}</p>}
      <MachinesBehind behind={{ ...behind, data: behind.data?.machines }} at="#after">
        {(machine) =>
          `${machine.tag}: ${percent(machine.factor - 1)} %, ${machine.runs === 1 ? "one run" : `${machine.runs} runs`}`
        }
      </MachinesBehind>
    </>
  );
}

const percent = (share: number) => `${share < 0 ? "−" : "+"}${Math.abs(100 * share).toFixed(0)}`;
