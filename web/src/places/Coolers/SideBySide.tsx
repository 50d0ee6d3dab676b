import type { Candidate, CoolerAnswer } from "../../api/coolers";
import { Button } from "../../parts/Button";
import { HeatStaircase, type Staircase } from "../../pictures/HeatStaircase";
import { detailsOf } from "./CandidateRow";

/** Up to four coolers, row by row. */
export function SideBySide({
  candidates,
  quotes,
  today,
  limitC,
  money,
  onClose,
}: {
  candidates: readonly Candidate[];
  quotes: CoolerAnswer["quotes"];
  today: Staircase | null;
  limitC: number;
  money: (minor: number) => string;
  onClose: () => void;
}) {
  const columns = candidates.map((one) => detailsOf(one, money));
  return (
    <section aria-label="Side by side" className="mt-6 border border-hairline bg-card p-4">
      <div className="flex items-center justify-between gap-4">
        <h2 className="text-xl font-bold">Side by side</h2>
        <Button onClick={onClose}>Close</Button>
      </div>
      <div className="relative mt-2 overflow-x-auto" role="region" aria-label="These coolers as a table" tabIndex={0}>
        <table className="w-full border-collapse text-left">
          <thead>
            <tr>
              <th scope="col" className="py-2 pr-4">
                <span className="sr-only">What</span>
              </th>
              {candidates.map((one) => (
                <th key={one.id} scope="col" className="min-w-40 py-2 pr-4 text-lg">
                  {one.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr className="border-t border-hairline align-top">
              <th scope="row" className="py-2 pr-4 font-normal text-muted">
                Heat path{today && <span className="block">today’s as an outline</span>}
              </th>
              {candidates.map((one) => (
                <td key={one.id} className="py-2 pr-4">
                  {one.staircase ? <HeatStaircase now={one.staircase} before={today} limitC={limitC} small /> : "—"}
                </td>
              ))}
            </tr>
            <tr className="border-t border-hairline align-top">
              <th scope="row" className="py-2 pr-4 font-normal text-muted">
                Put on
              </th>
              {candidates.map((one) => (
                <td key={one.id} className="py-2 pr-4 font-mono text-xl font-bold">
                  {one.isCurrent ? "—" : quotes[one.id] ? money(quotes[one.id]!.totalMinor) : "—"}
                </td>
              ))}
            </tr>
            {(columns[0] ?? []).map(([name], row) => (
              <tr key={name} className="border-t border-hairline align-top">
                <th scope="row" className="py-2 pr-4 font-normal whitespace-nowrap text-muted">
                  {name}
                </th>
                {columns.map((column, i) => (
                  <td key={candidates[i]!.id} className="py-2 pr-4">
                    {column[row]![1]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
