import { useEffect, useRef, useState, type RefObject } from "react";

/** The width of an element in CSS pixels, kept current, so that a picture draws its words at their true size. */
export function useWidth<T extends HTMLElement>(first: number): [RefObject<T | null>, number] {
  const holder = useRef<T>(null);
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const element = holder.current;
    if (!element || typeof ResizeObserver === "undefined") {
      return;
    }
    const watch = new ResizeObserver(([entry]) => {
      const now = Math.round(entry?.contentRect.width ?? 0);
      if (now > 0) {
        setWidth(now);
      }
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [holder, width];
}
