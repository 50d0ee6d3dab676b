import type { JobSheet } from "../../api/client";
import { day } from "../../parts/words";

/** What earlier rounds found and did, and why they did not end the job. */
export function Rounds({ job }: { job: JobSheet }) {
  if (job.rounds.length === 0) {
    return null;
  }
  return (
    <ol aria-label="Earlier rounds" className="m-0 mb-4 list-none border-l-4 border-hairline p-0 pl-4">
      {job.rounds.map((round) => (
        <li key={round.number} className="py-1">
          <p className="m-0 font-semibold">
            Round {round.number}, until {day(round.closedAt)}: {round.why}
          </p>
          {round.found && <p className="m-0">Found: {round.found}</p>}
          {round.done && <p className="m-0">Done: {round.done}</p>}
          {round.verdict && <p className="m-0 text-muted">{round.verdict}</p>}
        </li>
      ))}
    </ol>
  );
}
