import { useState } from "react";
import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { touch } from "../../parts/touch";
import { day } from "../../parts/words";

/** Notes that the machine has left, or takes that back. */
export function HandedOver({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const [problem, setProblem] = useState<string>();
  const at = job.fields.handedOverAt;
  const set = (value: string | null) => {
    setProblem(undefined);
    void touch<string | null>(
      `${job.id}:handedOverAt`,
      at,
      () => value,
      (wanted, base) => actions.saveField("handedOverAt", wanted, base),
    ).then(setProblem);
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      {at === null ? (
        <Button onClick={() => set(new Date().toISOString())}>Mark as handed over</Button>
      ) : (
        <>
          <span>Handed over on {day(at)}.</span>
          <Button onClick={() => set(null)}>It is back</Button>
        </>
      )}
      {problem && (
        <p role="alert" className="font-semibold text-amber">
          Not saved: {problem}
        </p>
      )}
    </div>
  );
}
