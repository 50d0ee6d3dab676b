import { useNavigate } from "react-router";
import type { JobSheet, Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { useMoney } from "../../parts/useMoney";
import { keepUnits, watts } from "../../parts/words";
import { SeriesPicture } from "../../pictures/SeriesPicture";
import { shownPair } from "./setups";

/** Three setups and more under like conditions: ranked, with intervals, noise, price and score; what cannot be told apart is bracketed. */
export function Series({ job }: { job: JobSheet }) {
  const money = useMoney();
  const navigate = useNavigate();
  const { series } = job;
  if (!series || series.setups.every((row) => row.rank === null)) {
    return null;
  }
  const rows = [...series.setups].sort((a, b) => (a.rank ?? 99) - (b.rank ?? 99));
  const reference = series.setups[0]!.name;
  const has = (of: (row: Schemas["SeriesRow"]) => unknown) => rows.some((row) => of(row) != null);
  const columns: [string, (row: Schemas["SeriesRow"]) => string | null][] = [
    ["noise", (row) => (row.soundDba == null ? null : `${row.soundDba.toFixed(0)} dB(A)`)],
    ["price", (row) => (row.priceMinor == null ? null : money(row.priceMinor))],
    ["score", (row) => (row.score == null ? null : row.score.toPrecision(4))],
    ["clock", (row) => (row.clockMHz == null ? null : `${(row.clockMHz / 1000).toFixed(2)} GHz`)],
  ];
  const shown = columns.filter(([, of]) => has(of));
  const blocked = series.obstacles.filter((one) => one.severity === "blocking");
  return (
    <section aria-label="Series" className="mb-5">
      <h2 className="text-xl font-bold">
        Series at {watts(series.referencePowerW)}
        {series.referenceRpm ? `, fans at ${series.referenceRpm.toFixed(0)} rpm` : ""}, room {series.roomC?.toFixed(0)}{" "}
        °C
      </h2>
      <div className="mt-2 grid items-start gap-x-4 lg:grid-cols-[auto_minmax(12rem,1fr)]">
        <div className="overflow-x-auto">
          <table className="border-collapse">
            <tbody>
              {rows.map((row) => (
                <tr key={row.name} className="h-11 border-b border-hairline">
                  <td className="pr-3 font-mono">{row.rank ?? "–"}</td>
                  <th scope="row" className="pr-4 text-left font-semibold">
                    {row.name.replace(/^Setup (\d+) /, "$1 · ")}
                  </th>
                  <td className="pr-4 font-mono whitespace-nowrap">
                    {row.rank === null
                      ? "not comparable"
                      : `${row.atReferencePowerC!.toFixed(1)} ± ${row.halfWidthC!.toFixed(1)} °C`}
                  </td>
                  {shown.map(([name, of]) => (
                    <td key={name} className="pr-4 font-mono whitespace-nowrap text-muted">
                      {of(row) ?? "—"}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <SeriesPicture rows={rows} reference={reference} />
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
      <Button className="mt-2" onClick={() => void navigate(nextOf(job))}>
        Run the next one alike
      </Button>
    </section>
  );
}

const moreWords = (count: number, what: string) => (count === 1 ? `One more ${what}` : `${count} more ${what}s`);

/** The bench with the conditions of the series filled in. */
function nextOf(job: JobSheet): string {
  const like = shownPair(job).before?.conditions;
  const asked = new URLSearchParams({ job: job.id });
  if (like?.fanPolicy === "fixed") {
    asked.set("variant", "fixed-fans");
    if (like.fanRpm != null || like.fanPercent != null) {
      asked.set(like.fanRpm != null ? "rpm" : "fans", String(like.fanRpm ?? like.fanPercent));
    }
  }
  return `/bench?${asked}`;
}
