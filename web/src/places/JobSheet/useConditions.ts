import { useMemo } from "react";
import { Problem, type Run, type RunConditions } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { useSaver } from "../../parts/useSaver";

type Held = Pick<Run, "conditions" | "version">;

/** A run's conditions under the save machine: one draft of them, whoever changes it, sent one after the other. */
export function useConditions(run: Run, actions: JobActions) {
  const { id, version, conditions } = run;
  const { setConditions, refresh } = actions;
  const saving = useMemo(() => {
    const lookAgain = async (): Promise<Held | undefined> => (await refresh())?.runs.find((one) => one.id === id);
    const send = (value: RunConditions, base: RunConditions, now: Held) =>
      setConditions(id, onTop(value, base, now.conditions), now.version);
    return {
      format: (value: RunConditions) => value,
      parse: (value: RunConditions) => ({ value }),
      save: async (value: RunConditions, base: RunConditions) => {
        const seen = { conditions, version };
        try {
          // What stands here may be others', or not yet one's own.
          await send(value, base, same(conditions, base) ? seen : ((await lookAgain()) ?? seen));
        } catch (failure) {
          if (!isOutdated(failure)) {
            throw failure;
          }
          const now = await lookAgain();
          await (now ? send(value, base, now) : Promise.reject(failure)).catch((again: unknown) => {
            throw isOutdated(again) ? new Problem(503, "The run is being changed; this is saved in a moment.") : again;
          });
        }
      },
    };
  }, [id, version, conditions, setConditions, refresh]);
  return useSaver<RunConditions, RunConditions>(`run:${id}:conditions`, conditions, saving);
}

const isOutdated = (failure: unknown) =>
  failure instanceof Problem && failure.status === 409 && !("theirs" in failure.more);

const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** What a draft changes of the conditions that it was begun on, on top of those that stand now. Where both changed the same, neither is overwritten. */
function onTop(value: RunConditions, base: RunConditions, now: RunConditions): RunConditions {
  const names = Object.keys({ ...base, ...value }) as (keyof RunConditions)[];
  const mine = names.filter((name) => !same(value[name], base[name]));
  if (mine.some((name) => !same(now[name], base[name]) && !same(now[name], value[name]))) {
    throw new Problem(409, "Somebody else has changed the same meanwhile.", { theirs: now });
  }
  return { ...now, ...Object.fromEntries(mine.map((name) => [name, value[name] ?? null])) };
}
