import { useId, useState } from "react";
import { Link } from "react-router";
import type { JobSheet, Run } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { useCounted } from "../../api/records";
import { useMe } from "../../api/session";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";

/** What of the records a run is part of; nothing where it is part of none. */
export function CountsIn({ run, job }: { run: Run; job: JobSheet }) {
  const counted = useCounted(job).data?.find((one) => one.run === run.id);
  return counted ? (
    <p className="my-3 border-l-4 border-teal pl-3">
      Counts in the{" "}
      <Link to="/records" className="text-teal underline underline-offset-4">
        records
      </Link>
      : {counted.in.join("; ")}.
    </p>
  ) : null;
}

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
