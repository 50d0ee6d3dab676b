import clsx from "clsx";
import { Link } from "react-router";
import { blocksOf, useDayPlan, type Block, type DayPlan } from "../../api/planning";
import { useMe } from "../../api/session";
import { duration, hourOf, when } from "../../parts/words";

/** What whoever is signed in touches now and next, in the largest words; the others under it. */
export function TouchNow({ large = false }: { large?: boolean }) {
  const plan = useDayPlan();
  const me = useMe();
  if (!plan.data || !me) {
    return plan.isError ? (
      <p role="status" className="text-muted">
        The plan of the day is not there: {plan.error.message}
      </p>
    ) : null;
  }
  return <Words plan={plan.data} me={me.id} large={large} />;
}

function Words({ plan, me, large }: { plan: DayPlan; me: string; large: boolean }) {
  if (plan.problem) {
    return (
      <p role="status" className="m-0">
        {plan.problem}{" "}
        <Link to="/workshop" className="text-teal underline underline-offset-4">
          Opening hours
        </Link>
      </p>
    );
  }
  const own = blocksOf(plan, me);
  const others = plan.hands.filter((hand) => hand.person !== me && hand.here);
  const works = plan.hands.some((hand) => hand.person === me);
  return (
    <section aria-label="What comes first">
      {works && <Own plan={plan} block={own[0]} large={large} />}
      {works && own[1] && (
        <p className="m-0 text-muted">
          Then {when(own[1].from, plan.at)}: <What block={own[1]} />
        </p>
      )}
      {others.length > 0 && (
        <p className="m-0 flex flex-wrap gap-x-6">
          {others.map((hand) => {
            const [block] = blocksOf(plan, hand.person);
            return (
              <span key={hand.person}>
                <strong>{hand.name}</strong>{" "}
                {block ? (
                  <>
                    {isNow(plan, block) ? "now" : `from ${when(block.from, plan.at)}`}: <What block={block} />
                  </>
                ) : (
                  <span className="text-muted">has nothing left to do</span>
                )}
              </span>
            );
          })}
        </p>
      )}
    </section>
  );
}

function Own({ plan, block, large }: { plan: DayPlan; block: Block | undefined; large: boolean }) {
  const size = clsx("m-0 leading-tight font-bold", large ? "text-3xl" : "text-2xl");
  if (!block) {
    return <p className={size}>Nothing waits for you</p>;
  }
  const machine = plan.machines.find((one) => one.job === block.job);
  return (
    <>
      <p className={size}>
        {isNow(plan, block) ? (block.goes ? "At it: " : "Now: ") : `${when(block.from, plan.at)}: `}
        <Link to={placeOf(block)} className="text-teal underline decoration-2 underline-offset-4">
          {block.title}
        </Link>
      </p>
      <p className="m-0">
        <span className="font-mono font-bold">{block.tag}</span>
        {machine?.owner && `, ${machine.owner}`}, {duration(block.handsMinutes)}
        {block.bay !== null && `, bay ${block.bay}`}
        {block.aloneMinutes > 0 && `, then ${duration(block.aloneMinutes)} by itself`}
        {machine?.promisedAt && (
          <span className={machine.isLate ? "font-semibold text-amber" : ""}>
            , promised for {when(machine.promisedAt, plan.at)}
          </span>
        )}
      </p>
    </>
  );
}

function What({ block }: { block: Block }) {
  return (
    <>
      <span className="font-mono font-bold">{block.tag}</span>{" "}
      <Link
        to={placeOf(block)}
        className="inline-flex min-h-11 items-center text-teal underline decoration-1 underline-offset-4"
      >
        {block.title}
      </Link>
    </>
  );
}

/** Where it is done. */
const placeOf = (block: Block) => (block.waits ? `/bench/${block.bay}` : `/jobs/${block.job}`);

/** Whether hands begin within the minute. */
const isNow = (plan: DayPlan, block: Block) => new Date(block.from).getTime() - new Date(plan.at).getTime() < 60_000;

/** When a machine will be ready, with how far it may be off. */
export function readyWords(plan: DayPlan, machine: DayPlan["machines"][number]): string {
  if (!machine.readyAt) {
    return machine.isReady ? "now" : machine.why && !machine.isLate ? "when that is known" : "not within four weeks";
  }
  const at = when(machine.readyAt, plan.at);
  const early = hourOrDay(machine.early ?? machine.readyAt, machine.readyAt);
  const late = machine.late ? hourOrDay(machine.late, machine.readyAt) : "later";
  return early === late ? at : `${at} (${early} to ${late})`;
}

const hourOrDay = (at: string, beside: string) => (when(at, beside) === hourOf(at) ? hourOf(at) : when(at, beside));
