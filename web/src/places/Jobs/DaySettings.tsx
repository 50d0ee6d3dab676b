import clsx from "clsx";
import { useState } from "react";
import { usePlanActions, type DayPlan } from "../../api/planning";
import { useMe } from "../../api/session";
import { Button } from "../../parts/Button";
import { Fold } from "../../parts/Fold";
import { telling } from "../../parts/told";

type Day = DayPlan["days"][number];

/** Who is here, which bays are used and when it is open, on one day. */
export function DaySettings({ plan, day }: { plan: DayPlan; day: Day }) {
  const actions = usePlanActions();
  const change = (change: Parameters<typeof actions.changeDay>[1]) =>
    telling(actions.changeDay(day.day, change), "The day was not changed.");
  const here = plan.hands.filter((hand) => !day.away.includes(hand.person));
  const used = plan.bays.length - day.baysOut.length;
  const gist = [
    day.opens && day.closes ? `${clock(day.opens)}–${clock(day.closes)}` : "closed",
    `${here.map((hand) => hand.name).join(", ") || "nobody"} here`,
    plan.bays.length > 0 ? `${used} of ${plan.bays.length} bays` : null,
  ];
  return (
    <Fold title="Who and what is here" gist={gist.filter(Boolean).join(" · ")}>
      <Toggles
        label="Hands"
        all={plan.hands.map((hand) => [hand.person, hand.name] as const)}
        isOn={(id) => !day.away.includes(id)}
        onToggle={(id, on) => change({ person: { id, here: on } })}
      />
      {plan.bays.length > 0 && (
        <Toggles
          label="Bays"
          all={plan.bays.map((number) => [String(number), `Bay ${number}`] as const)}
          isOn={(id) => !day.baysOut.includes(Number(id))}
          onToggle={(id, on) => change({ bay: { number: Number(id), used: on } })}
        />
      )}
      <Hours key={day.day + String(day.opens) + String(day.closes)} day={day} onChange={(hours) => change({ hours })} />
    </Fold>
  );
}

function Toggles({
  label,
  all,
  isOn,
  onToggle,
}: {
  label: string;
  all: readonly (readonly [id: string, words: string])[];
  isOn: (id: string) => boolean;
  onToggle: (id: string, on: boolean) => void;
}) {
  const reads = useMe()?.rights === "reader";
  return (
    <div role="group" aria-label={label}>
      <p className="mt-0 mb-1 text-muted">{label}</p>
      <div className="flex flex-wrap gap-1">
        {all.map(([id, words]) => (
          <button
            key={id}
            type="button"
            aria-pressed={isOn(id)}
            disabled={reads}
            onClick={() => onToggle(id, !isOn(id))}
            className={clsx(
              "min-h-11 rounded-sm border px-3",
              isOn(id) ? "border-teal bg-teal-soft font-semibold" : "border-hairline bg-card text-muted line-through",
            )}
          >
            {words}
          </button>
        ))}
      </div>
    </div>
  );
}

/** A time on the workshop's own clock: a device may stand in another zone. */
const clock = (time: string | null) => time?.slice(0, 5) ?? "";

function Hours({
  day,
  onChange,
}: {
  day: Day;
  onChange: (hours: { closed: boolean; from: string | null; to: string | null }) => void;
}) {
  const [from, setFrom] = useState(clock(day.opens));
  const [to, setTo] = useState(clock(day.closes));
  const reads = useMe()?.rights === "reader";
  const changed = from !== "" && to !== "" && (from !== clock(day.opens) || to !== clock(day.closes));
  const box = "min-h-11 rounded-sm border border-hairline bg-card px-2 font-mono text-lg disabled:border-transparent";
  return (
    <div role="group" aria-label="Hours of this day" className="flex flex-wrap items-center gap-2">
      <input
        type="time"
        aria-label="Open from"
        value={from}
        disabled={reads}
        className={box}
        onChange={(e) => setFrom(e.target.value)}
      />
      <span>to</span>
      <input
        type="time"
        aria-label="Open to"
        value={to}
        disabled={reads}
        className={box}
        onChange={(e) => setTo(e.target.value)}
      />
      {!reads && (
        <>
          <Button
            kind="main"
            disabled={!changed}
            onClick={() => onChange({ closed: false, from: `${from}:00`, to: `${to}:00` })}
          >
            Open then
          </Button>
          {day.opens && (
            <Button onClick={() => onChange({ closed: true, from: null, to: null })}>Closed on this day</Button>
          )}
          {!day.usual && (
            <Button kind="quiet" onClick={() => onChange({ closed: false, from: null, to: null })}>
              as usual
            </Button>
          )}
        </>
      )}
    </div>
  );
}
