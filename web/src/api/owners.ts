import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { tell } from "../parts/told";
import { call, client, type Schemas } from "./client";

export type Owner = Schemas["OwnerAnswer"];

/** Owners by a part of name or contact, for a lead. */
export const useOwners = (q: string) =>
  useQuery({
    queryKey: ["owners", q.trim()],
    queryFn: ({ signal }) => call(() => client.GET("/api/owners", { params: { query: { q: q.trim() } }, signal })),
    enabled: q.trim() !== "",
  });

/** Where all that is kept of jobs can be fetched. */
export const ownersFile = (jobs: string[]) =>
  `/api/owners/file?${new URLSearchParams(jobs.map((job) => ["jobs", job])).toString()}`;

export function useErase() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: (jobs: string[]) => call(() => client.POST("/api/owners/erasure", { body: { jobs } })),
    onSuccess: (erased) => {
      for (const bill of erased.keptBills) {
        tell(`${bill.number} still names the owner: bills are kept until ${bill.until}.`);
      }
      void cache.invalidateQueries();
    },
  });
}
