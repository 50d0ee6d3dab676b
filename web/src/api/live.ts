import { HubConnectionBuilder, LogLevel, type HubConnection } from "@microsoft/signalr";
import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { baysKey, joined, traceKey, type Bay, type BayTrace } from "./bays";

interface News {
  bay: Bay;
  fresh: BayTrace | null;
}

const tryAgainAfter = 2000;

/** What a page shows of a bay beside its readings; those come many times a second, and this seldom changes. */
const face = (bay: Bay) => JSON.stringify({ ...bay, acknowledged: 0, lastSeenAt: null });

/** Puts news into what the page knows of the bays; what it cannot join it asks for anew. */
export function takeIn(cache: QueryClient, news: readonly News[]) {
  const newest = new Map(news.map((one) => [one.bay.id, one.bay]));
  const bays = cache.getQueryData<Bay[]>(baysKey);
  if (bays?.some((bay) => newest.has(bay.id) && face(newest.get(bay.id)!) !== face(bay))) {
    cache.setQueryData<Bay[]>(
      baysKey,
      bays.map((bay) => newest.get(bay.id) ?? bay),
    );
  }
  if (bays && news.some((one) => bays.every((bay) => bay.id !== one.bay.id))) {
    void cache.invalidateQueries({ queryKey: baysKey });
  }
  for (const { bay, fresh } of news) {
    const key = traceKey(bay.id, bay.stream);
    const before = cache.getQueryData<BayTrace>(key);
    if (fresh && before) {
      const both = joined(before, fresh);
      if (both) {
        cache.setQueryData(key, both);
      } else {
        void cache.invalidateQueries({ queryKey: key });
      }
    }
  }
}

/** Follows all bays as long as the page is open; after a break it looks at everything anew. */
export function useLiveBays() {
  const cache = useQueryClient();
  useEffect(() => {
    const live: HubConnection = new HubConnectionBuilder().withUrl("/live").configureLogging(LogLevel.None).build();
    let over = false;
    live.on("bays", (news: News[]) => takeIn(cache, news));
    const connect = async () => {
      while (!over) {
        try {
          await live.start();
          void cache.invalidateQueries({ queryKey: baysKey });
          void cache.invalidateQueries({ queryKey: ["bay-trace"] });
          return;
        } catch {
          await new Promise((resolve) => setTimeout(resolve, tryAgainAfter));
        }
      }
    };
    live.onclose(() => void (over || connect()));
    void connect();
    return () => {
      over = true;
      void live.stop();
    };
  }, [cache]);
}
