import { useState } from "react";
import type { PlanStep } from "../../api/repair";
import { Button } from "../../parts/Button";

const reasons = ["Not there on this machine", "Was done before", "Not possible here"];

/** A step is left out for a reason; a baseline that would be lost says so. */
export function Skip({
  step,
  onSkip,
  onStop,
}: {
  step: PlanStep;
  onSkip: (reason: string) => void;
  onStop: () => void;
}) {
  const [other, setOther] = useState("");
  return (
    <section aria-label="Why it is skipped" className="border border-hairline bg-card p-4">
      <p className="m-0 text-xl font-bold">Why is it skipped?</p>
      {step.baseline && (
        <p className="mt-2 mb-0 border-l-4 border-amber pl-3">
          It cannot be made up for later: nothing after it can be compared with it.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {reasons.map((reason) => (
          <Button key={reason} onClick={() => onSkip(reason)}>
            {reason}
          </Button>
        ))}
      </div>
      <form
        className="mt-3 flex flex-wrap gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (other.trim()) {
            onSkip(other.trim());
          }
        }}
      >
        <input
          aria-label="Another reason"
          placeholder="Another reason"
          maxLength={200}
          className="min-h-11 min-w-0 grow rounded-sm border border-hairline bg-card px-3"
          value={other}
          onChange={(event) => setOther(event.target.value)}
        />
        <Button type="submit" disabled={!other.trim()}>
          Skip
        </Button>
        <Button onClick={onStop}>Do it after all</Button>
      </form>
    </section>
  );
}
