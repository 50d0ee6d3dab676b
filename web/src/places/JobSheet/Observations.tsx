import type { JobObservation } from "../../api/diagnosis";
import { Fold } from "../../parts/Fold";
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
          <Fold key={kind} title={title} gist={`${told} of ${rows.length}`}>
            {rows.map((one) => (
              <Observation key={one.id} one={one} onAnswer={onAnswer} />
            ))}
          </Fold>
        );
      })}
    </>
  );
}
