import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { call, client, type Schemas } from "./client";

export type OptionSheet = Schemas["OptionSheet"];
export type RepairOption = Schemas["RepairOption"];
export type OptionChoice = Schemas["OptionChoice"];

/** Everything that could be done to a job's machine; asked for anew with each change of the job. */
export function useOptions(jobId: string, lastEventId: number) {
  const cache = useQueryClient();
  useEffect(() => {
    void cache.invalidateQueries({ queryKey: ["options", jobId] });
  }, [cache, jobId, lastEventId]);
  return useQuery({
    queryKey: ["options", jobId],
    retry: false,
    queryFn: ({ signal }) =>
      call(() => client.GET("/api/jobs/{id}/options", { params: { path: { id: jobId } }, signal })),
  });
}

/** What is noted of an option that was chosen: the quote that was seen goes with it. */
export const choiceOf = (option: RepairOption, currency: string): OptionChoice => ({
  option: option.id,
  title: option.title,
  cooler: option.cooler ?? null,
  totalMinor: option.quote.totalMinor,
  currency,
  lines: option.quote.lines,
});
