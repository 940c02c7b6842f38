import * as yup from "yup";
import type { MidiPitch, Velocity } from "../base";
import { GRID_KINDS, GRID_VALUES, type Grid, type Metre, SWING_RANGE } from "../time";
import { type Key, isScale, scalePitches } from "../pitch";
import { problemsOf } from "../params";
import type { Note } from "../score";
import { phraseSchema, type PhraseWish } from "./phrase/options";
import type { ValueWeight } from "./rhythm/slots";
import { WITH, type RhythmSource } from "./rhythm/source";

/** A chord that holds for `[from, to)` ticks of the line: its pitch classes, the root first. */
export interface ChordStretch {
  from: number;
  to: number;
  classes: readonly number[];
  /** Pitch class of its bass, where that is not the root. */
  bass?: number;
}

export const POOLS = ["scale", "chords"] as const;
export const FORMS = ["motif", "question and answer", "free"] as const;
export const TONES = ["chord tone", "root", "third", "fifth", "any"] as const;
export const VELOCITY_SHAPES = ["accents", "even", "rise", "fall", "arch"] as const;
/** What a line is for: a melody, a bass under chords, or the chords themselves, held or struck. */
export const ROLES = ["melody", "bass", "pad", "stabs"] as const;
export type Role = (typeof ROLES)[number];
export type Tone = (typeof TONES)[number];

/** What to generate. Everything has a default. */
export interface IdeaOptions {
  role: Role;
  key: Key;
  metre: Metre;
  /** Length in bars, 1–64. */
  bars: number;
  /** Register: lowest and highest MIDI pitch. */
  low: MidiPitch;
  high: MidiPitch;
  /** Pitches come from the scale, or only from the chord that holds (where there is one). */
  pool: (typeof POOLS)[number];
  /** The chord line; strong beats lean to its tones. Empty for the key's own chord all through. */
  chords: readonly ChordStretch[];
  /** Share of the rhythm's places that hold a note, 0–100 %. */
  density: number;
  /**
   * Of phrases, basses and stabs: which of the places hold one, 0 those on strong beats, 100 those beside them; null for
   * any. At a density of 100 all do.
   */
  syncopation: number | null;
  /** Of the places without a note, how many are silent, 0–100 %; through the others the note before holds on. */
  rests: number;
  /** Note values and their shares of the time. */
  values: readonly ValueWeight[];
  /** The grid whose swing, if it has any, a new rhythm has; null for a straight one. */
  swing: Grid | null;
  /** Largest leap in semitones, 1–24. */
  leap: number;
  /** How often the motif (or the question) returns, 0–100 %. */
  repetition: number;
  /** `motif`: the first bar returns varied; `question and answer`: bars in pairs; `free`: nothing returns. */
  form: (typeof FORMS)[number];
  /** What the first and last note are of the chord there. */
  startOn: Tone;
  endOn: Tone;
  /** Velocity from … to, and its course. */
  softest: Velocity;
  loudest: Velocity;
  shape: (typeof VELOCITY_SHAPES)[number];
  /** Notes at a time, 1–4: further voices lie below the line on tones of the chord; a pad or stab has as many tones. */
  voices: number;
  /** How many ideas, 1–64. */
  count: number;
  seed: number;
  /** Keep this rhythm and ask only for pitches; null for new rhythms. */
  rhythm: readonly Pick<Note, "start" | "length" | "velocity">[] | null;
  /** Takes the rhythm from another part; null for one of its own. */
  follow: RhythmSource | null;
  /** Of a bass: how often it steps into the next root, 0–100 %. */
  approach: number;
  /** How many of these steps come by a semitone, in the scale or not, 0–100 %. */
  chromatic: number;
  /** Only these of the notes get other pitches (melody); all others stay. Null for a whole line. */
  only: { notes: readonly Note[]; ids: readonly string[] } | null;
  /** Keep these pitches in this order and ask only for a rhythm; null for new pitches. */
  pitches: readonly number[] | null;
  /** Bars (from 0) that stay as they are in `kept`. */
  keepBars: readonly number[];
  kept: readonly Note[];
  /** A line of phrases with cadences and one climax; null for one as the first version made it. */
  phrases: PhraseWish | null;
  /** Vary this line by so much (1–100 %) instead of making one from nothing. */
  like: { notes: readonly Note[]; amount: number } | null;
}

