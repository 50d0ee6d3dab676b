import { at } from "./base";
import { useQuery } from "@tanstack/react-query";
import { call, client, type Schemas } from "./client";

export type MachineDue = Schemas["MachineDue"];

/** Days on which a machine should be looked at again, each with why. */
export function useRecheckProposals(id: string, lastEventId: number) {
  return useQuery({
    queryKey: ["rechecks", id, lastEventId],
    queryFn: () => call(() => client.GET("/api/jobs/{id}/recheck", { params: { path: { id } } })),
  });
}

/** Machines that should come back soon, or should have. */
export function useMachinesDue() {
  return useQuery({
    queryKey: ["jobs", "due"],
    staleTime: 60_000,
    queryFn: () => call(() => client.GET("/api/jobs/due")),
  });
}

/** Where the recheck can be fetched for a calendar. */
export const recheckCalendar = (id: string) => at(`/api/jobs/${id}/recheck.ics`);
