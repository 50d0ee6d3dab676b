import { useEffect } from "react";

/** The browser's title for the page at hand. */
export function useTitle(title: string) {
  useEffect(() => {
    document.title = `${title} – Remedos`;
  }, [title]);
}
