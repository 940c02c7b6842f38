import { useSyncExternalStore } from "react";

export type Theme = "overcast" | "slate";

const watchers = new Set<() => void>();

function current(): Theme {
  return document.documentElement.dataset.theme === "slate" ? "slate" : "overcast";
}

/** Puts a theme in force and remembers it in this browser. */
export function setTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
  localStorage.setItem("hailstep-theme", theme);
  for (const watcher of watchers) watcher();
}

/** Changes from the light theme to the dark one, or back. */
export function toggleTheme(): void {
  setTheme(current() === "slate" ? "overcast" : "slate");
}

function watch(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

/** The theme in force; the light one while the page is made on the server. */
export function useTheme(): Theme {
  return useSyncExternalStore(watch, current, () => "overcast");
}
