import type * as yup from "yup";
import { plural } from "@/core/base";
import { type ParamValue, param, params } from "@/core/params";
import {
  CHORD_ENDS,
  CHORD_RATES,
  CONTOURS,
  DRUM_STYLES,
  FORMS,
  PHRASE_BARS,
  PHRASE_FORMS,
  POOLS,
  ROLES,
  SEVENTHS,
  TONES,
  VELOCITY_SHAPES,
} from "@/core/generate";

const PERCENT = { unit: "%" };
/** Forms whose phrases are as long as they are. */
const FIXED: readonly string[] = ["sentence", "AABA"];
/** Roles that have a rhythm of their own. */
const RHYTHMIC = { when: { param: "role", is: ["melody", "bass", "stabs"] } };
const OF_BASS = { when: { param: "role", is: ["bass"] } };

const named = (list: readonly { id: string; label: string }[]) =>
  Object.fromEntries(list.map(({ id, label }) => [id, label]));
const inBars = (list: readonly number[]) =>
  Object.fromEntries(list.map((bars) => [String(bars), plural(bars, "bar")]));

/** Settings of ideas for a part that are a number, a choice or a switch each: the panel's fields are built from this. */
const PART = {
  allLanes: param.flag("All lanes together"),
  style: param.choice("Style", [...DRUM_STYLES.map(({ id }) => id), ""], {
    texts: { ...named(DRUM_STYLES), "": "By chance" },
  }),
  role: param.choice("As", ROLES, {
    texts: {
      melody: "melody",
      bass: "bass line",
      pad: "pad, chords held",
      stabs: "stabs, chords struck",
    },
  }),
  density: param.whole("Density", 0, 100, { ...PERCENT, ...RHYTHMIC }),
  rests: param.whole("Short notes", 0, 100, { ...PERCENT, ...RHYTHMIC }),
  syncopation: param.whole("Syncopation", 0, 100, { ...PERCENT, ...RHYTHMIC }),
  spread: param.whole("Even spread", 0, 100, PERCENT),
  repetition: param.whole("Repetition", 0, 100, { ...PERCENT, ...RHYTHMIC }),
  fill: param.whole("Fill at the end", 0, 8, { unit: "beats" }),
  approach: param.whole("Steps into roots", 0, 100, { ...PERCENT, ...OF_BASS }),
  chromatic: param.whole("By a semitone", 0, 100, { ...PERCENT, ...OF_BASS }),
  leap: param.whole("Largest leap", 1, 24, {
    unit: "st",
    when: { param: "role", is: ["melody", "bass"] },
  }),
  voices: param.whole("Voices", 1, 4, { when: { param: "role", is: ["melody", "pad", "stabs"] } }),
  form: param.choice("Form", [...PHRASE_FORMS, ...FORMS]),
  pool: param.choice("Pitches from", POOLS),
  startOn: param.choice("Begins on", TONES),
  endOn: param.choice("Ends on", TONES),
  shape: param.choice("Velocity", VELOCITY_SHAPES),
  phraseBars: param.choice("Length of a phrase", PHRASE_BARS.map(String), {
    texts: inBars(PHRASE_BARS),
    when: { param: "form", is: PHRASE_FORMS.filter((form) => !FIXED.includes(form)) },
  }),
  contour: param.choice("Contour", CONTOURS),
  pickup: param.flag("Pick-up notes"),
  climax: param.whole("Climax at", 0, 100, PERCENT),
  strict: param.whole("Chord tones", 0, 100, PERCENT),
} as const;

/** Which of them a kit is asked for with, and which a line; of a melody the choices, and how its phrases go. */
export const DRUM_FIELDS = ["density", "syncopation", "spread", "repetition", "fill"] as const;
export const LINE_FIELDS = [
  "density",
  "rests",
  "syncopation",
  "repetition",
  "approach",
  "chromatic",
  "leap",
  "voices",
] as const;
export const MELODY_CHOICES = ["form", "pool", "startOn", "endOn", "shape"] as const;
export const PHRASE_FIELDS = ["pickup", "climax", "strict"] as const;

/** Bars of a round of chords that are offered; 0 for the pattern's length. */
const ROUNDS = [2, 4, 8, 0] as const;

/** Settings of ideas for the chord line. */
const CHORDS = {
  rate: param.choice("Changes", CHORD_RATES),
  end: param.choice("Ends", CHORD_ENDS),
  sevenths: param.choice("Sevenths", SEVENTHS),
  round: param.choice("Repeats every", ROUNDS.map(String), {
    texts: { ...inBars(ROUNDS), "0": "the whole pattern" },
  }),
  asNotes: param.flag("As notes too"),
} as const;

/** Settings of variations. */
const VARY = {
  distance: param.whole("Distance", 1, 100, PERCENT),
  keepStrong: param.flag("Keep the beats"),
  oneLane: param.flag("Only the current lane"),
} as const;

const described = <Shape extends yup.ObjectShape>(shape: Shape) =>
  params(shape).describe().fields as Record<keyof Shape, yup.SchemaDescription>;

/** What each field says of itself. */
export const IDEA_FIELDS = {
  part: described(PART),
  chords: described(CHORDS),
  vary: described(VARY),
};

/** A field's value as its setting keeps it: whole numbers, also where some of them are a choice. */
export const asSetting = (before: unknown, value: ParamValue): ParamValue =>
  typeof before === "number" ? Math.round(Number(value)) : value;
