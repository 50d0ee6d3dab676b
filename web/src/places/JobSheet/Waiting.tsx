import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { ChoiceField } from "../../parts/AutoField";

/** What no run and no note tells: that the machine waits for somebody or something outside. */
export function Waiting({ job, actions }: { job: JobSheet; actions: JobActions }) {
  return (
    <div className="border-t border-hairline pt-2">
      <ChoiceField job={job} actions={actions} name="waitingFor" />
    </div>
  );
}
