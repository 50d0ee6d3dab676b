import clsx from "clsx";
import { Check, CloudOff, Minus } from "lucide-react";
import { useEffect, useRef } from "react";
import type { PlanStep, StepMark } from "../../api/repair";
import { keepUnits } from "../../parts/words";
import { stageWords, stagesOf } from "./stages";

/** All steps in small, by their stages: done, skipped, not sent yet, next. */
export function StepList({
  steps,
  marks,
  unsent,
  at,
  onGo,
}: {
  steps: readonly PlanStep[];
  marks: ReadonlyMap<string, StepMark>;
  unsent: readonly string[];
  at: string | undefined;
  onGo: (step: string) => void;
}) {
  const list = useRef<HTMLElement>(null);
  useEffect(() => {
    const [box, here] = [list.current, list.current?.querySelector<HTMLElement>("[aria-current]")];
    if (box && here) {
      // Within its own box: the page itself stands still.
      box.scrollTop = here.offsetTop - box.offsetTop - box.clientHeight / 3;
    }
  }, [at]);
  return (
    <nav ref={list} aria-label="Steps" className="max-h-[78dvh] overflow-y-auto border-l border-hairline pl-4">
      {stagesOf(steps).map(([stage, own]) => (
        <section key={stage} className="mb-2">
          <h2 className="text-sm text-muted">{stageWords[stage]}</h2>
          <ol className="m-0 list-none p-0">
            {own.map((step) => {
              const mark = marks.get(step.id);
              return (
                <li key={step.id}>
                  <button
                    type="button"
                    aria-current={step.id === at ? "step" : undefined}
                    onClick={() => onGo(step.id)}
                    className={clsx(
                      "flex min-h-11 w-full items-center gap-2 text-left leading-tight",
                      step.id === at ? "font-bold text-teal" : mark ? "text-muted" : "text-ink",
                    )}
                  >
                    <span className="flex size-6 shrink-0 items-center justify-center border border-edge">
                      <State mark={mark} unsent={unsent.includes(step.id)} />
                    </span>
                    {keepUnits(step.title)}
                  </button>
                </li>
              );
            })}
          </ol>
        </section>
      ))}
    </nav>
  );
}

function State({ mark, unsent }: { mark: StepMark | undefined; unsent: boolean }) {
  return !mark ? null : unsent ? (
    <CloudOff size={16} aria-label="not sent yet" />
  ) : mark.state === "skipped" ? (
    <Minus size={18} aria-label="skipped" />
  ) : (
    <Check size={18} aria-label="done" />
  );
}
