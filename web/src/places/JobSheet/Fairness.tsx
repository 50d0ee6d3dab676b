import type { Schemas } from "../../api/client";
import { keepUnits } from "../../parts/words";

const severityWords: Record<string, string> = {
  blocking: "in the way",
  corrected: "allowed for",
  note: "note",
};

/** Whether the two sides may be compared, and what was allowed for. */
export function Fairness({ verdict }: { verdict: Schemas["VerdictAnswer"] }) {
  const { result } = verdict;
  const rows: [string, string, string][] = [
    ...(result.comparable ? [["Same load, panel and fans", "fair", ""] as [string, string, string]] : []),
    ...result.obstacles.map((o): [string, string, string] => [
      o.message,
      severityWords[o.severity] ?? o.severity,
      o.remedy,
    ]),
    ...(result.smallestDetectableC == null
      ? []
      : [["Smallest change seen here", `${result.smallestDetectableC.toFixed(1)} °C`, ""] as [string, string, string]]),
    ...(result.moreRunsASide == null
      ? []
      : [
          [
            result.moreRunsASide === 1
              ? "One more run a side would settle it"
              : `${result.moreRunsASide} more runs a side would settle it`,
            "open",
            "",
          ] as [string, string, string],
        ]),
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
