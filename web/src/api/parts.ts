import { at } from "./base";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, getSession, problemOf, type Schemas } from "./client";

export type Part = Schemas["PartAnswer"];
export type PartField = Schemas["PartField"];
export type PartImport = Schemas["PartImport"];

const key = ["parts"] as const;

/** The workshop's own parts, by kind and name. */
export function useParts() {
  return useQuery({ queryKey: key, staleTime: 60_000, queryFn: () => call(() => client.GET("/api/parts")) });
}

/** What can be known of each kind of part. */
export function usePartFields() {
  return useQuery({
    queryKey: ["part-fields"],
    staleTime: Infinity,
    queryFn: () => call(() => client.GET("/api/parts/fields")),
  });
}

/** Where a kind's parts, or all, can be fetched as a file. */
export const partFile = (kind: string | null, format: "csv" | "json") =>
  at(`/api/parts/file?format=${format}${kind === null ? "" : `&kind=${kind}`}`);

export function usePartActions() {
  const cache = useQueryClient();
  const refresh = () => cache.invalidateQueries({ queryKey: key });
  return {
    /** Keeps a part; one that somebody else has kept meanwhile is there as well. */
    keep: (body: Schemas["NewPart"]) => call(() => client.POST("/api/parts", { body })).finally(refresh),
    /** Keeps a part as it was typed: a new one, or a known one anew. */
    type: (id: string | null, body: Schemas["TypedPart"]) =>
      call(() =>
        id === null
          ? client.POST("/api/parts/typed", { body })
          : client.PUT("/api/parts/{id}", { params: { path: { id } }, body }),
      ).finally(refresh),
    retire: (id: string, retired: boolean) =>
      call(() => client.PUT("/api/parts/{id}/retired", { params: { path: { id }, query: { retired } } })).finally(
        refresh,
      ),
    /** Shows what a file would do, or does it: all of it or nothing. */
    takeFile: async (text: string, apply: boolean): Promise<PartImport> => {
      const send = async (anew: boolean) =>
        fetch(at(`/api/parts/file?apply=${apply}`), {
          method: "POST",
          headers: { "Content-Type": "text/plain", "X-Remedos-Token": (await getSession(anew)).token },
          body: text,
        });
      let answer = await send(false);
      if (answer.status === 400 && (await problemOf(answer)).more.type === "stale-page") {
        answer = await send(true);
      }
      if (!answer.ok) {
        throw await problemOf(answer);
      }
      await refresh();
      return (await answer.json()) as PartImport;
    },
  };
}
