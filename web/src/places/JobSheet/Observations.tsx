import type { JobObservation } from "../../api/diagnosis";
import { Observation } from "./Observation";
import type { Answer } from "./useAnswer";

const kinds = [
  ["symptom", "What the owner tells"],
  ["look", "Look and feel"],
  ["trial", "Trials"],
  ["run", "Read off the runs"],
] as const;

/** All that can be observed, by kind. */
export function Observations({
  observations,
  onAnswer,
}: {
  observations: readonly JobObservation[];
  onAnswer: Answer;
}) {
  return (
    <>
      {kinds.map(([kind, title]) => {
        const rows = observations.filter((one) => one.kind === kind);
        const told = rows.filter((one) => one.state !== null).length;
        return (
          <details key={kind} className="border-t border-hairline">
            <summary className="flex min-h-12 items-center gap-3 py-2 text-lg font-bold">
              {title}
              <span className="font-normal text-muted">
                {told} of {rows.length}
              </span>
            </summary>
            <div className="grid gap-4 pb-4">
              {rows.map((one) => (
                <Observation key={one.id} one={one} onAnswer={onAnswer} />
              ))}
            </div>
          </details>
        );
      })}
    </>
  );
}
