import { useQuery } from "@tanstack/react-query";
import { Problem } from "./client";

interface Health {
  status: string;
  sentence: string | null;
  figures: Record<string, number>;
}

/** How the server, its database, its files and its background work are. */
export function useHealth() {
  return useQuery({
    queryKey: ["health"],
    refetchInterval: 10_000,
    queryFn: async ({ signal }) => {
      const answer = await fetch("/health", { signal }).catch(() => undefined);
      const health = (await answer?.json().catch(() => undefined)) as Health | undefined;
      if (!health) {
        throw new Problem(0, "The server does not answer.");
      }
      return health;
    },
  });
}
