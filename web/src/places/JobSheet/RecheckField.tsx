import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { DateField } from "../../parts/AutoField";

const usual = [
  ["in 6 months", 6],
  ["in a year", 12],
] as const;

/** When the machine should come back to be looked at. */
export function RecheckField({ job, actions }: { job: JobSheet; actions: JobActions }) {
  return <DateField job={job} actions={actions} name="recheckOn" quick={usual} />;
}
