import { useCallback, useEffect, useRef } from "react";

/** How long something has stood before the eyes, s; it stops while the page is hidden. */
export function useStopwatch(what: string) {
  const state = useRef({ what, gone: 0, since: 0 });
  useEffect(() => {
    const now = state.current;
    [now.what, now.gone, now.since] = [what, 0, Date.now()];
    const onVisibility = () => {
      if (document.hidden) {
        now.gone += Date.now() - now.since;
      } else {
        now.since = Date.now();
      }
    };
    document.addEventListener("visibilitychange", onVisibility);
    return () => document.removeEventListener("visibilitychange", onVisibility);
  }, [what]);
  return useCallback(() => {
    const { gone, since } = state.current;
    return Math.min(86_400, Math.round((gone + (document.hidden ? 0 : Date.now() - since)) / 1000));
  }, []);
}
