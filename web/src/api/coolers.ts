import { keepPreviousData, useQuery } from "@tanstack/react-query";
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

/** The workshop's coolers held against a job's machine; the last answer stays while the next is on its way. */
export function useCoolers(jobId: string | null, what: WhatIf) {
  return useQuery({
    queryKey: ["coolers", jobId, what],
    enabled: jobId !== null,
    staleTime: 30_000,
    retry: false,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      call(() =>
        client.GET("/api/jobs/{id}/coolers", { params: { path: { id: jobId! }, query: { ...what } }, signal }),
      ),
  });
}
