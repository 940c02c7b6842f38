import { nth } from "@/core/base";

/** Colours of the theme in force, read from the page's style sheet so that there is one palette. */
export interface Colours {
  sheet: string;
  beat: string;
  line: string;
  dimple: string;
  dimpleBeat: string;
  quiet: string;
  text: string;
  paper: string;
  selected: string;
  squall: string;
  tracks: string[];
  sans: string;
  mono: string;
}

const TRACK_HUES = 8;
const known = new Map<string, Colours>();

/** The colours of the theme in force; the same object as long as the theme stays. */
export function readColours(): Colours {
  const page = document.documentElement.dataset;
  const theme = `${page.theme ?? ""} ${page.tracks ?? ""}`;
  let colours = known.get(theme);
  if (!colours) {
    const style = getComputedStyle(document.documentElement);
    const read = (name: string) => style.getPropertyValue(name).trim();
    colours = {
      sheet: read("--sheet"),
      beat: read("--sheet-beat"),
      line: read("--sheet-line"),
      dimple: read("--sheet-dimple"),
      dimpleBeat: read("--sheet-dimple-beat"),
      quiet: read("--sheet-quiet"),
      text: read("--color-base-content"),
      paper: read("--color-base-100"),
      selected: read("--color-primary"),
      squall: read("--squall"),
      tracks: Array.from({ length: TRACK_HUES }, (_, i) => read(`--track-${i}`)),
      sans: read("--font-sans") || "sans-serif",
      mono: read("--font-mono") || "monospace",
    };
    known.set(theme, colours);
  }
  return colours;
}

/** The colour of a track by its place in the project; eight hues go round. */
export const trackColour = (colours: Colours, index: number) =>
  nth(colours.tracks, index % TRACK_HUES);
