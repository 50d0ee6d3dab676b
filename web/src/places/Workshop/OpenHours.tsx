import { useMemo } from "react";
import { useSaveSetting, useSettings, type Settings } from "../../api/settings";
import { SaveWords } from "../../parts/SaveWords";
import { useSaver } from "../../parts/useSaver";

type Day = { from: string; to: string };

const names = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const clock = (time: string) => time.slice(0, 5);
const written = (time: string) => `${time}:00`;

const daysOf = (open: Settings["open"]): Day[] =>
  names.map((_, i) => {
    const day = open?.days.find((one) => one.day === i + 1);
    return { from: day ? clock(day.from) : "", to: day ? clock(day.to) : "" };
  });

const openDay = (day: Day, i: number) =>
  day.from ? [{ day: i + 1, from: written(day.from), to: written(day.to) }] : [];

const isHalf = (day: Day) => (day.from === "") !== (day.to === "");

const inWords = (days: Day[]) =>
  days.flatMap((day, i) => (day.from ? [`${names[i]} ${day.from}–${day.to}`] : [])).join(", ");

/** When the workshop is open; saved as soon as each day has both of its times, or neither. */
export function OpenHours() {
  const settings = useSettings();
  return settings.data ? (
    <Week stored={settings.data.open} />
  ) : (
    <p role="status" className="m-0 text-muted">
      {settings.isError ? settings.error.message : "Fetching opening hours …"}
    </p>
  );
}

function Week({ stored }: { stored: Settings["open"] }) {
  const save = useSaveSetting();
  const saving = useMemo(
    () => ({
      format: daysOf,
      parse: (days: Day[]) => {
        const half = days.findIndex(isHalf);
        return half >= 0
          ? { sentence: `${names[half]} needs both of its times, or neither.` }
          : { value: days.some((day) => day.from) ? { days: days.flatMap(openDay) } : null };
      },
      save: (open: Settings["open"], base: Settings["open"]) => save("open", open, base),
    }),
    [save],
  );
  const { draft, state, saver } = useSaver<Day[], Settings["open"]>("settings:open", stored, saving);
  const known = draft.some((day) => day.from !== "");
  return (
    <fieldset aria-label="Opening hours" className="m-0 min-w-0 border-0 p-0">
      <h2 className="text-xl font-bold">Opening hours</h2>
      <p className="mt-0 mb-2 text-muted">
        They stand on what leaves the workshop, once a day is set. Leave a day empty when it is closed.
      </p>
      <div className="grid grid-cols-2 items-center gap-x-3 gap-y-1 md:grid-cols-[1fr_auto_auto_auto]">
        {names.map((name, i) => (
          <Row
            key={name}
            name={name}
            day={draft[i]!}
            closed={known && draft[i]!.from === "" && draft[i]!.to === ""}
            above={i > 0 ? draft[i - 1] : undefined}
            onChange={(day) => saver.change(draft.map((one, at) => (at === i ? day : one)))}
          />
        ))}
      </div>
      <SaveWords
        state={state}
        mine={inWords(draft)}
        words={(theirs) => inWords(daysOf(theirs as Settings["open"]))}
        onMine={() => saver.keepMine()}
        onTheirs={() => saver.takeTheirs()}
      />
    </fieldset>
  );
}

const box =
  "min-h-11 w-full min-w-0 rounded-sm border border-hairline bg-card px-2 font-mono text-lg md:w-40 disabled:border-transparent disabled:bg-transparent";

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
      <span className="col-span-2 md:col-span-1">{name}</span>
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
          className="col-span-2 min-h-11 justify-self-start border-0 bg-transparent px-2 text-teal underline underline-offset-4 md:col-span-1"
        >
          as above
        </button>
      ) : (
        <span className={closed ? "col-span-2 px-2 text-muted md:col-span-1" : "hidden md:block"}>
          {closed && "closed"}
        </span>
      )}
    </>
  );
}
