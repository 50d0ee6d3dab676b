import { useState } from "react";
import { useBehindPart, type PartOfRecord } from "../../api/records";
import { MachinesBehind } from "./MachinesBehind";
import { OpeningRow } from "./OpeningRow";

/** How parts fare that were fitted here: taken off again, or back with their machine. */
export function FittedParts({ parts }: { parts: readonly PartOfRecord[] }) {
  const [open, setOpen] = useState<string>();
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="h-8 text-left text-muted">
          <th className="font-normal">part</th>
          <th className="pl-3 text-right font-normal">fitted</th>
          <th className="pl-3 text-right font-normal whitespace-nowrap">taken off</th>
          <th className="pl-3 text-right font-normal">came back</th>
        </tr>
      </thead>
      <tbody>
        {parts.map((one) => {
          const key = `${one.kind} ${one.name}`;
          return (
            <OpeningRow
              key={key}
              title={one.name}
              cells={[one.fitted, one.takenOff, one.cameBack].map(String)}
              open={open === key}
              onOpen={(wanted) => setOpen(wanted ? key : undefined)}
            >
              <p className="m-0 text-muted">
                {meaning[one.kind]}
                {one.monthsUntilBack !== null && ` Half of those came within ${months(one.monthsUntilBack)}.`}
              </p>
              <Behind part={one} />
            </OpeningRow>
          );
        })}
      </tbody>
    </table>
  );
}

const meaning: Record<PartOfRecord["kind"], string> = {
  cooler: "A cooler comes back when its machine does and its loop, pump or fan has worn out.",
  paste: "A paste comes back when its machine does and the paste has dried out.",
  "mounting-kit": "A mounting kit comes back when its machine does and the cooler no longer sits.",
};

const months = (value: number) => (value.toFixed(0) === "1" ? "1 month" : `${value.toFixed(0)} months`);

function Behind({ part }: { part: PartOfRecord }) {
  return (
    <MachinesBehind behind={useBehindPart(part.kind, part.name)} to={(one) => one.backJob ?? one.job}>
      {(one) =>
        `${one.tag}${
          one.takenOff
            ? ": taken off again"
            : one.backTag
              ? `: came back as ${one.backTag} after ${months(one.monthsUntilBack ?? 0)}`
              : ": stayed"
        }`
      }
    </MachinesBehind>
  );
}
