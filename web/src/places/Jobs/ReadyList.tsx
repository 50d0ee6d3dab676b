import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDroppable,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import clsx from "clsx";
import { GripVertical } from "lucide-react";
import { Link } from "react-router";
import { rankAt, usePlanActions, type DayPlan, type MachineOfPlan } from "../../api/planning";
import { useMe } from "../../api/session";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";
import { when } from "../../parts/words";
import { readyWords } from "./TouchNow";

const rest = "rest";

/** When each machine will be ready; one that is dragged up goes first, and the others are planned round it. */
export function ReadyList({ plan }: { plan: DayPlan }) {
  const { set } = usePlanActions();
  const reads = useMe()?.rights === "reader";
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const first = plan.machines.filter((machine) => machine.rank !== null);
  const planned = plan.machines.filter((machine) => machine.rank === null && machine.readyAt !== null);
  const left = plan.machines.filter((machine) => machine.rank === null && machine.readyAt === null);
  const ready = left.filter((machine) => machine.isReady);
  const held = left.filter((machine) => !machine.isReady);
  const put = (machine: MachineOfPlan, rank: number | null) =>
    telling(set(machine, "planRank", rank), "Its place was not changed.");

  const dropped = ({ active, over }: DragEndEvent) => {
    const machine = plan.machines.find((one) => one.job === active.id);
    if (!machine || !over || over.id === active.id) {
      return;
    }
    const others = first.filter((one) => one !== machine);
    const at = others.findIndex((one) => one.job === over.id);
    if (at >= 0) {
      // From above it lands behind what it was dropped on, from below before it.
      const from = first.indexOf(machine);
      put(machine, rankAt(others, from >= 0 && from <= at ? at + 1 : at));
    } else if (over.id === "first") {
      put(machine, rankAt(others, others.length));
    } else if (machine.rank !== null) {
      put(machine, null);
    } else if (planned[0]?.job === over.id) {
      // To the top of all that nobody has put first is as much as to put it first.
      put(machine, rankAt(others, others.length));
    }
  };

  const row = (machine: MachineOfPlan) => (
    <Row
      key={machine.job}
      plan={plan}
      machine={machine}
      reads={reads}
      onFirst={() =>
        put(
          machine,
          rankAt(
            first.filter((one) => one !== machine),
            0,
          ),
        )
      }
      onFree={() => put(machine, null)}
      onGive={(person) => telling(set(machine, "handledBy", person), "It was not given to anybody.")}
    />
  );
  return (
    <section aria-label="When machines will be ready">
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={dropped}
        accessibility={{ announcements: told(plan), screenReaderInstructions: { draggable: byKeys } }}
      >
        <SortableContext
          items={[...first, ...planned].map((machine) => machine.job)}
          strategy={verticalListSortingStrategy}
        >
          <h2 className="text-xl font-bold">{first.length > 0 ? "First, as you put them" : "Ready by"}</h2>
          <First empty={first.length === 0}>{first.map(row)}</First>
          {first.length > 0 && planned.length > 0 && (
            <h2 className="mt-4 text-xl font-bold">Then, in the order that works out best</h2>
          )}
          <ul id={rest} className="m-0 list-none p-0">
            {planned.map(row)}
          </ul>
        </SortableContext>
      </DndContext>
      <Others title="Not planned" machines={held} words={(machine) => machine.why} />
      <Others
        title="Their owners can have them"
        machines={ready}
        words={(machine) => machine.promisedAt && `promised for ${when(machine.promisedAt, plan.at)}`}
      />
    </section>
  );
}

const byKeys = "Space takes the machine up, arrows move it, space puts it down, escape leaves it where it was.";

/** What is said of a machine that is moved, for those who do not see it. */
function told(plan: DayPlan): Announcements {
  const name = (one: { id: UniqueIdentifier } | null) =>
    plan.machines.find((machine) => machine.job === one?.id)?.tag ?? "the place before all others";
  return {
    onDragStart: ({ active }) => `${name(active)} is taken up.`,
    onDragOver: ({ active, over }) => (over ? `${name(active)} is at ${name(over)}.` : `${name(active)} is nowhere.`),
    onDragEnd: ({ active, over }) =>
      over ? `${name(active)} is put down at ${name(over)}.` : `${name(active)} stays.`,
    onDragCancel: ({ active }) => `${name(active)} stays where it was.`,
  };
}

