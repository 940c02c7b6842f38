import { BEND_LIMITS, BEND_RANGE, type Note, withChance } from "@/core/score";
import { panText } from "@/core/sound";
import { clampVelocity, nth } from "@/core/base";

/** Something of each note that can be seen and drawn as a line over time. */
export interface Profile {
  label: string;
  /** What is drawn between the bottom and the top. */
  min: number;
  max: number;
  /** What a note may have. */
  range: { min: number; max: number };
  /** Where stems stand: the bottom, or a middle that values go up and down from. */
  base: number;
  read(note: Note): number;
  /** The note with a value as a hand draws it, which keeps to what is near. */
  write(note: Note, value: number): Note;
  /** The note with the very value. */
  exactly(note: Note, value: number): Note;
  /** The value as people read it. */
  text(value: number): string;
  /** Of which tracks; left out for all. */
  only?: "drums" | "melody";
}

/** All profiles by id. One entry adds one: the chooser, the palette and the drawing read it. */
export const PROFILES = {
  velocity: {
    label: "Velocity",
    min: 0,
    max: 127,
    base: 0,
    range: { min: 1, max: 127 },
    read: (note) => note.velocity,
    write: (note, value) => ({ ...note, velocity: clampVelocity(value) }),
    exactly: (note, value) => ({ ...note, velocity: clampVelocity(value) }),
    text: String,
  },
  tune: {
    label: "Tune",
    min: -12,
    max: 12,
    base: 0,
    range: { min: -48, max: 48 },
    read: (note) => note.tune,
    write: (note, value) => ({ ...note, tune: Math.round(value) + 0 }),
    exactly: (note, value) => ({ ...note, tune: value + 0 }),
    text: (value) => `${value > 0 ? "+" : ""}${value} st`,
    only: "drums",
  },
  pan: {
    label: "Pan",
    min: -1,
    max: 1,
    base: 0,
    range: { min: -1, max: 1 },
    read: (note) => note.pan,
    // Near the centre is the centre.
    write: (note, value) => ({
      ...note,
      pan: Math.abs(value) < 0.06 ? 0 : Math.round(value * 50) / 50,
    }),
    exactly: (note, value) => ({ ...note, pan: Math.round(value * 100) / 100 + 0 }),
    text: (value) => panText(Math.round(value * 100)),
  },
  chance: {
    label: "Chance",
    min: 0,
    max: 100,
    base: 0,
    range: { min: 1, max: 100 },
    read: (note) => note.chance ?? 100,
    // Near the top is always.
    write: (note, value) => withChance(note, value > 97 ? 100 : value),
    exactly: withChance,
    text: (value) => `${value} %`,
  },
} as const satisfies Record<string, Profile>;

/** The bend of a melodic part: a curve over its time, of no note. In steps of the wheel. */
export const BEND = { label: "Bend", ...BEND_LIMITS, semitone: 8192 / BEND_RANGE } as const;

export type ProfileKind = keyof typeof PROFILES | "bend";

/** All that can be shown, by id. */
export const SHOWN_PROFILES: readonly [ProfileKind, Pick<Profile, "label" | "only">][] = [
  ...(Object.entries(PROFILES) as [ProfileKind, Profile][]),
  ["bend", { label: BEND.label, only: "melody" }],
];

/** Those of a list by id that a kind of track has. */
const ofKind = <T extends readonly [ProfileKind, Pick<Profile, "only">]>(
  kind: "drums" | "melody",
  list: readonly T[],
): T[] => list.filter(([, { only }]) => only === undefined || only === kind);

/** What can be shown of a kind of track, by id. */
export const profileChoices = (kind: "drums" | "melody") => ofKind(kind, SHOWN_PROFILES);

/** What is shown of a kind of track: what is wanted where it has that, else its first. */
export function shownProfile(kind: "drums" | "melody", wanted: ProfileKind): ProfileKind {
  const shown = profileChoices(kind);
  return (shown.find(([id]) => id === wanted) ?? nth(shown, 0))[0];
}

/** The profile to show of a kind of track: the one wanted where it has that, else velocity. */
export function profileFor(
  kind: "drums" | "melody",
  wanted: ProfileKind,
): [keyof typeof PROFILES, Profile] {
  const own = ofKind(kind, Object.entries(PROFILES) as [keyof typeof PROFILES, Profile][]);
  return own.find(([id]) => id === wanted) ?? nth(own, 0);
}
