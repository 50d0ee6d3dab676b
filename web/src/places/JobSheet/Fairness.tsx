import type { Schemas } from "../../api/client";
import { keepUnits } from "../../parts/words";
import { degreesBy } from "../../parts/degrees";

const severityWords: Record<Schemas["ObstacleWeight"], string> = {
  blocking: "in the way",
  corrected: "allowed for",
  note: "note",
};

/** What would settle an open question. */
export function wantedWords({ mounts, runs }: Schemas["Wanted"]): string {
  return runs > 0
    ? `${runs === 1 ? "One more run" : `${runs} more runs`} a side, as it is mounted, would settle it`
    : `${mounts === 1 ? "One more mount" : `${mounts} more mounts`} a side would settle it`;
}

/** Whether the two sides may be compared, and what was allowed for. */
export function Fairness({ verdict }: { verdict: Schemas["VerdictAnswer"] }) {
  const { result } = verdict;
  const rows: [string, string, string][] = [
    ...(result.comparable && !result.obstacles.some((one) => one.code.endsWith("-unknown"))
      ? [["Same load, panel and fans", "fair", ""] as [string, string, string]]
      : []),
    ...result.obstacles.map((o): [string, string, string] => [o.message, severityWords[o.severity], o.remedy]),
    ...(result.smallestDetectableC == null
      ? []
      : [
          [`A change of ${degreesBy(result.smallestDetectableC, 1)} shows four times in five`, "power", ""] as [
            string,
            string,
            string,
          ],
        ]),
    ...(result.wanted ? [[wantedWords(result.wanted), "open", ""] as [string, string, string]] : []),
  ];
  return (
    <ul aria-label="Fairness of the comparison" className="m-0 list-none p-0">
      {rows.map(([message, word, remedy]) => (
        <li key={message} className="border-t border-hairline py-2">
          <span className="flex items-baseline justify-between gap-4">
            <span>{keepUnits(message)}</span>
            <span className={word === "in the way" ? "shrink-0 font-semibold text-amber" : "shrink-0 text-muted"}>
              {word}
            </span>
          </span>
          {remedy && <span className="block text-muted">{remedy}</span>}
        </li>
      ))}
    </ul>
  );
}
