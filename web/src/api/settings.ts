import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";

export type Settings = Schemas["WorkshopSettings"];

const key = ["settings"] as const;

/** What the workshop asks for its work, and how it weighs coolers. */
export function useSettings() {
  return useQuery({ queryKey: key, staleTime: 60_000, queryFn: () => call(() => client.GET("/api/settings")) });
}

export function useSaveSettings() {
  const cache = useQueryClient();
  return async (body: Settings) => {
    cache.setQueryData(key, await call(() => client.PUT("/api/settings", { body })));
    await cache.invalidateQueries({ queryKey: ["coolers"] });
  };
}
