import { Camera, Check, ImagePlus } from "lucide-react";
import { useId, useRef, useState } from "react";
import { Link } from "react-router";
import { sentenceOf, type JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import type { PlanStep, StepMark } from "../../api/repair";
import { Button, buttonLook } from "../../parts/Button";
import { PrintDrawing } from "../../pictures/StepDrawing";
import { printWords, prints } from "./prints";

interface Props {
  job: JobSheet;
  step: PlanStep;
  /** What came out where this step puts back. */
  listed: readonly string[];
  actions: JobActions;
  onPass: (more?: Partial<StepMark>) => void;
}

/** What a step wants to see before it counts as done; one large mark to tick where a look is enough. */
export function HoldPoint(props: Props) {
  switch (props.step.hold) {
    case "reading":
      return <Reading {...props} />;
    case "photo":
      return <Photo {...props} />;
    case "print":
      return <Print {...props} />;
    case "list":
      return <Lines {...props} />;
    case "pads":
      return <Pads {...props} />;
    case "ticks":
      return <Ticks {...props} />;
    case "run":
      return <RunAsked {...props} />;
    default:
      return <Tick words={props.step.ask ?? "Done"} onTick={() => props.onPass()} />;
  }
}

function Tick({ words, disabled, onTick }: { words: string; disabled?: boolean; onTick: () => void }) {
  return (
    <Button
      kind="main"
      disabled={disabled}
      onClick={onTick}
      className="min-h-20 w-full justify-start gap-4 text-left text-2xl! whitespace-normal"
    >
      <Check size={40} aria-hidden="true" className="shrink-0" /> {words}
    </Button>
  );
}

function Reading({ step, onPass }: Props) {
  const id = useId();
  const [text, setText] = useState("");
  const value = Number(text.replace(",", "."));
  const given = text.trim() !== "" && Number.isFinite(value);
  const outside = given && (value < step.least! || value > step.most!);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (given && !outside) {
          onPass({ reading: value });
        }
      }}
    >
      <label htmlFor={id} className="text-xl">
        {step.ask}
      </label>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          className="min-h-20 w-44 rounded-sm border border-edge bg-card px-4 font-mono text-4xl"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <span className="text-2xl">{step.unit}</span>
        <div className="min-w-56 grow">
          <Button
            type="submit"
            kind="main"
            disabled={!given || outside}
            className="min-h-20 w-full justify-start gap-4 text-2xl!"
          >
            <Check size={40} aria-hidden="true" /> In range
          </Button>
        </div>
      </div>
      {outside && (
        <p role="alert" className="mt-3 mb-0 border-l-8 border-amber pl-4 text-xl font-semibold">
          {`${value} ${step.unit} is not within ${step.least} to ${step.most} ${step.unit}. ${step.outside ?? ""}`}
        </p>
      )}
    </form>
  );
}

function Photo({ job, step, actions, onPass }: Props) {
  const [camera, files] = [useRef<HTMLInputElement>(null), useRef<HTMLInputElement>(null)];
  const [state, setState] = useState<"sending" | { problem: string }>();
  const pick = async (event: React.ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) {
      return;
    }
    setState("sending");
    try {
      const { photos } = await actions.addPhoto("photo", file);
      const known = new Set(job.photos.map((photo) => photo.id));
      // Another look at the sheet may have brought it already.
      const added = photos.find((photo) => !known.has(photo.id)) ?? photos.at(-1);
      setState(undefined);
      if (added) {
        onPass({ photo: added.id });
      }
    } catch (failure) {
      setState({ problem: sentenceOf(failure, `“${file.name}” could not be sent.`) });
    }
  };
  return (
    <div>
      <Button
        kind="main"
        disabled={state === "sending"}
        onClick={() => camera.current?.click()}
        className="min-h-20 w-full justify-start gap-4 text-2xl!"
      >
        <Camera size={40} aria-hidden="true" /> {state === "sending" ? "On its way …" : step.ask}
      </Button>
      <Button className="mt-2" onClick={() => files.current?.click()}>
        <ImagePlus size={20} aria-hidden="true" /> Choose a picture
      </Button>
      <input
        ref={camera}
        type="file"
        accept="image/*"
        capture="environment"
        hidden
        onChange={(event) => void pick(event)}
      />
      <input ref={files} type="file" accept="image/*" hidden data-step-photo onChange={(event) => void pick(event)} />
      {typeof state === "object" && (
        <p role="alert" className="mt-2 mb-0 font-semibold text-amber">
          {state.problem}
        </p>
      )}
    </div>
  );
}

function Print({ onPass }: Props) {
  return (
    <div role="group" aria-label="Paste print" className="flex flex-wrap gap-3">
      {prints.map((print) => (
        <button
          key={print}
          type="button"
          onClick={() => onPass({ text: print })}
          className="w-36 rounded-sm border border-edge bg-card p-2 text-lg"
        >
          <PrintDrawing print={print} className="w-full" />
          {printWords[print]}
        </button>
      ))}
    </div>
  );
}

