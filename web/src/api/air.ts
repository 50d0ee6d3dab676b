import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { call, client, type Schemas } from "./client";
import type { ChosenParts } from "./coolers";

export type AirSheet = Schemas["AirSheet"];
export type AirPlan = Schemas["AirPlan"];
export type PlannedFan = Schemas["PlannedFan"];
export type Steering = Schemas["Steering"];
export type AirLook = Schemas["AirLook"];
export type AirQuestion = Schemas["AirQuestion"];
export type AirWay = Schemas["AirWay"];
export type AirLoad = "both" | "processor" | "card" | "rest";

/** Each step of a drag asks anew; what is not looked at any more is soon forgotten, ms. */
const forgottenAfter = 20_000;

const sheetKey = (jobId: string | null, parts: ChosenParts) => ["air", jobId, parts] as const;

/** A machine whose air is looked at: a job's, or one put together from parts. */
export function useAirSheet(jobId: string | null, parts: ChosenParts) {
  return useQuery({
    queryKey: sheetKey(jobId, parts),
    enabled: jobId !== null || parts.processor !== undefined,
    retry: false,
    refetchOnWindowFocus: false,
    queryFn: () =>
      jobId !== null
        ? call(() => client.GET("/api/jobs/{id}/air", { params: { path: { id: jobId } } }))
        : call(() => client.GET("/api/air", { params: { query: { ...parts } } })),
  });
}

/** Keeps a plan on its job, or drops it; refused when somebody else has changed it meanwhile. */
export function useKeepPlan(jobId: string | null) {
  const cache = useQueryClient();
  return useCallback(
    async (plan: AirPlan | null, base: AirPlan | null) => {
      if (jobId === null) {
        return;
      }
      await call(() =>
        client.PATCH("/api/jobs/{id}/fields/{field}", {
          params: { path: { id: jobId, field: "airPlan" } },
          body: { value: plan, base },
        }),
      );
      cache.setQueryData<AirSheet>(sheetKey(jobId, {}), (old) => old && { ...old, kept: plan });
    },
    [cache, jobId],
  );
}

type Asked = Pick<AirSheet, "build" | "cooler">;

/** What a plan does; the last answer stays while the next is on its way. */
export function useAirLook(asked: Asked, plan: AirPlan, load: AirLoad) {
  const { build, cooler } = asked;
  return useQuery({
    queryKey: ["air-look", build, cooler, plan, load],
    staleTime: Infinity,
    gcTime: forgottenAfter,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => call(() => client.POST("/api/air/look", { body: { build, cooler, plan, load }, signal })),
  });
}

/** The ready-made comparisons of a plan. */
export function useAirQuestions(asked: Asked, plan: AirPlan) {
  const { build, cooler } = asked;
  return useQuery({
    queryKey: ["air-questions", build, cooler, plan],
    staleTime: Infinity,
    gcTime: forgottenAfter,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      call(() => client.POST("/api/air/comparisons", { body: { build, cooler, plan, load: null }, signal })),
  });
}

/** A curve for a header that holds a limit and a noise. */
export function useSteering(
  asked: Asked,
  plan: AirPlan,
  wanted: { header: string; source: string; limitC: number; noiseDba: number | null },
) {
  const { build, cooler } = asked;
  return useQuery({
    queryKey: ["air-steering", build, cooler, plan, wanted],
    staleTime: Infinity,
    gcTime: forgottenAfter,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      call(() => client.POST("/api/air/steering", { body: { build, cooler, plan, ...wanted }, signal })),
  });
}
