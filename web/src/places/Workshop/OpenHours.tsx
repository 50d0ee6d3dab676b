import { useState } from "react";
import { useSaveSetting, useSettings, type Settings } from "../../api/settings";
import { telling } from "../../parts/told";

type Open = NonNullable<Settings["open"]>;
type Day = { from: string; to: string };

const names = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const clock = (time: string) => time.slice(0, 5);
const written = (time: string) => `${time}:00`;

const daysOf = (open: Settings["open"]): Day[] =>
  names.map((_, i) => {
    const day = open?.days.find((one) => one.day === i + 1);
    return { from: day ? clock(day.from) : "", to: day ? clock(day.to) : "" };
  });

/** When the workshop is open; saved as soon as a day has both of its times, or neither. */
export function OpenHours() {
  const settings = useSettings();
  const save = useSaveSetting();
  const stored = settings.data?.open ?? null;
  const [typed, setTyped] = useState<Day[]>();
  const days = typed ?? daysOf(stored);
  const known = days.some((day) => day.from !== "");
  const half = days.some((day) => (day.from === "") !== (day.to === ""));
  const change = (next: Day[]) => {
    setTyped(next);
    if (next.every((day) => (day.from === "") === (day.to === ""))) {
      const open: Open | null = next.every((day) => day.from === "")
        ? null
        : {
            days: next.flatMap((day, i) =>
              day.from ? [{ day: i + 1, from: written(day.from), to: written(day.to) }] : [],
            ),
          };
      telling(save("open", open, stored).then(() => setTyped(undefined)));
    }
  };
  return (
    <fieldset aria-label="Opening hours" className="m-0 min-w-0 border-0 p-0">
      <h2 className="text-xl font-bold">Opening hours</h2>
      <p className="mt-0 mb-2 text-muted">
        They stand on what leaves the workshop, once a day is set. Leave a day empty when it is closed.
      </p>
      <div className="grid grid-cols-[1fr_auto_auto_auto] items-center gap-x-3 gap-y-1">
        {names.map((name, i) => (
          <Row
            key={name}
            name={name}
            day={days[i]!}
            closed={known && days[i]!.from === "" && days[i]!.to === ""}
            above={i > 0 ? days[i - 1] : undefined}
            onChange={(day) => change(days.map((one, at) => (at === i ? day : one)))}
          />
        ))}
      </div>
      {half && (
        <p role="status" className="mt-2 mb-0 text-muted">
          Saved when each day has both times, or none.
        </p>
      )}
    </fieldset>
  );
}

const box =
  "min-h-11 w-40 rounded-sm border border-hairline bg-card px-2 font-mono text-lg disabled:border-transparent disabled:bg-transparent";

function Row({
  name,
  day,
  closed,
  above,
  onChange,
}: {
  name: string;
  day: Day;
  closed: boolean;
  above?: Day;
  onChange: (day: Day) => void;
}) {
  return (
    <>
      <span>{name}</span>
      <input
        type="time"
        aria-label={`${name}, from`}
        value={day.from}
        onChange={(event) => onChange({ ...day, from: event.target.value })}
        className={box}
      />
      <input
        type="time"
        aria-label={`${name}, to`}
        value={day.to}
        onChange={(event) => onChange({ ...day, to: event.target.value })}
        className={box}
      />
      {day.from === "" && above?.from && above.to ? (
        <button
          type="button"
          onClick={() => onChange(above)}
          className="min-h-11 border-0 bg-transparent px-2 text-teal underline underline-offset-4"
        >
          as above
        </button>
      ) : (
        <span className="px-2 text-muted">{closed && "closed"}</span>
      )}
    </>
  );
}
