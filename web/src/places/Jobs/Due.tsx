import { Link } from "react-router";
import { useMachinesDue, type MachineDue } from "../../api/rechecks";
import { Fold } from "../../parts/Fold";
import { day } from "../../parts/words";

/** Machines that should come back: whom to call, the longest overdue first. */
export function Due() {
  const due = useMachinesDue();
  const all = due.data ?? [];
  if (all.length === 0) {
    return null;
  }
  const late = all.filter((one) => one.days < 0).length;
  return (
    <div className="mt-4">
      <Fold
        title="Due for a recheck"
        gist={`${all.length === 1 ? "one machine" : `${all.length} machines`}${late > 0 ? `, ${late} overdue` : ""}`}
      >
        <ul className="m-0 list-none p-0">
          {all.map((one) => (
            <li key={one.id} className="flex flex-wrap items-baseline gap-x-4 border-t border-hairline py-1">
              <Link
                to={`/jobs/${one.id}`}
                className="inline-flex min-h-11 items-center font-mono font-bold text-teal underline underline-offset-4"
              >
                {one.tag}
              </Link>
              <span className="font-bold">{one.owner ?? "owner not noted"}</span>
              {one.contact && <span>{one.contact}</span>}
              <span className="grow text-muted">{one.machine}</span>
              <span className={one.days < 0 ? "font-bold text-amber" : ""}>
                {day(one.on)}, {untilWords(one)}
              </span>
            </li>
          ))}
        </ul>
      </Fold>
    </div>
  );
}

const untilWords = ({ days }: MachineDue) =>
  days === 0
    ? "today"
    : days > 0
      ? `in ${days === 1 ? "a day" : `${days} days`}`
      : `${days === -1 ? "a day" : `${-days} days`} late`;
