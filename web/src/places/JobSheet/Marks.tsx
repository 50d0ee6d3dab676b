import { Flag, X } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Run, Schemas } from "../../api/client";
import { Button, buttonLook } from "../../parts/Button";
import { clock, readClock } from "../../parts/words";
import { loadStart } from "../../pictures/lanes";

type Mark = Schemas["RunMark"];

/** What somebody did or saw during a run: a list, and a line to add to it. */
export function Marks({
  run,
  at,
  onMarks,
}: {
  run: Run;
  /** Where the cursor last was in the trace, s from load start. */
  at: () => number;
  onMarks: (marks: Mark[]) => void;
}) {
  const zero = loadStart(run);
  const [time, setTime] = useState("");
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string>();
  const add = () => {
    const seconds = readClock(time);
    if (seconds === undefined) {
      return setProblem("Write the time as minutes and seconds after load start: 12:30.");
    }
    const from = -zero;
    const to = run.analysis.durationSeconds - zero;
    if (seconds < from || seconds > to) {
      return setProblem(`The run goes from ${clock(from)} to ${clock(to)}.`);
    }
    if (text.trim() === "") {
      return setProblem("Say what was done or seen.");
    }
    setProblem(undefined);
    setText("");
    onMarks([...run.marks, { seconds: seconds + zero, text: text.trim() }]);
  };
  return (
    <Popover.Root onOpenChange={(open) => open && setTime(clock(at()))}>
      <Popover.Trigger className={buttonLook("plain")}>
        <Flag size={18} aria-hidden="true" /> Marks{run.marks.length > 0 && ` (${run.marks.length})`}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-20 w-[min(26rem,94vw)] rounded-sm border border-edge bg-card p-4 text-ink"
        >
          {run.marks.length === 0 && (
            <p className="m-0 mb-3">Mark what was done or seen: “panel off”, “fan by hand to full”.</p>
          )}
          <ul className="m-0 mb-3 list-none p-0">
            {run.marks.map((mark) => (
              <li key={`${mark.seconds}${mark.text}`} className="flex items-center gap-3 border-b border-hairline">
                <span className="w-16 shrink-0 font-mono">{clock(mark.seconds - zero)}</span>
                <span className="grow">{mark.text}</span>
                <Button
                  kind="quiet"
                  aria-label={`Take “${mark.text}” away`}
                  onClick={() => onMarks(run.marks.filter((other) => other !== mark))}
                >
                  <X size={18} aria-hidden="true" />
                </Button>
              </li>
            ))}
          </ul>
          <form
            className="flex flex-wrap items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              add();
            }}
          >
            <label className="flex w-24 flex-col">
              <span className="text-muted">min:s</span>
              <input
                value={time}
                onChange={(event) => setTime(event.target.value)}
                className="min-h-11 rounded-sm border border-edge bg-card px-2 font-mono"
              />
            </label>
            <label className="flex min-w-40 grow flex-col">
              <span className="text-muted">what</span>
              <input
                value={text}
                maxLength={80}
                onChange={(event) => setText(event.target.value)}
                className="min-h-11 rounded-sm border border-edge bg-card px-2"
              />
            </label>
            <Button kind="main" type="submit">
              Add
            </Button>
          </form>
          {problem && (
            <p role="alert" className="m-0 mt-2 font-semibold text-amber">
              {problem}
            </p>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