function Lines({ step, onPass }: Props) {
  const id = useId();
  const [text, setText] = useState(() => (step.suggested ?? []).join("\n"));
  const lines = text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  return (
    <div>
      <label htmlFor={id} className="text-xl">
        {step.ask}
      </label>
      <textarea
        id={id}
        rows={4}
        className="mt-1 mb-3 block w-full rounded-sm border border-edge bg-card px-4 py-2 text-2xl"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <Tick
        words={
          lines.length === 0
            ? "A line for each"
            : `${lines.length === 1 ? "One thing" : `${lines.length} things`}, all listed`
        }
        disabled={lines.length === 0}
        onTick={() => onPass({ lines })}
      />
    </div>
  );
}

const zones = ["memory", "converters", "back plate"];
/** What is usually left of a pad under pressure. */
const usualShare = 0.8;

/** Pads by zone: typed once, thickness and what is left of it under pressure. */
function Pads({ step, onPass }: Props) {
  const [pads, setPads] = useState(() => zones.map((zone) => ({ zone, thick: "", atWork: "" })));
  const number = (text: string) => Number(text.replace(",", "."));
  const rows = pads.filter((pad) => pad.thick.trim() !== "");
  const left = (pad: (typeof pads)[number]) =>
    pad.atWork.trim() !== "" ? number(pad.atWork) : Math.round(number(pad.thick) * usualShare * 100) / 100;
  const odd = rows.find((pad) => !(left(pad) < number(pad.thick) && left(pad) > number(pad.thick) / 2));
  const set = (i: number, more: Partial<(typeof pads)[number]>) =>
    setPads(pads.map((pad, j) => (i === j ? { ...pad, ...more } : pad)));
  const box = "min-h-14 w-28 rounded-sm border border-edge bg-card px-3 font-mono text-2xl";
  return (
    <div>
      <p className="m-0 text-xl">{step.ask}</p>
      <div className="my-2 grid w-fit grid-cols-[auto_auto_auto] items-center gap-x-4 gap-y-2 text-xl">
        <span />
        <span className="text-muted">new</span>
        <span className="text-muted">at work</span>
        {pads.map((pad, i) => (
          <div key={pad.zone} className="col-span-full grid grid-cols-subgrid items-center">
            <span>{pad.zone}</span>
            <input
              aria-label={`${pad.zone}, thickness, mm`}
              inputMode="decimal"
              className={box}
              value={pad.thick}
              onChange={(event) => set(i, { thick: event.target.value })}
            />
            <input
              aria-label={`${pad.zone}, under pressure, mm`}
              inputMode="decimal"
              className={box}
              value={pad.atWork}
              placeholder={pad.thick.trim() === "" || Number.isNaN(left(pad)) ? "" : String(left(pad))}
              onChange={(event) => set(i, { atWork: event.target.value })}
            />
          </div>
        ))}
      </div>
      {odd && (
        <p role="alert" className="mt-1 mb-3 border-l-8 border-amber pl-4 text-xl font-semibold">
          {`${odd.zone}: under pressure a pad keeps more than half of its thickness, and less than all of it.`}
        </p>
      )}
      <Tick
        words={rows.length === 0 ? "The thickness of one zone at least" : "These pads are on"}
        disabled={rows.length === 0 || odd !== undefined}
        onTick={() =>
          onPass({
            lines: rows.map((pad) => `${pad.zone}: ${number(pad.thick)} mm, at work ${left(pad)} mm`),
          })
        }
      />
    </div>
  );
}

function Ticks({ step, listed, onPass }: Props) {
  const [ticked, setTicked] = useState<readonly string[]>([]);
  const lines = [...new Set(listed)];
  return (
    <div>
      <p className="m-0 text-xl">{step.ask}</p>
      {lines.length === 0 && <p className="mt-1 mb-2 text-muted">Nothing was listed where it came out.</p>}
      <ul className="m-0 mb-3 list-none p-0">
        {lines.map((line) => (
          <li key={line}>
            <label className="flex min-h-12 items-center gap-4 text-2xl!">
              <input
                type="checkbox"
                className="size-8 shrink-0 accent-teal"
                checked={ticked.includes(line)}
                onChange={(event) =>
                  setTicked(event.target.checked ? [...ticked, line] : ticked.filter((one) => one !== line))
                }
              />
              {line}
            </label>
          </li>
        ))}
      </ul>
      <Tick
        words={ticked.length < lines.length ? `${lines.length - ticked.length} still out` : "All of them"}
        disabled={ticked.length < lines.length}
        onTick={() => onPass({ lines: [...ticked] })}
      />
    </div>
  );
}

function RunAsked({ job, step, onPass }: Props) {
  const variant = step.id === "fixed-run" ? "fixed-fans" : "usual";
  return (
    <div className="grid gap-3">
      <Link
        to={`/bench?job=${job.id}&variant=${variant}`}
        className={`${buttonLook("main")} min-h-20 justify-start px-5 text-2xl!`}
      >
        Run it in a bay
      </Link>
      <Button className="min-h-14 justify-start text-xl!" onClick={() => onPass()}>
        <Check size={28} aria-hidden="true" /> {step.ask}
      </Button>
    </div>
  );
}
