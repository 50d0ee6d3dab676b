import clsx from "clsx";
import type { Schemas } from "../../api/client";

/** Where the job stands in the order of work. */
export function StepRail({
  steps,
  current,
  onGo,
}: {
  steps: readonly Schemas["JobStep"][];
  current: string;
  onGo: (step: string) => void;
}) {
  return (
    <nav aria-label="Order of work" className="mt-3 border-y border-hairline">
      <ol className="m-0 flex list-none flex-wrap gap-x-2 p-0 md:grid md:grid-cols-7">
        {steps.map((step) => (
          <li key={step.id}>
            <button
              type="button"
              onClick={() => onGo(step.id)}
              aria-current={step.id === current ? "step" : undefined}
              className={clsx(
                "min-h-11 w-full border-b-4 px-1 text-left",
                step.id === current ? "border-teal font-bold text-teal" : "border-transparent",
                step.id !== current && !step.done && "text-muted",
              )}
            >
              {step.title}
              {step.done && <span aria-label=", done"> ✓</span>}
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
