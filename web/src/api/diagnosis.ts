import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { call, client, type JobSheet, type Schemas } from "./client";

export type JobDiagnosis = Schemas["JobDiagnosis"];
export type JobCause = Schemas["JobCause"];
export type JobCheck = Schemas["JobCheck"];
export type JobObservation = Schemas["JobObservation"];

/** What is wrong and what to check next; reckoned anew when the job or one of its runs changes. */
export function useDiagnosis(job: JobSheet) {
  return useQuery({
    queryKey: ["diagnosis", job.id, job.version, ...job.runs.map((run) => `${run.id} ${run.version}`)],
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: () => call(() => client.GET("/api/jobs/{id}/diagnosis", { params: { path: { id: job.id } } })),
  });
}
