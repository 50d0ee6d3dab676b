import type { Middleware } from "openapi-fetch";
import { useSyncExternalStore } from "react";

/** The build of the server that this page came from, as its first answer says it. */
let mine: string | null = null;
let older = false;
const listeners = new Set<() => void>();

/** Notices when answers come from another build: this page is older than its server then. */
export const noticeBuild: Middleware = {
  onResponse({ response }) {
    const build = response.headers.get("Remedos-Build");
    mine ??= build;
    if (build && build !== mine && !older) {
      older = true;
      listeners.forEach((told) => told());
    }
  },
};

/** Whether the server has become another one since this page was loaded. */
export const useOlderThanServer = () =>
  useSyncExternalStore(
    (told) => {
      listeners.add(told);
      return () => listeners.delete(told);
    },
    () => older,
  );
