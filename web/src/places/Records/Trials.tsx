import { Collapsible } from "radix-ui";
import { useState } from "react";
import { useBehindTrial, type TrialOfRecord } from "../../api/records";
import { buttonLook } from "../../parts/Button";
import { keepUnits } from "../../parts/words";
import { MachinesBehind } from "./MachinesBehind";
import { degreesBy, spanOf } from "../../parts/degrees";

/** What pastes, ways to put them on and mounting kits do in each other's place, each within its machine. */
export function Trials({ trials }: { trials: readonly TrialOfRecord[] }) {
  return trials.map((trial) => <Told key={`${trial.kind} ${trial.one} ${trial.other}`} trial={trial} />);
}

function Told({ trial }: { trial: TrialOfRecord }) {
  const { sentence, machines } = trial;
  const [open, setOpen] = useState(false);
  return (
    <Collapsible.Root asChild open={open} onOpenChange={setOpen}>
      <section aria-label={titleOf(trial)} className="border-t border-hairline py-3">
        <p className="m-0">{keepUnits(sentence)}</p>
        {machines > 1 && trial.betweenSd > 0.05 && (
          <p className="m-0 text-muted">
            {keepUnits(`Machines differ in it by ${degreesBy(trial.betweenSd, 1)} (standard deviation).`)}
          </p>
        )}
        <Collapsible.Trigger className={buttonLook("quiet")}>
          {open ? "Close" : machines === 1 ? "The machine behind it" : `The ${machines} machines behind it`}
        </Collapsible.Trigger>
        <Collapsible.Content>
          <Behind trial={trial} />
        </Collapsible.Content>
      </section>
    </Collapsible.Root>
  );
}

function titleOf({ kind, one, other }: TrialOfRecord) {
  return kind === "settling" ? `${one}, settling` : `${one} or ${other}`;
}

function Behind({ trial }: { trial: TrialOfRecord }) {
  return (
    <>
      {trial.kind !== "settling" && (
        <p className="m-0 text-muted">{`${trial.other} against ${trial.one}, at 100 W; less is cooler.`}</p>
      )}
      <MachinesBehind behind={useBehindTrial(trial.kind, trial.one, trial.other)} at="#after">
        {(one) =>
          keepUnits(`${one.tag}: ${signed(spanOf(one.change))} ± ${degreesBy(one.halfWidth, 1)}, ${one.runs} runs`)
        }
      </MachinesBehind>
    </>
  );
}

const signed = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(1)}`;
