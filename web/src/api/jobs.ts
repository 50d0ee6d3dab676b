import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { call, client, type JobSheet, type JobTag, type RunConditions, type Schemas, type Trace } from "./client";
import type { FieldName } from "./jobFields";
import { sendPhoto } from "./upload";

const keys = {
  list: (search: string) => ["jobs", search] as const,
  job: (id: string) => ["job", id] as const,
  history: (id: string) => ["history", id] as const,
};

/** How often a page looks for what others changed, ms. */
const lookAgain = 4000;
const whileImporting = 400;

/** Machines in the workshop, then those that left last, and more of them page by page. */
export function useJobList(search: string) {
  return useInfiniteQuery({
    queryKey: keys.list(search),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page: TagPage) => page.next,
    queryFn: ({ signal, pageParam: after }): Promise<TagPage> =>
      call(async () => {
        const query = { ...(search ? { search } : {}), ...(after ? { after } : {}) };
        const answer = await client.GET("/api/jobs", { params: { query }, signal });
        const next = /[?&]after=([^&>]+)/.exec(answer.response.headers.get("Link") ?? "")?.[1];
        return { ...answer, data: { tags: answer.data ?? [], next } };
      }),
    select: ({ pages }) => {
      const all = pages.flatMap((page) => page.tags);
      // A machine that moved between two pages is there twice until both are read again.
      return all.filter((tag, at) => all.findIndex((one) => one.id === tag.id) === at);
    },
    placeholderData: keepPreviousData,
    refetchInterval: lookAgain,
  });
}

type TagPage = { tags: readonly JobTag[]; next: string | undefined };

export function useJob(id: string | undefined) {
  return useQuery({
    enabled: id !== undefined,
    queryKey: keys.job(id ?? ""),
    queryFn: () => call(() => client.GET("/api/jobs/{id}", { params: { path: { id: id! } } })),
    refetchInterval: (query) =>
      query.state.data?.imports.some((i) => i.state !== "failed") ? whileImporting : lookAgain,
  });
}

