import { useQuery, useQueryClient } from "@tanstack/react-query";
import { call, client, getSession, type Schemas } from "./client";
import { send } from "./upload";

export type Settings = Schemas["WorkshopSettings"];

const key = ["settings"] as const;

/** What the workshop is called, asks for its work, and how it weighs coolers. */
export function useSettings() {
  return useQuery({ queryKey: key, staleTime: 10_000, queryFn: () => call(() => client.GET("/api/settings")) });
}

/** Settings are saved one after the other, so that no answer overtakes another and brings back what that has changed. */
let last: Promise<unknown> = Promise.resolve();

function inTurn<T>(save: () => Promise<T>): Promise<T> {
  const mine = last.then(save, save);
  last = mine;
  return mine;
}

/** Saves one setting on top of the value that it was changed from. */
export function useSaveSetting() {
  const cache = useQueryClient();
  return async <F extends keyof Settings>(field: F, value: Settings[F], base: Settings[F]) => {
    cache.setQueryData(
      key,
      await inTurn(() =>
        call(() => client.PATCH("/api/settings/{field}", { params: { path: { field } }, body: { value, base } })),
      ),
    );
    await getSession(true);
    // Other degrees stand in every sentence.
    await (field === "temperatureUnit"
      ? cache.invalidateQueries()
      : Promise.all(["coolers", "session", "jobs"].map((name) => cache.invalidateQueries({ queryKey: [name] }))));
  };
}

/** Sets or takes away the picture at the head of what leaves the workshop. */
export function useLogo() {
  const cache = useQueryClient();
  const keep = (settings: Settings) => cache.setQueryData(key, settings);
  return {
    set: async (file: File) => keep(await send<Settings>("/api/settings/logo", {}, file)),
    remove: async () => keep(await call(() => client.DELETE("/api/settings/logo"))),
  };
}

/** The time zones that the server knows. */
export function useTimeZones() {
  return useQuery({
    queryKey: ["time-zones"],
    staleTime: Infinity,
    queryFn: () => call(() => client.GET("/api/settings/time-zones")),
  });
}
