import { fitTime, scrollBy, showBeat, zoomBy } from "../../commands/notes/time";
import { scrollOctave } from "../../commands/notes/rows";
import { toggleTheme } from "../../person/theme";
import { SHOWN_PROFILES } from "../../geometry/profiles";
import type { SessionStore } from "../../state/store";
import type { BenchTab } from "../../state/tools";
import { actions } from "../action";
import { toggle } from "./toggle";

const TABS: readonly [tab: BenchTab, label: string, words: string][] = [
  ["transform", "Transform", "chain cards effects"],
  ["generate", "Generate", "ideas melody"],
  ["sound", "Sound", "kit instrument pad preset ducking duck sidechain"],
  ["measure", "Measure", "timing delay ms hz chart"],
];

export const VIEW = actions("View", [
  {
    id: "zoom-in",
    label: "Zoom in",
    keys: ["+", "="],
    words: "larger closer",
    run: (store) => zoomBy(store, 1.4),
  },
  {
    id: "zoom-out",
    label: "Zoom out",
    keys: "-",
    words: "smaller",
    run: (store) => zoomBy(store, 1 / 1.4),
  },
  {
    id: "fit",
    label: "Fit the pattern; again for all bars",
    keys: "0",
    words: "zoom whole all",
    run: fitTime,
  },
  { id: "beat", label: "One beat in view", keys: "9", words: "zoom", run: showBeat },
  {
    id: "scroll-back",
    label: "Half a view back",
    keys: "Shift+PageUp",
    words: "scroll left",
    run: (store) => scrollBy(store, -0.5),
  },
  {
    id: "scroll-on",
    label: "Half a view on",
    keys: "Shift+PageDown",
    words: "scroll right",
    run: (store) => scrollBy(store, 0.5),
  },
  {
    id: "rows-up",
    label: "Rows an octave up",
    keys: "Alt+PageUp",
    words: "scroll pitch higher window",
    run: (store) => scrollOctave(store, 1),
  },
  {
    id: "rows-down",
    label: "Rows an octave down",
    keys: "Alt+PageDown",
    words: "scroll pitch lower window",
    run: (store) => scrollOctave(store, -1),
  },
  toggle("all-rows", "allRows", {
    label: "All twelve pitches, or those of the key",
    keys: "Shift+W",
    words: "chromatic rows scale fold",
    on: "All twelve pitches",
    off: "Pitches of the key",
  }),
  toggle("tall", "tall", {
    label: "Higher lanes, or plain ones",
    words: "larger rows big screen size",
    on: "Higher lanes",
    off: "Plain lanes",
  }),
  toggle("mixer", "mixerOpen", {
    label: "Mixer",
    keys: "Alt+m",
    words: "ducking levels pan sends reverb echo master loudness faders",
    on: "Mixer open",
    off: "Mixer closed",
  }),
  toggle("behind", "showOthers", {
    label: "Show other tracks",
    keys: "Shift+U",
    words: "behind outline overlay",
    on: "Other tracks shown",
    off: "Other tracks hidden",
  }),
  ...SHOWN_PROFILES.map(([id, { label }]) => ({
    id: `profile-${id}`,
    label: `Note values: ${label.toLowerCase()}`,
    words: "foot lane editor profile",
    run: (store: SessionStore) => store.getState().setTools({ profile: id }),
  })),
  ...TABS.map(([bench, label, words], i) => ({
    id: `bench-${bench}`,
    label: `Panel: ${label.toLowerCase()}`,
    keys: `Alt+Digit${i + 1}`,
    words,
    run: (store: SessionStore) => store.getState().setTools({ bench }),
  })),
  {
    id: "theme",
    label: "Light or dark theme",
    words: "dark light night colours",
    run: () => toggleTheme(),
  },
]);
