import type { JobObservation } from "../../api/diagnosis";
import { Choice } from "../../parts/Choice";
import { Observation } from "./Observation";
import type { Answer } from "./useAnswer";

const open = "open";
const answers = [
  [open, "not asked"],
  ["no", "no"],
  ["yes", "yes"],
] as const;

/** What the owner is asked, in plain words: how it began, and a list to be touched. */
export function Symptoms({ observations, onAnswer }: { observations: readonly JobObservation[]; onAnswer: Answer }) {
  const asked = observations.filter((one) => one.kind === "symptom");
  const plain = asked.filter((one) => one.states.length === 2);
  return (
    <div className="grid gap-4">
      {asked
        .filter((one) => one.states.length > 2)
        .map((one) => (
          <Observation key={one.id} one={one} onAnswer={onAnswer} />
        ))}
      <ul className="m-0 grid list-none gap-x-8 p-0">
        {plain.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-hairline py-1"
          >
            <span className="text-lg">{one.title}</span>
            <Choice
              label={one.title}
              hideLabel
              value={one.state ?? open}
              options={answers}
              onChange={(state) => onAnswer(one.id, state === open ? null : state)}
            />
          </li>
        ))}
      </ul>
    </div>
  );
}