export const IDEA_DEFAULTS: IdeaOptions = {
  role: "melody",
  follow: null,
  only: null,
  approach: 60,
  chromatic: 0,
  key: { root: 0, scale: "minor" },
  metre: { beats: 4, unit: 4 },
  bars: 2,
  low: 36,
  high: 60,
  pool: "scale",
  chords: [],
  density: 80,
  syncopation: null,
  rests: 100,
  values: [
    { value: 4, kind: "straight", weight: 1 },
    { value: 8, kind: "straight", weight: 3 },
    { value: 16, kind: "straight", weight: 1 },
  ],
  swing: null,
  leap: 12,
  repetition: 60,
  form: "motif",
  startOn: "chord tone",
  endOn: "chord tone",
  softest: 70,
  loudest: 112,
  shape: "accents",
  voices: 1,
  count: 12,
  seed: 1,
  rhythm: null,
  pitches: null,
  keepBars: [],
  kept: [],
  phrases: null,
  like: null,
};

const inRange = (min: number, max: number) =>
  yup
    .number()
    .strict()
    .required()
    .min(min, `must be at least ${min}`)
    .max(max, `must be at most ${max}`);
const wholeIn = (min: number, max: number) => inRange(min, max).integer("must be a whole number");
const oneOf = (choices: readonly string[]) =>
  yup
    .string()
    .strict()
    .required()
    .oneOf([...choices], `must be one of ${choices.join(", ")}`);

const optionsSchema = yup.object({
  role: oneOf(ROLES),
  approach: inRange(0, 100),
  chromatic: inRange(0, 100),
  follow: yup
    .object({
      how: oneOf(WITH),
      hits: yup.array(yup.number().strict().required()).required(),
      pitches: yup.array(wholeIn(0, 127)).optional(),
      loud: yup.array(yup.number().strict().required()).optional(),
    })
    .nullable(),
  bars: wholeIn(1, 64),
  low: wholeIn(0, 127),
  high: wholeIn(0, 127),
  pool: oneOf(POOLS),
  density: inRange(0, 100),
  syncopation: yup.number().strict().min(0).max(100).nullable().defined(),
  rests: inRange(0, 100),
  swing: yup
    .object({
      value: wholeIn(1, 128).oneOf([...GRID_VALUES]),
      kind: oneOf(GRID_KINDS),
      swing: inRange(SWING_RANGE.min, SWING_RANGE.max),
    })
    .nullable()
    .default(undefined),
  leap: wholeIn(1, 24),
  repetition: inRange(0, 100),
  form: oneOf(FORMS),
  startOn: oneOf(TONES),
  endOn: oneOf(TONES),
  softest: wholeIn(1, 127),
  loudest: wholeIn(1, 127),
  shape: oneOf(VELOCITY_SHAPES),
  voices: wholeIn(1, 4),
  count: wholeIn(1, 64),
  seed: wholeIn(0, 2 ** 31 - 1),
  values: yup
    .array(
      yup.object({
        value: wholeIn(1, 128).oneOf([...GRID_VALUES]),
        kind: yup.string().required().oneOf(["straight", "triplet", "dotted"]),
        weight: inRange(0, 1000),
      }),
    )
    .required()
    .test("some", "must give at least one note value a weight above 0", (list) =>
      (list ?? []).some((v) => Number(v?.weight) > 0),
    ),
});

/** Lays options over the defaults and checks them; a RangeError names every one out of range. */
export function checkOptions(options: Partial<IdeaOptions>): IdeaOptions {
  const o: IdeaOptions = { ...IDEA_DEFAULTS, ...options };
  const problems = problemsOf(optionsSchema, o).map((p) => `${p.path} ${p.reason}`);
  if (o.phrases)
    problems.push(
      ...problemsOf(phraseSchema, o.phrases).map((p) => `phrases.${p.path} ${p.reason}`),
    );
  if (!isScale(o.key.scale)) problems.push(`key.scale “${o.key.scale}” is no known scale`);
  if (o.low > o.high) problems.push("low must not be above high");
  if (o.softest > o.loudest) problems.push("softest must not be above loudest");
  if (problems.length === 0 && scalePitches(o.key, o.low, o.high).length === 0) {
    problems.push(`no note of the scale lies between ${o.low} and ${o.high}`);
  }
  if (o.rhythm && o.pitches) {
    problems.push("rhythm and pitches are both kept, so nothing is left to generate");
  }
  if (o.only && !o.only.notes.some(({ id }) => o.only!.ids.includes(id)))
    problems.push("only.ids names none of its notes");
  for (const name of ["pitches", "loud"] as const)
    if (o.follow?.[name] && o.follow[name].length !== o.follow.hits.length)
      problems.push(`follow.${name} must be one for each of follow.hits`);
  if (o.rhythm?.length === 0) problems.push("rhythm is to be kept but holds no note");
  if (o.pitches?.length === 0) problems.push("pitches are to be kept but there are none");
  if (o.like && !(o.like.amount >= 1 && o.like.amount <= 100)) {
    problems.push("like.amount must be from 1 to 100");
  }
  if (problems.length > 0) throw new RangeError(`Ideas: ${problems.join("; ")}`);
  return o;
}
