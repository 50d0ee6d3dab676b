import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type JobFieldValues, type JobSheet, type RunConditions } from "./client";

const keys = {
  list: (search: string) => ["jobs", search] as const,
  job: (id: string) => ["job", id] as const,
};

/** How often a page looks for what others changed, ms. */
const lookAgain = 4000;
const whileImporting = 400;

export function useJobList(search: string) {
  return useQuery({
    queryKey: keys.list(search),
    queryFn: () => call(() => client.GET("/api/jobs", { params: { query: search ? { search } : {} } })),
    placeholderData: keepPreviousData,
    refetchInterval: lookAgain,
  });
}

export function useJob(id: string) {
  return useQuery({
    queryKey: keys.job(id),
    queryFn: () => call(() => client.GET("/api/jobs/{id}", { params: { path: { id } } })),
    refetchInterval: (query) =>
      query.state.data?.imports.some((i) => i.state !== "failed") ? whileImporting : lookAgain,
  });
}

export function useCreateJob() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => call(() => client.POST("/api/jobs")),
    onSuccess: (sheet) => {
      cache.setQueryData(keys.job(sheet.id), sheet);
      void cache.invalidateQueries({ queryKey: ["jobs"] });
    },
  });
}

/** What changes a job; each puts the server's new sheet into the cache. */
export function useJobActions(id: string) {
  const cache = useQueryClient();
  const keep = async (sheet: JobSheet) => {
    await cache.cancelQueries({ queryKey: keys.job(id) });
    cache.setQueryData(keys.job(id), sheet);
    void cache.invalidateQueries({ queryKey: ["jobs"] });
    return sheet;
  };
  return {
    saveField: async (field: keyof JobFieldValues, value: unknown, base: unknown) =>
      keep(
        await call(() =>
          client.PATCH("/api/jobs/{id}/fields/{field}", { params: { path: { id, field } }, body: { value, base } }),
        ),
      ),
    undo: async (eventId: number) =>
      keep(await call(() => client.POST("/api/jobs/{id}/undo/{eventId}", { params: { path: { id, eventId } } }))),
    setConditions: async (runId: string, conditions: RunConditions, version: number) =>
      keep(
        await call(() =>
          client.PUT("/api/runs/{id}/conditions", { params: { path: { id: runId } }, body: { conditions, version } }),
        ),
      ),
    setRole: async (runId: string, column: number, role: string, version: number) =>
      keep(
        await call(() =>
          client.PUT("/api/runs/{id}/columns/{column}/role", {
            params: { path: { id: runId, column } },
            body: { role, version },
          }),
        ),
      ),
    removeRun: async (runId: string) =>
      keep(await call(() => client.DELETE("/api/runs/{id}", { params: { path: { id: runId } } }))),
    stopImport: async (importId: string) => {
      await call(() => client.DELETE("/api/imports/{id}", { params: { path: { id: importId } } }));
      await cache.invalidateQueries({ queryKey: keys.job(id) });
    },
    refresh: () => cache.invalidateQueries({ queryKey: keys.job(id) }),
  };
}
export type JobActions = ReturnType<typeof useJobActions>;

/** The columns of a run's log, as they are taken at this version of the run. */
export function useColumns(runId: string, version: number) {
  return useQuery({
    queryKey: ["columns", runId, version],
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: () => call(() => client.GET("/api/runs/{id}/columns", { params: { path: { id: runId } } })),
  });
}

/** A run's trace between two times; the server picks how fine. */
export function useTrace(runId: string | undefined, version: number | undefined, range?: { from: number; to: number }) {
  return useQuery({
    queryKey: ["trace", runId, version, range?.from, range?.to],
    enabled: runId !== undefined,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
    queryFn: () =>
      call(() =>
        client.GET("/api/runs/{id}/trace", {
          params: { path: { id: runId! }, query: { points: 1500, ...(range ?? {}) } },
        }),
      ),
  });
}
