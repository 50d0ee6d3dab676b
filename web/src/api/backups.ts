import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client } from "./client";

const key = ["backups"] as const;

/** How the backups that the server makes stand. */
export function useBackups() {
  return useQuery({ queryKey: key, refetchInterval: 30_000, queryFn: () => call(() => client.GET("/api/backups")) });
}

/** Has one made now. */
export function useMakeBackup() {
  const cache = useQueryClient();
  return useMutation({
    mutationFn: () => call(() => client.POST("/api/backups")),
    onSuccess: (made) => cache.setQueryData(key, made),
  });
}
