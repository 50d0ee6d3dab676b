import { useEffect, useState } from "react";

/** A value that changes many times a second, shown at most once in so many milliseconds. */
export function useSeldom<T>(value: T, milliseconds: number): T {
  const [shown, setShown] = useState(value);
  const [at, setAt] = useState(0);
  useEffect(() => {
    const wait = Math.max(0, at + milliseconds - Date.now());
    const timer = setTimeout(() => {
      setShown(value);
      setAt(Date.now());
    }, wait);
    return () => clearTimeout(timer);
  }, [value, milliseconds, at]);
  return shown;
}