/** What has happened to a job, the latest first, page by page; asked for anew with each change of the job. */
export function useHistory(id: string, lastEventId: number, enabled: boolean) {
  return useInfiniteQuery({
    queryKey: [...keys.history(id), lastEventId],
    enabled,
    placeholderData: keepPreviousData,
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page: Schemas["HistoryPage"]) => page.before ?? undefined,
    queryFn: ({ pageParam }): Promise<Schemas["HistoryPage"]> =>
      call(() =>
        client.GET("/api/jobs/{id}/history", {
          params: { path: { id }, query: pageParam === undefined ? {} : { before: pageParam } },
        }),
      ),
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

const lastEvent = (sheet: JobSheet) => sheet.lastEventId;

/** Changes that a job's server has not answered yet. */
const onTheirWay = new Map<string, Set<Promise<unknown>>>();

function underWay<T>(id: string, change: Promise<T>): Promise<T> {
  const all = onTheirWay.get(id) ?? new Set();
  onTheirWay.set(id, all.add(change));
  const done = () => void all.delete(change);
  change.then(done, done);
  return change;
}

/** What changes a job; each puts the server's new sheet into the cache. */
export function useJobActions(id: string) {
  const cache = useQueryClient();
  const keep = async (sheet: JobSheet) => {
    await cache.cancelQueries({ queryKey: keys.job(id) });
    // Answers may overtake each other: an older sheet never covers a newer one.
    cache.setQueryData<JobSheet>(keys.job(id), (now) => (now && lastEvent(now) > lastEvent(sheet) ? now : sheet));
    void cache.invalidateQueries({ queryKey: ["jobs"] });
    return sheet;
  };
  /** Changes a run as it was seen, or as what was changed on this page a moment before has left it: nobody is in his own way. */
  const onRun = (runId: string, seen: number, change: (version: number) => Promise<JobSheet>) => {
    const before = [...(onTheirWay.get(id) ?? [])];
    const left = () => cache.getQueryData<JobSheet>(keys.job(id))?.runs.find((run) => run.id === runId)?.version;
    return underWay(
      id,
      Promise.allSettled(before)
        .then(() => change(before.length > 0 ? (left() ?? seen) : seen))
        .then(keep),
    );
  };
  return {
    saveField: (
      field: FieldName | `evidence.${string}` | `plan.${number}.${string}` | "choice",
      value: unknown,
      base: unknown,
    ) =>
      underWay(
        id,
        call(() =>
          client.PATCH("/api/jobs/{id}/fields/{field}", { params: { path: { id, field } }, body: { value, base } }),
        ).then(keep),
      ),
    /** The last change that stands: the one that is still on its way to the server, if there is one. */
    lastChange: async () => {
      await Promise.allSettled(onTheirWay.get(id) ?? []);
      return cache.getQueryData<JobSheet>(keys.job(id))?.lastChange ?? undefined;
    },
    /** Takes a change back, or puts back what was taken back. */
    turn: async (eventId: number) => {
      await Promise.allSettled(onTheirWay.get(id) ?? []);
      const sheet = await call(() =>
        client.POST("/api/jobs/{id}/undo/{eventId}", { params: { path: { id, eventId } } }),
      );
      await cache.invalidateQueries({ queryKey: keys.history(id) });
      return keep(sheet);
    },
    addSetup: async (setup: Schemas["NewSetup"]) =>
      keep(await call(() => client.POST("/api/jobs/{id}/setups", { params: { path: { id } }, body: setup }))),
    addMount: async (setup: number, mountedAt?: string) =>
      keep(
        await call(() =>
          client.POST("/api/jobs/{id}/setups/{number}/mounts", {
            params: { path: { id, number: setup } },
            body: { mountedAt },
          }),
        ),
      ),
    openRound: async (reason: string) =>
      keep(await call(() => client.POST("/api/jobs/{id}/rounds", { params: { path: { id } }, body: { reason } }))),
    moveRun: (runId: string, mountId: string, seen: number) =>
      onRun(runId, seen, (version) =>
        call(() => client.PUT("/api/runs/{id}/mount", { params: { path: { id: runId } }, body: { mountId, version } })),
      ),
    setConditions: (runId: string, conditions: RunConditions, version: number) =>
      underWay(
        id,
        call(() =>
          client.PUT("/api/runs/{id}/conditions", { params: { path: { id: runId } }, body: { conditions, version } }),
        ).then(keep),
      ),
    setMarks: (runId: string, marks: Schemas["RunMark"][], seen: number) =>
      onRun(runId, seen, (version) =>
        call(() => client.PUT("/api/runs/{id}/marks", { params: { path: { id: runId } }, body: { marks, version } })),
      ),
    leaveRunOut: (runId: string, reason: string | null, seen: number) =>
      onRun(runId, seen, (version) =>
        call(() =>
          client.PUT("/api/runs/{id}/left-out", { params: { path: { id: runId } }, body: { reason, version } }),
        ),
      ),
    setImportRole: async (importId: string, column: number, role: string) => {
      await call(() =>
        client.PUT("/api/imports/{id}/columns/{column}/role", {
          params: { path: { id: importId, column } },
          body: { role },
        }),
      );
      await cache.invalidateQueries({ queryKey: keys.job(id) });
    },
    setRole: (runId: string, column: number, role: string, seen: number) =>
      onRun(runId, seen, (version) =>
        call(() =>
          client.PUT("/api/runs/{id}/columns/{column}/role", {
            params: { path: { id: runId, column } },
            body: { role, version },
          }),
        ),
      ),
    takeOver: async (earlier: string) =>
      keep(await call(() => client.POST("/api/jobs/{id}/take-over/{earlier}", { params: { path: { id, earlier } } }))),
    addPhoto: async (kind: "photo" | "proof", file: File) => keep(await sendPhoto(id, kind, file)),
    setPhotoKind: async (photo: string, kind: "photo" | "proof") =>
      keep(
        await call(() =>
          client.PUT("/api/jobs/{id}/photos/{photo}/kind", { params: { path: { id, photo } }, body: { kind } }),
        ),
      ),
    removePhoto: async (photo: string) =>
      keep(await call(() => client.DELETE("/api/jobs/{id}/photos/{photo}", { params: { path: { id, photo } } }))),
    removeRun: async (runId: string) =>
      keep(await call(() => client.DELETE("/api/runs/{id}", { params: { path: { id: runId } } }))),
    stopImport: async (importId: string) => {
      await call(() => client.DELETE("/api/imports/{id}", { params: { path: { id: importId } } }));
      await cache.invalidateQueries({ queryKey: keys.job(id) });
    },
    /** Looks at the sheet anew. */
    refresh: async () => {
      await cache.invalidateQueries({ queryKey: keys.job(id) });
      return cache.getQueryData<JobSheet>(keys.job(id));
    },
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

/** The columns of a log that could not be read. */
export function useImportColumns(importId: string) {
  return useQuery({
    queryKey: ["import-columns", importId],
    retry: false,
    queryFn: () => call(() => client.GET("/api/imports/{id}/columns", { params: { path: { id: importId } } })),
  });
}

/** A stretch of a run to be fetched: which columns, whether with the cores' band, and from when to when (s since its first row; all without). */
export interface TraceWanted {
  runId: string;
  version: number;
  columns: readonly number[];
  cores: boolean;
  range?: { from: number; to: number };
}

function traceQuery({ runId, version, columns, cores, range }: TraceWanted) {
  return {
    queryKey: ["trace", runId, version, columns.join(), cores, range?.from, range?.to],
    staleTime: Infinity,
    structuralSharing: false,
    placeholderData: keepPreviousData,
    queryFn: () =>
      call(() =>
        client.GET("/api/runs/{id}/trace", {
          params: { path: { id: runId }, query: { points: 1500, columns: [...columns], cores, ...(range ?? {}) } },
        }),
      ),
  };
}

/** A run's trace between two times; the server picks how fine. */
export function useTrace(runId: string | undefined, version: number | undefined) {
  return useQuery({
    ...traceQuery({ runId: runId ?? "", version: version ?? 0, columns: [], cores: false }),
    enabled: runId !== undefined,
  });
}

const answersOf = (results: { data?: Trace; error: Error | null }[]) => ({
  traces: results.map((one) => one.data),
  error: results.find((one) => one.error)?.error ?? null,
});

/** Several traces at once, in the order that they were asked for. */
export function useTraces(wanted: readonly TraceWanted[]) {
  return useQueries({ queries: wanted.map(traceQuery), combine: answersOf });
}

/** The line that the fit draws through a run; fetched only when it is to be seen. */
export function useFit(runId: string | undefined, version: number | undefined, enabled: boolean) {
  return useQuery({
    queryKey: ["fit", runId, version],
    enabled: enabled && runId !== undefined,
    staleTime: Infinity,
    retry: false,
    queryFn: () => call(() => client.GET("/api/runs/{id}/fit", { params: { path: { id: runId! } } })),
  });
}
