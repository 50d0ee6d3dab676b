import { useId, useState } from "react";
import type { Run } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { useMe } from "../../api/session";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";

/** A run that is no measure of its parts teaches the records nothing; on its own job it stays what it is. */
export function LeaveOut({ run, actions }: { run: Run; actions: JobActions }) {
  const id = useId();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const say = (reason: string | null) =>
    telling(
      actions.leaveRunOut(run.id, reason, run.version).then(() => setAsking(false)),
      "It could not be changed whether the run counts.",
    );
  const reads = useMe()?.rights === "reader";
  if (run.leftOut !== null) {
    return (
      <p className="my-3 flex flex-wrap items-center gap-x-3 border-l-4 border-hairline pl-3">
        Left out of the records: {run.leftOut}
        {!reads && (
          <Button kind="quiet" onClick={() => say(null)}>
            Let it count again
          </Button>
        )}
      </p>
    );
  }
  if (reads) {
    return null;
  }
  return asking ? (
    <form
      className="flex w-full flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        say(reason);
      }}
    >
      <label htmlFor={id}>Why it should not count</label>
      <input
        id={id}
        autoFocus
        required
        maxLength={200}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        className="min-h-11 min-w-0 grow rounded-sm border border-hairline bg-card px-3"
      />
      <Button kind="main" type="submit" disabled={reason.trim() === ""}>
        Leave it out
      </Button>
      <Button onClick={() => setAsking(false)}>Cancel</Button>
    </form>
  ) : (
    <Button onClick={() => setAsking(true)}>Leave it out of the records …</Button>
  );
}
