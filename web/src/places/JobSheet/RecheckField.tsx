import { CalendarPlus } from "lucide-react";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { recheckCalendar, useRecheckProposals } from "../../api/rechecks";
import { DateField } from "../../parts/AutoField";
import { buttonLook } from "../../parts/Button";
import { day, inMonths } from "../../parts/words";

/** When the machine should come back to be looked at: proposed by what was done, by dust and by age. */
export function RecheckField({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const proposals = useRecheckProposals(job.id, job.lastEventId);
  const set = job.fields.recheckOn !== null;
  const proposed = set ? [] : (proposals.data ?? []);
  return (
    <div>
      <DateField
        job={job}
        actions={actions}
        name="recheckOn"
        quick={proposed.length > 0 ? proposed.map(({ on }) => [day(on), on] as const) : [["in a year", inMonths(12)]]}
      />
      {proposed.map(({ on, why }) => (
        <p key={`${on} ${why}`} className="m-0 text-muted">
          {day(on)}: {why}.
        </p>
      ))}
      {set && (
        <a href={recheckCalendar(job.id)} download className={buttonLook("quiet")}>
          <CalendarPlus size={18} aria-hidden="true" /> For the owner’s calendar
        </a>
      )}
    </div>
  );
}
