import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";

export type DayPlan = Schemas["DayPlanAnswer"];
export type Block = Schemas["BlockOfPlan"];
export type MachineOfPlan = Schemas["MachineOfPlan"];
export type DayChange = Partial<Schemas["DayChange"]>;

export const planKey = ["plan"] as const;

/** How often a page looks whether the plan has changed, ms. */
const lookAgain = 5000;

/** What to touch now and next, and when each machine will be ready. */
export function useDayPlan() {
  return useQuery({
    queryKey: planKey,
    queryFn: ({ signal }) => call(() => client.GET("/api/plan", { signal })),
    placeholderData: keepPreviousData,
    refetchInterval: lookAgain,
  });
}

/** What changes the plan: a day's hands, bays and hours; a machine's place in it, and whose it is. */
export function usePlanActions() {
  const cache = useQueryClient();
  return {
    changeDay: async (day: string, change: DayChange) =>
      cache.setQueryData(
        planKey,
        await call(() =>
          client.PATCH("/api/plan/days/{day}", {
            params: { path: { day } },
            body: { person: null, bay: null, hours: null, ...change },
          }),
        ),
      ),
    set: async (machine: MachineOfPlan, field: "planRank" | "handledBy", value: number | string | null) => {
      const base = field === "planRank" ? machine.rank : machine.handledBy;
      await call(() =>
        client.PATCH("/api/jobs/{id}/fields/{field}", {
          params: { path: { id: machine.job, field } },
          body: { value, base },
        }),
      );
      await cache.invalidateQueries({ queryKey: planKey });
    },
  };
}

/** What somebody touches now, and what follows, in their order. */
export const blocksOf = (plan: DayPlan, person: string): Block[] =>
  plan.blocks.filter((block) => block.hand === person && block.handsTo > plan.at);

/** A place among those that were put first: before the one that stands at a place now. */
export function rankAt(first: readonly { rank: number | null }[], at: number): number {
  const before = first[at - 1]?.rank;
  const after = first[at]?.rank;
  return before == null ? (after ?? 1) - 1 : after == null ? before + 1 : (before + after) / 2;
}
