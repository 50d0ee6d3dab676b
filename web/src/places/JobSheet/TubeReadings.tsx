import type { JobSheet } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { NumberField } from "../../parts/AutoField";

/** Two thermometer readings instead of a hand's feel, and the flow that they mean. */
export function TubeReadings({ job, actions, means }: { job: JobSheet; actions: JobActions; means: string | null }) {
  const shared = { job, actions };
  return (
    <div className="mt-2 border-l-4 border-hairline pl-3">
      <p className="m-0 text-muted">Or by thermometer, near the block, under load:</p>
      <div className="flex flex-wrap gap-x-6">
        <NumberField {...shared} name="tubeOneC" />
        <NumberField {...shared} name="tubeOtherC" />
      </div>
      {means && (
        <p role="status" className="m-0 text-lg font-semibold">
          {means}
        </p>
      )}
    </div>
  );
}
