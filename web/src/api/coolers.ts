import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";

export type CoolerAnswer = Schemas["CoolerAnswer"];
export type Candidate = Schemas["Candidate"];

/** What would be otherwise; left out, it is as the job has it. */
export interface WhatIf {
  school?: string;
  roomC?: number;
  hottestRoomC?: number;
  memoryHeightMm?: number;
  sustainedPowerW?: number;
  maxNoiseDba?: number;
  maxPriceMinor?: number;
  caseFanRpm?: number;
}

/** A machine put together from parts of the library, by name. */
export interface ChosenParts {
  processor?: string;
  board?: string;
  memory?: string;
  graphics?: string;
  case?: string;
  cooler?: string;
}

/** The workshop's coolers held against a job's machine, or one put together from parts; the last answer stays while the next is on its way. */
export function useCoolers(jobId: string | null, parts: ChosenParts, what: WhatIf) {
  return useQuery({
    queryKey: ["coolers", jobId, parts, what],
    enabled: jobId !== null || parts.processor !== undefined,
    staleTime: 30_000,
    // Each step of a slider is an answer of its own: what is not looked at any more is soon forgotten.
    gcTime: 20_000,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      jobId !== null
        ? call(() =>
            client.GET("/api/jobs/{id}/coolers", { params: { path: { id: jobId }, query: { ...what } }, signal }),
          )
        : call(() => client.GET("/api/coolers", { params: { query: { ...parts, ...what } }, signal })),
  });
}

/** Lets what was measured on a job's machine go into the part; the parts and the coolers are asked anew. */
export function useKeepMeasure(jobId: string) {
  const cache = useQueryClient();
  return async (field: string) => {
    await call(() => client.POST("/api/jobs/{id}/measures/{field}/part", { params: { path: { id: jobId, field } } }));
    await Promise.all([
      cache.invalidateQueries({ queryKey: ["parts"] }),
      cache.invalidateQueries({ queryKey: ["coolers"] }),
    ]);
  };
}
