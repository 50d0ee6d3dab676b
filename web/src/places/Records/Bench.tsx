import { Collapsible } from "radix-ui";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useBehindBench } from "../../api/records";
import { buttonLook } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { MachinesBehind } from "./MachinesBehind";

/** How far runs scatter here though nothing was changed; the machines that showed it open under it. */
export function Bench({ bench }: { bench: Schemas["BenchOfRecord"] }) {
  const [open, setOpen] = useState(false);
  return (
    <Collapsible.Root asChild open={open} onOpenChange={setOpen}>
      <section aria-label="How well this bench repeats itself">
        <h2 className="text-xl font-bold">How well this bench repeats itself</h2>
        <p className="m-0">{keepUnits(bench.sentence)}</p>
        <p className="m-0 text-muted">Every verdict reckons with it.</p>
        {bench.remounts + bench.repeats > 0 && (
          <Collapsible.Trigger className={buttonLook("quiet")}>
            {open ? "Close" : "The machines behind it"}
          </Collapsible.Trigger>
        )}
        <Collapsible.Content>
          <Behind />
        </Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}

function Behind() {
  return (
    <MachinesBehind behind={useBehindBench()}>
      {(one) => `${one.tag}: ${counted(one.remounts, "re-mount")}, ${counted(one.repeats, "repeat")}`}
    </MachinesBehind>
  );
}

const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? "" : "s"}`;
