import type { Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { keepUnits } from "../../parts/words";

/** The one next step: what, why, how long, its caution. */
export function NowCard({ now, onAct }: { now: Schemas["NowCard"]; onAct: (action: string) => void }) {
  return (
    <section aria-label="Now" className="border border-hairline bg-card px-5 py-4">
      <p className="text-muted">Now{now.minutes === null ? "" : ` · about ${now.minutes} min`}</p>
      <h2 className="mt-1 text-2xl leading-tight font-bold">{now.title}</h2>
      <p className="mt-2">{keepUnits(now.why)}</p>
      {now.caution && <p className="mt-3 border-l-4 border-amber pl-3">{now.caution}</p>}
      {now.button && (
        <Button kind="main" className="mt-4 min-h-12 w-full text-lg" onClick={() => onAct(now.action)}>
          {now.button}
        </Button>
      )}
      {now.button && (
        <p className="mt-2 flex items-center justify-between text-muted">
          {now.otherAction && now.otherButton ? (
            <Button kind="quiet" className="-ml-2" onClick={() => onAct(now.otherAction!)}>
              {now.otherButton}
            </Button>
          ) : (
            <span />
          )}
          <kbd className="border border-hairline px-2 font-mono">.</kbd>
        </p>
      )}
    </section>
  );
}
