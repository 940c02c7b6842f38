import { CLICKS, type ClickSound } from "@/audio/click";
import { KEY_LAYOUTS, type KeyLayout, OVER_END, type OverEnd } from "@/core/perform";

/** What recording does with what is there: adds to it, takes its place, or is one take of any length. */
export const RECORD_MODES = ["overdub", "replace", "take"] as const;
export type RecordMode = (typeof RECORD_MODES)[number];

/** When the metronome is heard. */
export const CLICK_WHEN = ["count-in", "recording", "always"] as const;
export type ClickWhen = (typeof CLICK_WHEN)[number];

/** How this person plays in, on this machine: kept in the browser, not in projects. */
export interface PlaySettings {
  layout: KeyLayout;
  /** Degrees between one row of the scale and the next. */
  rowStep: number;
  /** Velocity of a key of the computer, 1–127. */
  velocity: number;
  countIn: 0 | 1 | 2;
  clickWhen: ClickWhen;
  clickSound: ClickSound["sound"];
  /** In dB, −60 for silence. */
  clickLevel: number;
  clickAccent: boolean;
  /** Clicks to a beat. */
  clickParts: number;
  record: RecordMode;
  over: OverEnd;
  /** Whether a take lengthens the part. */
  lengthen: boolean;
  /** What a touch takes to be told, in ms. */
  latency: number;
  /** Name of the MIDI input that is listened to; null for all. */
  midiInput: string | null;
  /** MIDI channel that is listened to; 0 for all. */
  midiChannel: number;
  /** Whether MIDI was asked for: it is opened again with the page. */
  midi: boolean;
}

export const PLAY_DEFAULTS: PlaySettings = {
  layout: "piano",
  rowStep: 3,
  velocity: 96,
  countIn: 1,
  clickWhen: "recording",
  clickSound: "tick",
  clickLevel: 0,
  clickAccent: true,
  clickParts: 1,
  record: "overdub",
  over: "tie",
  lengthen: true,
  latency: 0,
  midiInput: null,
  midiChannel: 0,
  midi: false,
};

const within = (least: number, most: number) => (v: unknown) =>
  typeof v === "number" && Number.isFinite(v) && v >= least && v <= most;
const oneOf = (list: readonly unknown[]) => (v: unknown) => list.includes(v);
const flag = oneOf([true, false]);

const CHECKS: Readonly<Record<keyof PlaySettings, (v: unknown) => boolean>> = {
  layout: oneOf(KEY_LAYOUTS),
  rowStep: within(1, 12),
  velocity: within(1, 127),
  countIn: oneOf([0, 1, 2]),
  clickWhen: oneOf(CLICK_WHEN),
  clickSound: oneOf(CLICKS.map(({ id }) => id)),
  clickLevel: within(-60, 6),
  clickAccent: flag,
  clickParts: oneOf([1, 2, 3, 4]),
  record: oneOf(RECORD_MODES),
  over: oneOf(OVER_END),
  lengthen: flag,
  latency: within(-200, 500),
  midiInput: (v) => v === null || (typeof v === "string" && v.length <= 200),
  midiChannel: within(0, 16),
  midi: flag,
};

const PLACE = "hailstep-play";

/** Settings from what was kept as text; what is missing or wrong is as it is at first. */
export function readPlaySettings(text: string | null): PlaySettings {
  let kept: Record<string, unknown> = {};
  try {
    const value: unknown = JSON.parse(text ?? "{}");
    if (typeof value === "object" && value !== null) kept = value as Record<string, unknown>;
  } catch {
    // Not ours: as it is at first.
  }
  const known = Object.entries(CHECKS).filter(([key, fits]) => key in kept && fits(kept[key]));
  return { ...PLAY_DEFAULTS, ...Object.fromEntries(known.map(([key]) => [key, kept[key]])) };
}

/** The settings of this browser. */
export function loadPlaySettings(): PlaySettings {
  try {
    return readPlaySettings(localStorage.getItem(PLACE));
  } catch {
    return PLAY_DEFAULTS;
  }
}

/** Keeps settings in this browser, where it lets us. */
export function keepPlaySettings(settings: PlaySettings): void {
  try {
    localStorage.setItem(PLACE, JSON.stringify(settings));
  } catch {
    // They hold as long as the page does.
  }
}
