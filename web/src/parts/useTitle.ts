import { useEffect, useSyncExternalStore } from "react";

let notice: string | undefined;
const listeners = new Set<() => void>();
const listen = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** What wants a hand somewhere else; it stands before the title of whatever page is open. */
export function useTitleNotice(words: string | undefined) {
  useEffect(() => {
    notice = words;
    listeners.forEach((listener) => listener());
  }, [words]);
}

/** The browser's title for the page at hand. */
export function useTitle(title: string) {
  const wanted = useSyncExternalStore(listen, () => notice);
  useEffect(() => {
    document.title = `${wanted ? `${wanted} – ` : ""}${title} – Remedos`;
  }, [title, wanted]);
}
