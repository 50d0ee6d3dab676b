import { useState } from "react";
import { Link } from "react-router";
import { useBehindRepair, type RepairOfRecord } from "../../api/records";
import { Failing, Loading } from "../../parts/States";
import { duration } from "../../parts/words";
import { OpeningRow } from "./OpeningRow";

/** What repairs take and whether they end the matter; the machines behind a figure open under it. */
export function Repairs({ repairs }: { repairs: readonly RepairOfRecord[] }) {
  const [open, setOpen] = useState<string>();
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="h-8 text-left text-muted">
          <th className="font-normal">repair</th>
          <th className="pl-3 text-right font-normal">planned</th>
          <th className="pl-3 text-right font-normal">taken</th>
          <th className="pl-3 text-right font-normal">right first time</th>
        </tr>
      </thead>
      <tbody>
        {repairs.map((one) => (
          <OpeningRow
            key={one.act}
            title={one.title}
            cells={[
              minutes(one.plannedMinutes),
              minutes(one.takenMinutes),
              one.judged === 0 ? "—" : `${one.solved} of ${one.judged}`,
            ]}
            open={open === one.act}
            onOpen={(wanted) => setOpen(wanted ? one.act : undefined)}
          >
            <Behind act={one.act} />
          </OpeningRow>
        ))}
      </tbody>
    </table>
  );
}

const minutes = (value: number | null) => (value === null ? "—" : duration(value));

function Behind({ act }: { act: string }) {
  const behind = useBehindRepair(act);
  return behind.data ? (
    <p className="m-0 flex flex-wrap gap-x-4">
      {behind.data.map((one) => (
        <Link
          key={`${one.job} ${one.round}`}
          to={`/jobs/${one.job}`}
          className="inline-flex min-h-11 items-center text-teal underline decoration-1 underline-offset-4"
        >
          {one.tag}
          {one.round > 1 && `, round ${one.round}`}:{" "}
          {one.takenMinutes === null ? "not timed" : duration(one.takenMinutes)},{" "}
          {one.solved === null ? "open" : one.solved ? "right" : "not right"}
        </Link>
      ))}
    </p>
  ) : behind.isError ? (
    <Failing sentence={behind.error.message} onRetry={() => void behind.refetch()} />
  ) : (
    <Loading what="the machines" />
  );
}
