import { useSyncExternalStore } from "react";

const key = "theme";
const media = () => matchMedia("(prefers-color-scheme: dark)");
const listeners = new Set<() => void>();

type Theme = "dark" | "light";

/** What was chosen here; undefined where the system's choice holds. */
function chosen(): Theme | undefined {
  try {
    const theme = localStorage.getItem(key);
    return theme === "dark" || theme === "light" ? theme : undefined;
  } catch {
    return undefined;
  }
}

const isDark = () => document.documentElement.dataset.theme === "dark";

function put(theme: Theme) {
  document.documentElement.dataset.theme = theme;
  listeners.forEach((listener) => listener());
}

/** Puts the chosen theme on the page, or the system's, and follows that from then on. */
export function applyKeptTheme() {
  const system = (): Theme => (media().matches ? "dark" : "light");
  put(chosen() ?? system());
  media().addEventListener("change", () => put(chosen() ?? system()));
}

function toggle() {
  const theme = isDark() ? "light" : "dark";
  try {
    localStorage.setItem(key, theme);
  } catch {
    // Storage forbidden: the theme holds until the page is left.
  }
  put(theme);
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Whether the page is dark, and what changes that. */
export const useTheme = () => ({ dark: useSyncExternalStore(subscribe, isDark), toggle });
