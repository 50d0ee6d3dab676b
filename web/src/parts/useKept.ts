import { useState } from "react";

/** A choice that this browser keeps. What was kept but no longer reads is as if nothing was. */
export function useKept<T>(key: string, start: T, reads: (kept: unknown) => kept is T): [T, (value: T) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      const kept: unknown = JSON.parse(localStorage.getItem(key) ?? "null");
      return reads(kept) ? kept : start;
    } catch {
      return start;
    }
  });
  return [
    value,
    (next) => {
      setValue(next);
      try {
        localStorage.setItem(key, JSON.stringify(next));
      } catch {
        // A browser that keeps nothing still shows what was chosen.
      }
    },
  ];
}
