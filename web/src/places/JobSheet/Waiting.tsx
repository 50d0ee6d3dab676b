import clsx from "clsx";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { useDayPlan } from "../../api/planning";
import { ChoiceField, DateField, PersonField } from "../../parts/AutoField";
import { toLocalInput, weekday } from "../../parts/words";
import { readyWords } from "../Jobs/TouchNow";

/** What the plan of the day goes by and no run and no note tells: what it waits for outside, when it is promised, whose it is. */
export function Waiting({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const plan = useDayPlan();
  const machine = plan.data?.machines.find((one) => one.job === job.id);
  const closing = (plan.data?.days ?? [])
    .flatMap((one) => (one.to && one.to > plan.data!.at ? [one.to] : []))
    .slice(0, 3)
    .map((to) => [`${weekday(to)}`, toLocalInput(to)] as const);
  const people = (plan.data?.hands ?? []).map((hand) => [hand.person, hand.name] as const);
  return (
    <div className="grid gap-3 border-t border-hairline pt-2">
      <ChoiceField job={job} actions={actions} name="waitingFor" />
      {job.fields.waitingFor === "part" && <DateField job={job} actions={actions} name="partExpectedOn" />}
      <DateField job={job} actions={actions} name="promisedAt" quick={closing} />
      {machine?.readyAt && (
        <p className={clsx("m-0", machine.isLate ? "font-semibold text-amber" : "text-muted")}>
          By the plan it is ready {readyWords(plan.data!, machine)}. {machine.isLate && machine.why} {machine.given}
        </p>
      )}
      {people.length > 1 && <PersonField job={job} actions={actions} name="handledBy" people={people} />}
    </div>
  );
}
