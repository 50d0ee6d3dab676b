import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { call, client, type JobSheet, type Schemas } from "./client";

export type RepairSheet = Schemas["RepairSheet"];
export type PlanAnswer = Schemas["PlanAnswer"];
export type PlanStep = Schemas["PlanStep"];
export type StepMark = Schemas["StepMark"];

/** What is looked at; no acts for what the diagnosis and the owner's choice come to. */
export interface PlanAsked {
  acts?: readonly string[];
  liquidMetal?: boolean;
  noBoot?: boolean;
}

/** A job's repair by steps; asked for anew with each change of the job. While the server is away the last answer stays. */
export function useRepair(jobId: string, asked: PlanAsked, lastEventId: number) {
  const cache = useQueryClient();
  useEffect(() => {
    void cache.invalidateQueries({ queryKey: ["repair", jobId] });
  }, [cache, jobId, lastEventId]);
  return useQuery({
    queryKey: ["repair", jobId, asked],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) =>
      call(() =>
        client.GET("/api/jobs/{id}/repair", {
          params: {
            path: { id: jobId },
            query: {
              act: asked.acts ? [...asked.acts] : undefined,
              liquidMetal: asked.liquidMetal,
              noBoot: asked.noBoot,
            },
          },
          signal,
        }),
      ),
  });
}

/** Begins a plan, or lays it aside. */
export function useRepairActions(jobId: string) {
  const cache = useQueryClient();
  const keep = (sheet: JobSheet) => {
    cache.setQueryData(["job", jobId], sheet);
    return sheet;
  };
  return {
    begin: async (asked: PlanAsked) =>
      keep(
        await call(() =>
          client.POST("/api/jobs/{id}/plans", {
            params: { path: { id: jobId } },
            body: {
              acts: asked.acts ? [...asked.acts] : null,
              liquidMetal: asked.liquidMetal ?? false,
              noBoot: asked.noBoot ?? false,
            },
          }),
        ),
      ),
    layAside: async (number: number) =>
      keep(
        await call(() => client.DELETE("/api/jobs/{id}/plans/{number}", { params: { path: { id: jobId, number } } })),
      ),
  };
}
