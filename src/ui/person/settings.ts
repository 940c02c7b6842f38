import { useSyncExternalStore } from "react";
import { CLICKS } from "@/audio/click";
import { isPress, KEY_SENSES, type Press } from "./presses";
import { KEY_LAYOUTS, OVER_END } from "@/core/perform";

/** What recording does with what is there: adds to it, takes its place, or is one take of any length. */
export const RECORD_MODES = ["overdub", "replace", "take"] as const;
export type RecordMode = (typeof RECORD_MODES)[number];

/** When the metronome is heard. */
export const CLICK_WHEN = ["count-in", "recording", "always"] as const;

/** Clicks to a beat. */
export const CLICK_PARTS = [1, 2, 3, 4] as const;

/** The light theme and the dark one. */
export const THEMES = ["overcast", "slate"] as const;
export type Theme = (typeof THEMES)[number];

/** Whether things move on the screen. */
export const MOTIONS = ["system", "less"] as const;

/** Colours of the tracks: of the theme, or told apart by eyes of any kind. */
export const TRACK_COLOURS = ["theme", "apart"] as const;

/** Where short messages appear. */
export const MESSAGE_PLACES = ["bottom-left", "bottom-center", "top-center", "top-right"] as const;

/** What a click on a hit does: deletes it; or selects it first, and deletes one that is selected. */
export const HIT_CLICKS = ["delete", "select"] as const;

/** An export as it was asked for last. Whether it still has a meaning is for who asks again. */
export interface LastExport {
  format: string;
  extent: string;
  answers: Readonly<Record<string, unknown>>;
}

/** One thing a person prefers: what it is at first, and whether something kept may be it. */
interface Setting<T> {
  first: T;
  fits(value: unknown): value is T;
}

const choice = <const T>(list: readonly T[], first: NoInfer<T>): Setting<T> => ({
  first,
  fits: (value): value is T => list.includes(value as T),
});
const flag = (first: boolean) => choice([true, false], first);
const number = (least: number, most: number, first: number): Setting<number> => ({
  first,
  fits: (value): value is number =>
    typeof value === "number" && Number.isFinite(value) && value >= least && value <= most,
});
const text = (longest: number): Setting<string | null> => ({
  first: null,
  fits: (value): value is string | null =>
    value === null || (typeof value === "string" && value.length <= longest),
});
/** An id, whose meaning is for who asks. */
const name = (first: string): Setting<string> => ({
  first,
  fits: (value): value is string =>
    typeof value === "string" && value.length > 0 && value.length <= 60,
});
const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);
const names = (most: number): Setting<readonly string[]> => ({
  first: [],
  fits: (value): value is string[] =>
    Array.isArray(value) &&
    value.length <= most &&
    value.every((one) => typeof one === "string" && one.length <= 60),
});
/** Presses by the id of an action; an empty list takes its key away. */
const ownKeys: Setting<Readonly<Record<string, readonly Press[]>>> = {
  first: {},
  fits: (value): value is Readonly<Record<string, readonly Press[]>> =>
    isObject(value) &&
    Object.keys(value).length <= 600 &&
    Object.entries(value).every(
      ([id, presses]) =>
        id.length <= 60 &&
        Array.isArray(presses) &&
        presses.length <= 4 &&
        presses.every((one) => typeof one === "string" && isPress(one)),
    ),
};
const lastExport: Setting<LastExport | null> = {
  first: null,
  fits: (value): value is LastExport | null =>
    value === null ||
    (isObject(value) &&
      typeof value["format"] === "string" &&
      typeof value["extent"] === "string" &&
      isObject(value["answers"])),
};

/** All that a person prefers, on this machine: kept in the browser, not in projects. One line adds one. */
const SETTINGS = {
  /** Null for what the system asks for. */
  theme: choice<Theme | null>([...THEMES, null], null),
  motion: choice(MOTIONS, "system"),
  trackColours: choice(TRACK_COLOURS, "theme"),
  messages: choice(MESSAGE_PLACES, "bottom-left"),
  hitClick: choice(HIT_CLICKS, "delete"),
  /** Of a new project: beats in a minute, and id of its kit. */
  newTempo: number(20, 300, 120),
  newKit: name("harbour"),
  /** Keys that differ from those at first, and how a key is known. */
  keys: ownKeys,
  keySense: choice(KEY_SENSES, "sign"),
  /** How the keys of the computer are laid out, and degrees between two of their rows in “scale rows”. */
  layout: choice(KEY_LAYOUTS, "piano"),
  rowStep: number(1, 12, 3),
  /** Velocity of a key of the computer, 1–127. */
  velocity: number(1, 127, 96),
  /** Bars. */
  countIn: choice([0, 1, 2], 1),
  clickWhen: choice(CLICK_WHEN, "recording"),
  clickSound: choice(
    CLICKS.map(({ id }) => id),
    "tick",
  ),
  /** In dB, −60 for silence. */
  clickLevel: number(-60, 6, 0),
  clickAccent: flag(true),
  clickParts: choice(CLICK_PARTS, 1),
  record: choice(RECORD_MODES, "overdub"),
  /** What becomes of a note held over the loop's end. */
  over: choice(OVER_END, "tie"),
  /** Whether a take lengthens the part. */
  lengthen: flag(true),
  /** What a touch takes to be told, in ms. */
  latency: number(-200, 500, 0),
  /** Name of the MIDI input that is listened to; null for all. */
  midiInput: text(200),
  /** MIDI channel that is listened to; 0 for all. */
  midiChannel: number(0, 16, 0),
  /** Whether MIDI was asked for: it is opened again with the page. */
  midi: flag(false),
  lastExport,
  /** Transforms that were used lately, the latest first. */
  lateTransforms: names(8),
  /** Whether an empty project offers to show a first beat. */
  lessonsOffered: flag(true),
  /** Whether hits that are drawn on the lines of a grid go along when its swing is changed. */
  hitsSwing: flag(true),
};

