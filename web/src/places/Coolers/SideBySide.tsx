import type { Candidate } from "../../api/coolers";
import { Button } from "../../parts/Button";
import { detailsOf } from "./CandidateRow";

/** Up to four coolers, row by row. */
export function SideBySide({
  candidates,
  money,
  onClose,
}: {
  candidates: readonly Candidate[];
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
      <div className="mt-2 overflow-x-auto">
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