function Others({
  title,
  machines,
  words,
}: {
  title: string;
  machines: readonly MachineOfPlan[];
  words: (machine: MachineOfPlan) => string | null;
}) {
  return machines.length === 0 ? null : (
    <>
      <h2 className="mt-4 text-xl font-bold">{title}</h2>
      <ul className="m-0 list-none p-0">
        {machines.map((machine) => (
          <li key={machine.job} className="flex flex-wrap items-baseline gap-x-4 border-t border-hairline">
            <Tag machine={machine} />
            <span className="text-muted">{words(machine)}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

function First({ empty, children }: { empty: boolean; children: React.ReactNode }) {
  const { setNodeRef } = useDroppable({ id: "first" });
  return (
    <ul ref={setNodeRef} className={clsx("m-0 list-none p-0", empty && "min-h-px")}>
      {children}
    </ul>
  );
}

function Row({
  plan,
  machine,
  reads,
  onFirst,
  onFree,
  onGive,
}: {
  plan: DayPlan;
  machine: MachineOfPlan;
  reads: boolean;
  onFirst: () => void;
  onFree: () => void;
  onGive: (person: string | null) => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: machine.job,
    disabled: reads,
  });
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={clsx(
        "grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3 gap-y-1 border-t border-hairline py-2 md:grid-cols-[auto_minmax(0,5fr)_minmax(0,4fr)_auto]",
        isDragging && "relative z-10 bg-card outline-2 outline-teal",
      )}
    >
      {reads ? (
        <span />
      ) : (
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-label={`Move ${machine.tag}`}
          className="flex min-h-11 min-w-11 touch-none items-center justify-center text-muted"
        >
          <GripVertical size={20} aria-hidden="true" />
        </button>
      )}
      <div className="min-w-0">
        <Tag machine={machine} />
        <p className="m-0 truncate text-muted">{machine.next}</p>
      </div>
      <div className="col-start-2 min-w-0 md:col-start-auto">
        <p className="m-0">
          Ready <strong className={machine.isLate ? "text-amber" : ""}>{readyWords(plan, machine)}</strong>
        </p>
        <p className={clsx("m-0", machine.isLate ? "font-semibold text-amber" : "text-muted")}>
          {[machine.promisedAt && `Promised for ${when(machine.promisedAt, plan.at)}.`, machine.why, machine.given]
            .filter(Boolean)
            .join(" ")}
        </p>
      </div>
      <div className="col-start-2 flex flex-wrap items-center justify-end gap-2 md:col-start-auto">
        {!reads && (
          <>
            <select
              aria-label={`Who works on ${machine.tag}`}
              value={machine.handledBy ?? ""}
              onChange={(event) => onGive(event.target.value || null)}
              className="min-h-11 rounded-sm border border-hairline bg-card px-2"
            >
              <option value="">Anyone free</option>
              {plan.hands.map((hand) => (
                <option key={hand.person} value={hand.person}>
                  {hand.name}
                </option>
              ))}
            </select>
            {machine.rank === null ? (
              <Button onClick={onFirst}>Put first</Button>
            ) : (
              <Button kind="quiet" onClick={onFree}>
                No hurry
              </Button>
            )}
          </>
        )}
      </div>
    </li>
  );
}

function Tag({ machine }: { machine: MachineOfPlan }) {
  return (
    <p className="m-0 truncate">
      <Link
        to={`/jobs/${machine.job}`}
        className="inline-flex min-h-11 items-center font-mono font-bold text-teal underline underline-offset-4"
      >
        {machine.tag}
      </Link>{" "}
      {[machine.owner, machine.machine].filter(Boolean).join(" · ")}
    </p>
  );
}
