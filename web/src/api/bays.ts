import { useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { call, client, type Schemas } from "./client";

export type Bay = Schemas["BayAnswer"];
export type BayTrace = Schemas["BayTrace"];
export type RunVariant = Schemas["RunVariant"];
export type BenchHands = Schemas["BenchHands"];

/** Bays tell by themselves what changes; this is how often one looks all the same, for those that fall silent. */
const lookAgain = 4000;

/** How many of the last readings a bay's picture shows. */
const shown = 1800;

export const baysKey = ["bays"] as const;
export const traceKey = (bay: string, stream: string | null | undefined) => ["bay-trace", bay, stream] as const;

/** Readings that came while an answer was on its way, by the key of what was asked. */
const meanwhile = new Map<string, BayTrace[]>();

export function cameMeanwhile(key: readonly unknown[], fresh: BayTrace) {
  const id = key.join();
  meanwhile.set(id, [...(meanwhile.get(id) ?? []), fresh].slice(-200));
}

/** An answer with what came while it was on its way. */
export function withMeanwhile(key: readonly unknown[], answer: BayTrace): BayTrace {
  const id = key.join();
  const all = meanwhile.get(id) ?? [];
  meanwhile.delete(id);
  return all.reduce((trace, fresh) => joined(trace, fresh) ?? trace, answer);
}

export function useBays() {
  return useQuery({
    queryKey: baysKey,
    queryFn: () => call(() => client.GET("/api/bays")),
    refetchInterval: lookAgain,
  });
}

/** How a machine can be run, what loads it can make, and what stands beside the simulated rig. */
export function useBayChoices() {
  return useQuery({
    queryKey: ["bay-choices"],
    staleTime: Infinity,
    queryFn: () => call(() => client.GET("/api/bays/choices")),
  });
}

/** Of the last half hour of a bay, fetched once, what `pick` makes of it; what is new comes by itself. */
export function useBayTrace<T>(bay: Bay, pick: (trace: BayTrace) => T) {
  return useQuery({
    queryKey: traceKey(bay.id, bay.stream),
    enabled: bay.stream !== null,
    staleTime: Infinity,
    structuralSharing: false,
    select: pick,
    queryFn: async ({ signal, queryKey }) =>
      withMeanwhile(
        queryKey,
        await call(() =>
          client.GET("/api/bays/{id}/readings", { params: { path: { id: bay.id }, query: { most: shown } }, signal }),
        ),
      ),
  });
}

/** How often a picture is drawn anew, ms: neither a line nor a number is read faster by an eye. */
const drawnEvery = 1000;

/** What is here of the last half hour, looked at once a second; each bay at its own moment of it, so that a full bench is not drawn all at once. */
export function useBayTraceEachSecond(bay: Bay) {
  const cache = useQueryClient();
  const [trace, setTrace] = useState<BayTrace>();
  useEffect(() => {
    const look = () => setTrace(cache.getQueryData<BayTrace>(traceKey(bay.id, bay.stream)));
    look();
    let again = setTimeout(
      () => {
        look();
        again = setInterval(look, drawnEvery);
      },
      drawnEvery * ((0.618 * bay.number) % 1),
    );
    return () => {
      clearTimeout(again);
      clearInterval(again);
    };
  }, [cache, bay.id, bay.stream, bay.number]);
  return trace;
}

/** Two stretches of a bay's readings as one, as long as a picture needs; undefined when something is missing between them. */
export function joined(before: BayTrace, fresh: BayTrace): BayTrace | undefined {
  const next = before.fromSequence + before.seconds.length;
  // What is here already may come once more, when it was fetched meanwhile.
  const known = Math.min(next - fresh.fromSequence, fresh.seconds.length);
  if (known < 0 || before.seconds.length === 0) {
    return before.seconds.length === 0 ? fresh : undefined;
  }
  if (known === fresh.seconds.length) {
    return before;
  }
  const drop = Math.max(0, before.seconds.length + fresh.seconds.length - known - shown);
  const names = new Set([...Object.keys(before.channels), ...Object.keys(fresh.channels)]);
  const gap = (length: number) => Array.from({ length }, () => null);
  const put = <T>(old: readonly T[], more: readonly T[]) => old.slice(drop).concat(more.slice(known));
  return {
    fromSequence: before.fromSequence + drop,
    seconds: put(before.seconds, fresh.seconds),
    channels: Object.fromEntries(
      [...names].map((name) => [
        name,
        put(before.channels[name] ?? gap(before.seconds.length), fresh.channels[name] ?? gap(fresh.seconds.length)),
      ]),
    ),
  };
}

/** The last reading of a channel that is one. */
export function latest(trace: BayTrace | undefined, channel: string): number | undefined {
  const values = trace?.channels[channel];
  for (let i = (values?.length ?? 0) - 1; i >= 0; i--) {
    const value = values![i];
    if (value != null) {
      return value;
    }
  }
  return undefined;
}

/** The chip's temperature as it is read off, °C: the package's, else a core's, else the one the fans follow. */
export function chipC(trace: BayTrace | undefined): number | undefined {
  const chip =
    latest(trace, "cpu-temperature") ?? latest(trace, "core-temperature") ?? latest(trace, "cpu-control-temperature");
  return chip === undefined ? undefined : Math.round(chip);
}

/** What a person does with a bay; each answer is the bay as it is then. */
export function useBayActions() {
  const cache = useQueryClient();
  return useMemo(() => actionsOn(cache), [cache]);
}

function actionsOn(cache: QueryClient) {
  const show = async (change: Promise<Bay>) => {
    const bay = await change;
    cache.setQueryData<Bay[]>(baysKey, (bays) =>
      bays?.some((one) => one.id === bay.id)
        ? bays.map((one) => (one.id === bay.id ? bay : one))
        : [...(bays ?? []), bay],
    );
    return bay;
  };
  const of = (id: string) => ({ params: { path: { id } } });
  return {
    add: () => show(call(() => client.POST("/api/bays"))),
    start: (id: string, body: Schemas["StartRun"]) =>
      show(call(() => client.PUT("/api/bays/{id}/run", { ...of(id), body }))),
    stop: (id: string) => show(call(() => client.DELETE("/api/bays/{id}/run", of(id)))),
    goOn: (id: string) => show(call(() => client.POST("/api/bays/{id}/run/go-on", of(id)))),
    hold: (id: string, held: boolean) =>
      show(call(() => client.PUT("/api/bays/{id}/run/hold", { ...of(id), body: { held } }))),
    again: (id: string) => show(call(() => client.POST("/api/bays/{id}/run/again", of(id)))),
    readByHand: (id: string, body: Schemas["ReadByHand"]) =>
      show(call(() => client.POST("/api/bays/{id}/run/by-hand", { ...of(id), body }))),
    /** A new token for what stands in the bay; it is told this once. */
    makeToken: (id: string) => call(() => client.POST("/api/bays/{id}/token", of(id))),
    hands: (id: string, body: BenchHands) => show(call(() => client.PUT("/api/bays/{id}/hands", { ...of(id), body }))),
  };
}

export type BayActions = ReturnType<typeof useBayActions>;
