import { useState } from "react";
import { Link } from "react-router";
import { useDayPlan, type DayPlan } from "../../api/planning";
import { Choice } from "../../parts/Choice";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { weekday } from "../../parts/words";
import { DayLanes } from "../../pictures/DayLanes";
import { DaySettings } from "./DaySettings";
import { ReadyList } from "./ReadyList";
import { TouchNow } from "./TouchNow";

const daysAhead = 7;

/** The day's plan: what to touch now, hands and bays over the hours, and when each machine will be ready. */
export function DayPlace() {
  const plan = useDayPlan();
  useTitle("Today");
  if (plan.isError && !plan.data) {
    return <Failing sentence={plan.error.message} onRetry={() => void plan.refetch()} />;
  }
  return plan.data ? <Plan plan={plan.data} old={plan.isError} /> : <Loading what="the plan of the day" />;
}

function Plan({ plan, old }: { plan: DayPlan; old: boolean }) {
  const [chosen, choose] = useState<string>();
  const days = plan.days.slice(0, daysAhead);
  // A page that stood open over night shows the new day.
  const day = days.find((one) => one.day === chosen) ?? days.find((one) => one.to && one.to > plan.at) ?? days[0]!;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-5 px-4 py-5 md:px-7">
      <h1 className="sr-only">The plan of the day</h1>
      {old && (
        <p role="alert" className="m-0 font-semibold text-amber">
          This plan may be out of date: the server does not answer.
        </p>
      )}
      <TouchNow large />
      {!plan.problem && (
        <section aria-label="Hands and bays over the day">
          <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
            <Choice
              label="Which day"
              hideLabel
              value={day.day}
              options={days.map((one, i) => [one.day, i === 0 ? "Today" : weekday(one.day)] as const)}
              onChange={(value) => choose(value ?? undefined)}
            />
          </div>
          <DayLanes plan={plan} day={day} />
          <p className="mt-1 mb-0 text-muted">
            Solid is hands, hatched goes on by itself, ▾ is a promise; amber is late. {plan.stands}
          </p>
        </section>
      )}
      {!plan.problem && <DaySettings plan={plan} day={day} />}
      {plan.problem ? null : plan.machines.length > 0 ? (
        <ReadyList plan={plan} />
      ) : (
        <p className="m-0">
          No machine is in the workshop.{" "}
          <Link to="/jobs" className="text-teal underline underline-offset-4">
            To the jobs
          </Link>
        </p>
      )}
    </div>
  );
}
