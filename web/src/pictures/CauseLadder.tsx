import clsx from "clsx";
import { useState } from "react";
import type { JobCause } from "../api/diagnosis";

const few = 3;

const percent = (probability: number) =>
  probability < 0.01 ? "under 1 %" : probability > 0.99 ? "over 99 %" : `${(100 * probability).toFixed(0)} %`;

/** How sure, in a word. */
export const surely = (probability: number) =>
  probability >= 0.9
    ? "almost certain"
    : probability >= 0.7
      ? "likely"
      : probability >= 0.4
        ? "possible"
        : probability >= 0.1
          ? "less likely"
          : "unlikely";

/** Causes as rungs, the most probable on top; each as long as it is probable, with what speaks for and against it. */
export function CauseLadder({ causes }: { causes: readonly JobCause[] }) {
  const [all, setAll] = useState(false);
  const [open, setOpen] = useState<string>();
  const shown = all ? causes : causes.slice(0, few);
  return (
    <div>
      <ol className="m-0 list-none p-0">
        {shown.map((cause, i) => {
          const wide = open === cause.id || (open === undefined && i === 0);
          return (
            <li key={cause.id} className="border-t border-hairline py-2">
              <button
                type="button"
                aria-expanded={wide}
                onClick={() => setOpen(wide ? "" : cause.id)}
                className="block min-h-11 w-full text-left"
              >
                <span className="flex flex-wrap items-baseline justify-end gap-x-3">
                  <span className={clsx("grow font-bold", i === 0 ? "text-2xl" : "text-lg")}>{cause.title}</span>
                  <span className="whitespace-nowrap text-muted">{surely(cause.probability)}</span>
                  <span className={clsx("font-mono font-bold whitespace-nowrap", i === 0 ? "text-3xl" : "text-xl")}>
                    {percent(cause.probability)}
                  </span>
                </span>
                <svg viewBox="0 0 100 2" preserveAspectRatio="none" aria-hidden="true" className="mt-1 h-2 w-full">
                  <rect width="100" height="2" className="fill-hairline" />
                  <rect
                    width={100 * cause.probability}
                    height="2"
                    className={i === 0 ? "fill-copper" : "fill-copper-soft"}
                  />
                </svg>
              </button>
              {wide && <Reasons cause={cause} />}
            </li>
          );
        })}
      </ol>
      {causes.length > few && (
        <button
          type="button"
          onClick={() => setAll(!all)}
          className="min-h-11 text-teal underline decoration-1 underline-offset-4"
        >
          {all ? "Only the first" : `All ${causes.length} causes, and why not`}
        </button>
      )}
    </div>
  );
}

function Reasons({ cause }: { cause: JobCause }) {
  const side = (title: string, reasons: JobCause["for"]) =>
    reasons.length > 0 && (
      <div className="min-w-0 grow basis-64">
        <p className="m-0 text-muted">{title}</p>
        <ul className="m-0 list-none p-0">
          {reasons.map((reason) => (
            <li key={reason.observed} className="mt-1">
              {reason.observed} {reason.because && <span className="text-muted">{reason.because}</span>}
            </li>
          ))}
        </ul>
      </div>
    );
  return (
    <div className="mt-1 mb-2">
      <p className="m-0 mb-1">
        Cure: <strong>{cause.repair}</strong>
      </p>
      {cause.warranty && <p className="m-0 mb-1 border-l-4 border-amber pl-3">{cause.warranty}</p>}
      <div className="flex flex-wrap gap-x-8 gap-y-2">
        {side("For it", cause.for)}
        {side("Fits it, and others as well", cause.shared)}
        {side("Against it", cause.against)}
      </div>
      {cause.for.length + cause.shared.length + cause.against.length === 0 && (
        <p className="m-0 text-muted">Nothing observed speaks for or against it; this is how frequent it is.</p>
      )}
    </div>
  );
}
