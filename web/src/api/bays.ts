import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";

export type Bay = Schemas["BayAnswer"];
export type BayTrace = Schemas["BayTrace"];
export type RunVariant = Schemas["RunVariant"];

const everySecond = 1000;

/** How many of the last readings a bay's picture shows. */
const shown = 1800;

export function useBays() {
  return useQuery({
    queryKey: ["bays"],
    queryFn: () => call(() => client.GET("/api/bays")),
    refetchInterval: everySecond,
  });
}

export function useVariants() {
  return useQuery({
    queryKey: ["variants"],
    staleTime: Infinity,
    queryFn: () => call(() => client.GET("/api/bays/variants")),
  });
}

/** The last half hour of a bay; only what is new is fetched. */
export function useBayTrace(bay: Bay) {
  const cache = useQueryClient();
  const key = ["bay-trace", bay.id, bay.stream];
  return useQuery({
    queryKey: key,
    enabled: bay.stream !== null,
    refetchInterval: everySecond,
    structuralSharing: false,
    queryFn: async () => {
      const before = cache.getQueryData<BayTrace>(key);
      const after = before ? before.fromSequence + before.seconds.length - 1 : undefined;
      const fresh = await call(() =>
        client.GET("/api/bays/{id}/readings", {
          params: { path: { id: bay.id }, query: { most: shown, ...(after ? { after } : {}) } },
        }),
      );
      return before ? joined(before, fresh) : fresh;
    },
  });
}

/** Two stretches of a bay's readings as one, as long as a picture needs; the later alone when they do not meet. */
export function joined(before: BayTrace, fresh: BayTrace): BayTrace {
  if (fresh.seconds.length === 0) {
    return before;
  }
  const next = before.fromSequence + before.seconds.length;
  if (fresh.fromSequence !== next) {
    return fresh;
  }
  const seconds = [...before.seconds, ...fresh.seconds];
  const drop = Math.max(0, seconds.length - shown);
  const roles = new Set([...Object.keys(before.channels), ...Object.keys(fresh.channels)]);
  const gap = (length: number) => Array.from({ length }, () => null);
  return {
    fromSequence: before.fromSequence + drop,
    seconds: seconds.slice(drop),
    channels: Object.fromEntries(
      [...roles].map((role) => [
        role,
        [
          ...(before.channels[role] ?? gap(before.seconds.length)),
          ...(fresh.channels[role] ?? gap(fresh.seconds.length)),
        ].slice(drop),
      ]),
    ),
  };
}

/** What a person does with bays; each looks at all of them anew. */
export function useBayActions() {
  const cache = useQueryClient();
  const look = () => cache.invalidateQueries({ queryKey: ["bays"] });
  return {
    add: async () => {
      await call(() => client.POST("/api/bays"));
      await look();
    },
    start: async (id: string, run: Schemas["StartRun"]) => {
      await call(() => client.PUT("/api/bays/{id}/run", { params: { path: { id } }, body: run }));
      await look();
    },
    stop: async (id: string) => {
      await call(() => client.DELETE("/api/bays/{id}/run", { params: { path: { id } } }));
      await look();
    },
  };
}
