import { useSyncExternalStore } from "react";

const key = "theme";
const media = () => matchMedia("(prefers-color-scheme: dark)");
const listeners = new Set<() => void>();

const kept = () => {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
};

const isDark = () => (document.documentElement.dataset.theme ?? (media().matches ? "dark" : "light")) === "dark";

/** Puts the kept theme on the page; without one, the system's choice holds. */
export function applyKeptTheme() {
  const theme = kept();
  if (theme === "dark" || theme === "light") {
    document.documentElement.dataset.theme = theme;
  }
}

function toggle() {
  const theme = isDark() ? "light" : "dark";
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem(key, theme);
  } catch {
    // Storage forbidden: the theme holds until the page is left.
  }
  listeners.forEach((listener) => listener());
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  const system = media();
  system.addEventListener("change", listener);
  return () => {
    listeners.delete(listener);
    system.removeEventListener("change", listener);
  };
}

/** Whether the page is dark, and what changes that. */
export const useTheme = () => ({ dark: useSyncExternalStore(subscribe, isDark), toggle });
