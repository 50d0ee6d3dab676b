import { at } from "./base";
import {
  HttpTransportType,
  HubConnectionBuilder,
  HubConnectionState,
  LogLevel,
  type HubConnection,
} from "@microsoft/signalr";
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { baysKey, cameMeanwhile, joined, traceKey, type Bay, type BayTrace } from "./bays";
import { planKey } from "./planning";

interface News {
  bay: Bay;
  fresh: BayTrace | null;
}

const tryAgainAfter = 2000;

/** How a bay stands, without what changes with every reading. */
const face = (bay: Bay) =>
  JSON.stringify({
    ...bay,
    revision: 0,
    acknowledged: 0,
    lastSeenAt: null,
    run: bay.run && { ...bay.run, says: "", secondsLeft: null },
  });

/** What of a bay the plan of the day hangs on. */
const hangsOn = (bay: Bay) => `${bay.run?.jobId} ${bay.run?.stage}`;

/** The words and the time left change many times a second, and are read once. */
const readAgainAfter = 1000;
const readAt = new Map<string, number>();

function isNews(before: Bay, now: Bay) {
  const moved = face(before) !== face(now);
  const due = Date.now() - (readAt.get(now.id) ?? 0) >= readAgainAfter;
  if (moved || due) {
    readAt.set(now.id, Date.now());
  }
  return moved || (due && (before.run?.says !== now.run?.says || before.run?.secondsLeft !== now.run?.secondsLeft));
}

/** Puts news into what the page knows of the bays; what it cannot join it asks for, once. */
export function takeIn(cache: QueryClient, news: readonly News[]) {
  const newest = new Map<string, Bay>();
  for (const { bay } of news) {
    if (bay.revision >= (newest.get(bay.id)?.revision ?? 0)) {
      newest.set(bay.id, bay);
    }
  }
  const bays = cache.getQueryData<Bay[]>(baysKey);
  if (bays) {
    const now = bays.map((bay) => {
      const told = newest.get(bay.id);
      // By way of another server, an older word may come after a newer one.
      return told && told.revision >= bay.revision && isNews(bay, told) ? told : bay;
    });
    if (now.some((bay, i) => bay !== bays[i])) {
      cache.setQueryData<Bay[]>(baysKey, now);
      if (now.some((bay, i) => hangsOn(bay) !== hangsOn(bays[i]!))) {
        // The day is planned anew: a bay is free, or wants a hand.
        void cache.invalidateQueries({ queryKey: planKey }, { cancelRefetch: false });
      }
    }
    if (news.some((one) => bays.every((bay) => bay.id !== one.bay.id))) {
      void cache.invalidateQueries({ queryKey: baysKey }, { cancelRefetch: false });
    }
  }
  for (const { bay, fresh } of news) {
    if (fresh) {
      takeReadings(cache, bay, fresh);
    }
  }
}

function takeReadings(cache: QueryClient, bay: Bay, fresh: BayTrace) {
  const key = traceKey(bay.id, bay.stream);
  const state = cache.getQueryState<BayTrace>(key);
  if (state?.fetchStatus === "fetching") {
    // The answer is on its way and may not hold these: they are joined to it when it is there.
    cameMeanwhile(key, fresh);
  }
  if (state?.data) {
    const both = joined(state.data, fresh);
    if (both) {
      cache.setQueryData(key, both);
    } else if (state.fetchStatus !== "fetching") {
      cameMeanwhile(key, fresh);
      void cache.invalidateQueries({ queryKey: key }, { cancelRefetch: false });
    }
  }
}

/** Which bays are on this page, by whoever shows them. */
const watched = new Map<symbol, readonly string[]>();
let connection: HubConnection | undefined;

function watch() {
  if (connection?.state === HubConnectionState.Connected) {
    connection.invoke("Watch", [...new Set([...watched.values()].flat())]).catch(() => undefined);
  }
}

/** Has the readings of these bays sent to this page, as long as it shows them. */
export function useWatched(bays: readonly string[]) {
  const ids = bays.join();
  useEffect(() => {
    const me = Symbol("watcher");
    watched.set(me, ids === "" ? [] : ids.split(","));
    watch();
    return () => {
      watched.delete(me);
      watch();
    };
  }, [ids]);
}

/** Follows all bays as long as the page is open; after a break it looks at everything anew. */
export function useLiveBays() {
  const cache = useQueryClient();
  useEffect(() => {
    const live = new HubConnectionBuilder()
      // At once, without asking first: the answer to that may come from another server than the one that is asked next.
      .withUrl(at("/live"), { transport: HttpTransportType.WebSockets, skipNegotiation: true })
      .withAutomaticReconnect({ nextRetryDelayInMilliseconds: () => tryAgainAfter })
      .configureLogging(LogLevel.None)
      .build();
    connection = live;
    let over = false;
    live.on("bays", (news: News[]) => takeIn(cache, news));
    const lookAnew = () => {
      watch();
      void cache.invalidateQueries({ queryKey: baysKey });
      void cache.invalidateQueries({ queryKey: ["bay-trace"] });
    };
    const connect = async () => {
      while (!over) {
        try {
          await live.start();
          return lookAnew();
        } catch {
          await new Promise((resolve) => setTimeout(resolve, tryAgainAfter));
        }
      }
    };
    live.onreconnected(lookAnew);
    void connect();
    return () => {
      over = true;
      void live.stop();
    };
  }, [cache]);
}
