import { useSyncExternalStore } from "react";
import { setSettings, settings, watchSettings, type Theme } from "./settings";

/** The theme in force: chosen, or what the system asked for when the page was first painted. */
const current = (): Theme =>
  document.documentElement.dataset.theme === "slate" ? "slate" : "overcast";

/** Shows the page as the settings say: theme, colours of tracks, motion. */
export function applyLook(): void {
  const { theme, trackColours, motion } = settings();
  const system = matchMedia("(prefers-color-scheme: dark)").matches ? "slate" : "overcast";
  const page = document.documentElement.dataset;
  page.theme = theme ?? system;
  page.tracks = trackColours;
  page.motion = motion;
}

/** Takes a theme, or for null what the system asks for. */
export function chooseTheme(theme: Theme | null): void {
  setSettings({ theme });
  applyLook();
}

/** Changes from the light theme to the dark one, or back. */
export const toggleTheme = (): void => chooseTheme(current() === "slate" ? "overcast" : "slate");

/** The theme in force; the light one while the page is made on the server. */
export function useTheme(): Theme {
  return useSyncExternalStore(watchSettings, current, () => "overcast");
}
