import { useNavigate } from "react-router";
import type { JobSheet, Schemas } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";
import { useMoney } from "../../parts/useMoney";
import { gigahertz, keepUnits, watts } from "../../parts/words";
import { SeriesPicture } from "../../pictures/SeriesPicture";
import { currentSetup, shownPair } from "./setups";
import { degree, degrees, degreesBy } from "../../parts/degrees";

/** Three setups and more under like conditions: ranked, with intervals, noise, price and score; what cannot be told apart is bracketed. */
export function Series({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const money = useMoney();
  const navigate = useNavigate();
  const { series } = job;
  // The next of the series is changed in what the last one was changed in.
  const begin = () => actions.addSetup({ kind: currentSetup(job).kind }).then((sheet) => void navigate(nextOf(sheet)));
  if (!series || series.setups.every((row) => row.rank === null)) {
    return null;
  }
  const rows = [...series.setups].sort((a, b) => (a.rank ?? 99) - (b.rank ?? 99));
  const reference = series.setups[0]!.name;
  const has = (of: (row: Schemas["SeriesRow"]) => unknown) => rows.some((row) => of(row) != null);
  // A figure that is the same for all says nothing here.
  const differs = (of: (row: Schemas["SeriesRow"]) => number | null | undefined) => {
    const known = rows.flatMap((row) => of(row) ?? []);
    return known.length > 1 && Math.max(...known) - Math.min(...known) > 0.01 * Math.max(...known);
  };
  const columns: [string, (row: Schemas["SeriesRow"]) => string | null][] = [
    ["as it ran", (row) => (row.temperatureC == null ? null : degrees(row.temperatureC))],
    ["at", (row) => (row.soundDba == null ? null : `${row.soundDba.toFixed(0)} dB(A)`)],
    ["price", (row) => (row.priceMinor == null ? null : money(row.priceMinor))],
    ...(differs((row) => row.score)
      ? [
          ["score", (row: Schemas["SeriesRow"]) => row.score?.toPrecision(4) ?? null] as [
            string,
            (row: Schemas["SeriesRow"]) => string | null,
          ],
        ]
      : []),
    ...(differs((row) => row.clockMHz)
      ? [
          ["clock", (row: Schemas["SeriesRow"]) => (row.clockMHz == null ? null : gigahertz(row.clockMHz))] as [
            string,
            (row: Schemas["SeriesRow"]) => string | null,
          ],
        ]
      : []),
  ];
  const shown = columns.filter(([, of]) => has(of));
  const blocked = series.obstacles.filter((one) => one.severity === "blocking");
  return (
    <section aria-label="Series" className="mb-5">
      <h2 className="text-xl font-bold">
        Series at {watts(series.referencePowerW)}
        {series.referenceRpm ? `, fans at ${series.referenceRpm.toFixed(0)} rpm` : ""}, room {degrees(series.roomC)}
      </h2>
      <div className="mt-2 grid items-start gap-x-4 sm:grid-cols-[auto_minmax(10rem,1fr)]">
        <div className="overflow-x-auto">
          <table className="border-collapse">
            <thead>
              <tr className="h-8 text-left text-muted">
                <th />
                <th className="font-normal">setup</th>
                <th className="font-normal">at equal speed</th>
                {shown.map(([name]) => (
                  <th key={name} className="font-normal">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.name} className="h-11 border-b border-hairline">
                  <td className="pr-3 font-mono">{row.rank ?? "–"}</td>
                  <th scope="row" className="pr-3 text-left font-semibold whitespace-nowrap">
                    {row.name.replace(/^Setup (\d+) /, "$1 · ")}
                  </th>
                  <td className="pr-3 font-mono whitespace-nowrap">
                    {row.rank === null
                      ? "not comparable"
                      : `${degree(row.atReferencePowerC!, 1)} ± ${degreesBy(row.halfWidthC, 1)}`}
                  </td>
                  {shown.map(([name, of]) => (
                    <td key={name} className="pr-3 font-mono whitespace-nowrap text-muted">
                      {of(row) ?? "—"}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div className="pt-8">
          <SeriesPicture rows={rows} reference={reference} />
        </div>
      </div>
      <p className="mt-2 mb-0 text-muted">
        Joined by a bracket: they cannot be told apart.
        {series.next &&
          ` ${series.next.runs > 0 ? moreWords(series.next.runs, "run") : moreWords(series.next.mounts, "mount")} of each would tell ${series.next.a} from ${series.next.b}.`}
      </p>
      {blocked.map((one) => (
        <p key={one.setup + one.message} className="m-0 text-amber">
          {one.setup}: {keepUnits(one.message)} {one.remedy}
        </p>
      ))}
      <div className="mt-2 flex flex-wrap gap-3">
        <Button onClick={() => telling(begin(), "The next setup was not made.")}>Next setup, same conditions</Button>
        <Button onClick={() => void navigate(nextOf(job))}>Run what is on it once more</Button>
      </div>
    </section>
  );
}

/** Loads that the bench makes by itself. */
const benchLoads = ["all-core", "vector"];

const moreWords = (count: number, what: string) => (count === 1 ? `One more ${what}` : `${count} more ${what}s`);

/** The bench with the conditions of the series filled in. */
export function nextOf(job: JobSheet): string {
  const like = shownPair(job).before?.conditions;
  const asked = new URLSearchParams({ job: job.id });
  if (like?.fanPolicy === "fixed") {
    asked.set("variant", "fixed-fans");
    if (like.fanRpm != null || like.fanPercent != null) {
      asked.set(like.fanRpm != null ? "rpm" : "fans", String(like.fanRpm ?? like.fanPercent));
    }
  }
  if (like?.workload && benchLoads.includes(like.workload)) {
    asked.set("work", like.workload);
  }
  asked.set("next", "1");
  return `/bench?${asked}`;
}
