import type { JobObservation } from "../../api/diagnosis";
import { Choice } from "../../parts/Choice";
import type { Answer } from "./useAnswer";

/** One thing to observe: what to look for, its caution, and its answers; touched once to answer, once more to take it back. */
export function Observation({ one, onAnswer }: { one: JobObservation; onAnswer: Answer }) {
  return (
    <div>
      <Choice
        label={one.title}
        value={one.state}
        options={one.states.map((state) => [state.id, state.words] as const)}
        onChange={(state) => onAnswer(one.id, state)}
        clearable
        strong
      />
      <p className="m-0 mt-1 text-muted">
        {one.offRuns ? "Read off a run or a thermometer; touch another to overrule it." : one.how}
        {one.caution && !one.offRuns && <span className="text-amber"> {one.caution}</span>}
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
  );
}
