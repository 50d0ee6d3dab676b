import { Fragment, useState } from "react";
import { Link } from "react-router";
import { useBehindRepair, type RepairOfRecord } from "../../api/records";
import { Failing, Loading } from "../../parts/States";
import { duration } from "../../parts/words";

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
          <Fragment key={one.act}>
            <tr className="h-11 border-t border-hairline">
              <th scope="row" className="text-left font-semibold">
                <button
                  type="button"
                  aria-expanded={open === one.act}
                  className="min-h-11 text-left font-semibold underline decoration-1 underline-offset-4"
                  onClick={() => setOpen(open === one.act ? undefined : one.act)}
                >
                  {one.title}
                </button>
              </th>
              <Minutes value={one.plannedMinutes} />
              <Minutes value={one.takenMinutes} />
              <td className="pl-3 text-right font-mono whitespace-nowrap">
                {one.judged === 0 ? "—" : `${one.solved} of ${one.judged}`}
              </td>
            </tr>
            {open === one.act && (
              <tr>
                <td colSpan={4} className="pb-3">
                  <Behind act={one.act} />
                </td>
              </tr>
            )}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

function Minutes({ value }: { value: number | null }) {
  return <td className="pl-3 text-right font-mono whitespace-nowrap">{value === null ? "—" : duration(value)}</td>;
}

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
