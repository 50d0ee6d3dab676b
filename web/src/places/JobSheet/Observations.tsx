import type { JobObservation } from "../../api/diagnosis";
import { Choice } from "../../parts/Choice";

const kinds = [
  ["symptom", "What the owner tells"],
  ["look", "Look and feel"],
  ["trial", "Trials"],
  ["run", "Read off the runs"],
] as const;

/** All that can be observed, by kind; touched once to answer, once more to take it back. */
export function Observations({
  observations,
  onAnswer,
}: {
  observations: readonly JobObservation[];
  onAnswer: (id: string, state: string | null, doubtful: boolean) => void;
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
                <div key={one.id}>
                  <Choice
                    label={one.title}
                    value={one.state}
                    options={one.states.map((state) => [state.id, state.words] as const)}
                    onChange={(state) => onAnswer(one.id, state, false)}
                    clearable
                  />
                  <p className="m-0 mt-1 text-muted">
                    {one.offRuns ? "Read off a run; touch another to overrule it." : one.how}
                    {one.caution && !one.offRuns && ` ${one.caution}`}
                  </p>
                  {one.state !== null && !one.offRuns && (
                    <label className="flex min-h-11 items-center gap-3">
                      <input
                        type="checkbox"
                        checked={one.doubtful}
                        onChange={(event) => onAnswer(one.id, one.state, event.target.checked)}
                        className="size-6 accent-teal"
                      />
                      not quite sure
                    </label>
                  )}
                </div>
              ))}
            </div>
          </details>
        );
      })}
    </>
  );
}