type SettingName = keyof typeof SETTINGS;
export type Settings = {
  [Name in SettingName]: (typeof SETTINGS)[Name] extends Setting<infer T> ? T : never;
};

const FIRST = Object.fromEntries(
  Object.entries(SETTINGS).map(([name, { first }]) => [name, first]),
) as Settings;

/** Where they are kept. The script of the first paint reads the theme there. */
export const SETTINGS_KEY = "hailstep-settings";
/** Where earlier versions kept some of them. */
const EARLIER = { theme: "hailstep-theme", play: "hailstep-play", export: "hailstep-export" };

const objectOf = (kept: string | null): Record<string, unknown> => {
  try {
    const value: unknown = JSON.parse(kept ?? "{}");
    return isObject(value) ? value : {};
  } catch {
    // Not ours: as it is at first.
    return {};
  }
};

/** Of what was kept, those settings that are right. */
export function rightOnes(kept: Record<string, unknown>): Partial<Settings> {
  const known = Object.entries(SETTINGS).filter(
    ([name, { fits }]) => name in kept && fits(kept[name]),
  );
  return Object.fromEntries(known.map(([name]) => [name, kept[name]]));
}

function readKept(): Partial<Settings> {
  try {
    const kept = localStorage.getItem(SETTINGS_KEY);
    if (kept !== null) return rightOnes(objectOf(kept));
    return rightOnes({
      ...objectOf(localStorage.getItem(EARLIER.play)),
      theme: localStorage.getItem(EARLIER.theme),
      lastExport: JSON.parse(localStorage.getItem(EARLIER.export) ?? "null") as unknown,
    });
  } catch {
    return {};
  }
}

let now: Settings | null = null;
/** Changes that the browser did not let us keep: they hold as long as the page does. */
let unkept: Partial<Settings> = {};
const watchers = new Set<() => void>();

/** All settings just now. */
export const settings = (): Settings => (now ??= { ...FIRST, ...readKept() });

/** Changes some of them, and keeps them where the browser lets us. What another tab changed meanwhile stays. */
export function setSettings(change: Partial<Settings>): void {
  unkept = { ...unkept, ...change };
  now = { ...settings(), ...readKept(), ...unkept };
  try {
    localStorage.setItem(SETTINGS_KEY, JSON.stringify(now));
    unkept = {};
  } catch {
    // Full, or not allowed.
  }
  for (const watcher of watchers) watcher();
}

/** What is kept, as the text of a file. */
export const settingsText = (): string => JSON.stringify(settings(), null, 2);

/** Takes settings from the text of such a file. Gives the names of those it could not take; null where it is no such file. */
export function takeSettings(text: string): string[] | null {
  const kept = objectOf(text);
  const right = rightOnes(kept);
  if (Object.keys(right).length === 0) return null;
  setSettings(right);
  return Object.keys(kept).filter((one) => !(one in right));
}

/** Gives up all settings for what they are at first. */
export const resetSettings = (): void => setSettings(FIRST);

let hearsOthers = false;

/** What another tab changed holds here, too. */
function hearOthers(): void {
  if (hearsOthers || typeof addEventListener !== "function") return;
  hearsOthers = true;
  addEventListener("storage", ({ key }) => {
    if (key !== SETTINGS_KEY) return;
    now = { ...FIRST, ...readKept(), ...unkept };
    for (const watcher of watchers) watcher();
  });
}

/** Is told of each change, of another tab's too. Gives a way to stop. */
export function watchSettings(watcher: () => void): () => void {
  hearOthers();
  watchers.add(watcher);
  return () => watchers.delete(watcher);
}

/** One setting; the component renders again when it changes. As it is at first while the page is made on the server. */
export function useSetting<Name extends SettingName>(name: Name): Settings[Name] {
  return useSyncExternalStore(
    watchSettings,
    () => settings()[name],
    () => FIRST[name],
  );
}

/** All settings, for a panel that shows many. */
export function useSettings(): Settings {
  return useSyncExternalStore(watchSettings, settings, () => FIRST);
}
