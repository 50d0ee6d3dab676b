import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";

export type Part = Schemas["PartAnswer"];

const key = ["parts"] as const;

/** The workshop's own parts, by kind and name. */
export function useParts() {
  return useQuery({ queryKey: key, staleTime: 60_000, queryFn: () => call(() => client.GET("/api/parts")) });
}

export function usePartActions() {
  const cache = useQueryClient();
  return {
    /** Keeps a part; one that somebody else has kept meanwhile is there as well. */
    keep: (body: Schemas["NewPart"]) =>
      call(() => client.POST("/api/parts", { body })).finally(() => cache.invalidateQueries({ queryKey: key })),
  };
}
