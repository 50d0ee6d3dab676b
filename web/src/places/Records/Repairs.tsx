import { useState } from "react";
import { useBehindRepair, type RepairOfRecord } from "../../api/records";
import { duration } from "../../parts/words";
import { MachinesBehind } from "./MachinesBehind";
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
  return (
    <MachinesBehind behind={useBehindRepair(act)}>
      {(one) =>
        `${one.tag}${one.round > 1 ? `, round ${one.round}` : ""}: ${
          one.takenMinutes === null ? "not timed" : duration(one.takenMinutes)
        }, ${one.solved === null ? "open" : one.solved ? "right" : "not right"}`
      }
    </MachinesBehind>
  );
}
