import { useSyncExternalStore } from "react";
import { setSettings, watchSettings, type Theme } from "./settings";

/** The theme in force: chosen, or what the system asked for when the page was first painted. */
const current = (): Theme =>
  document.documentElement.dataset.theme === "slate" ? "slate" : "overcast";

/** Changes from the light theme to the dark one, or back. */
export function toggleTheme(): void {
  const theme = current() === "slate" ? "overcast" : "slate";
  document.documentElement.dataset.theme = theme;
  setSettings({ theme });
}

/** The theme in force; the light one while the page is made on the server. */
export function useTheme(): Theme {
  return useSyncExternalStore(watchSettings, current, () => "overcast");
}
