import { useCallback, useSyncExternalStore } from "react";

const listeners = new Set<() => void>();

const kept = (key: string) => {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
};

/** What was chosen and could not be kept, as long as the page is open. */
const unkept = new Map<string, string>();

function subscribe(listener: () => void) {
  listeners.add(listener);
  addEventListener("storage", listener);
  return () => {
    listeners.delete(listener);
    removeEventListener("storage", listener);
  };
}

/** A choice that this browser keeps; whoever shows it hears of a change. What was kept but no longer reads is as if nothing was. */
export function useKept<T>(key: string, start: T, reads: (kept: unknown) => kept is T): [T, (value: T) => void] {
  const text = useSyncExternalStore(subscribe, () => unkept.get(key) ?? kept(key));
  const set = useCallback(
    (next: T) => {
      try {
        localStorage.setItem(key, JSON.stringify(next));
        unkept.delete(key);
      } catch {
        unkept.set(key, JSON.stringify(next));
      }
      listeners.forEach((listener) => listener());
    },
    [key],
  );
  return [read(text, start, reads), set];
}

function read<T>(text: string | null, start: T, reads: (kept: unknown) => kept is T): T {
  try {
    const value: unknown = JSON.parse(text ?? "null");
    return reads(value) ? value : start;
  } catch {
    return start;
  }
}
