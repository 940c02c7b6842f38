import * as yup from "yup";
import type { LineOptions } from "../line/options";
import type { RhythmOptions } from "../rhythm/options";

export const PHRASE_FORMS = ["period", "sentence", "AABA", "phrases"] as const;
/** How phrases follow one another; `phrases` are each new. */
export type PhraseForm = (typeof PHRASE_FORMS)[number];
export const CONTOURS = ["arch", "rise", "fall", "wave", "valley", "drawn"] as const;
export type Contour = (typeof CONTOURS)[number];
/** Lengths of a phrase that are offered, in bars; any other up to the longest is one too. */
export const PHRASE_BARS = [1, 2, 3, 4, 6, 8] as const;
const LONGEST = 16;

/** What a line of phrases is made of. */
export type PhrasedOptions = RhythmOptions & LineOptions;

/** How a line is made of phrases. */
export interface PhraseWish {
  form: PhraseForm;
  /** Bars of a phrase, 1–16. */
  bars: number;
  contour: Contour;
  /** Heights 0–1, evenly apart over a phrase: the contour that was drawn. */
  drawn: readonly number[];
  /** Whether the contour is that of each phrase, if left out, or of the whole line. */
  over?: "phrase" | "line";
  /** Whether notes before the bar line lead into each phrase; left out for not. */
  pickup?: boolean;
  /** Where in the line its one highest note stands, 0–100 %. */
  climax: number;
  /** How strictly beats have tones of the chord, 0–100 %. */
  strict: number;
}

export const PHRASE_DEFAULTS: PhraseWish = {
  form: "period",
  bars: 2,
  contour: "arch",
  drawn: [0.2, 0.5, 0.8, 1, 0.7, 0.3],
  climax: 65,
  strict: 80,
};

/** So many heights of a drawn contour are kept. */
export const MAX_HEIGHTS = 64;

const share = () => yup.number().strict().min(0).max(100).required();
export const phraseSchema = yup.object({
  form: yup
    .string()
    .strict()
    .oneOf([...PHRASE_FORMS])
    .required(),
  bars: yup.number().strict().integer().min(1).max(LONGEST).required(),
  contour: yup
    .string()
    .strict()
    .oneOf([...CONTOURS])
    .required(),
  drawn: yup
    .array(yup.number().strict().min(0).max(1).required())
    .min(2)
    .max(MAX_HEIGHTS)
    .required(),
  over: yup.string().strict().oneOf(["phrase", "line"]).optional(),
  pickup: yup.boolean().strict().optional(),
  climax: share(),
  strict: share(),
});

/** The contour of a line as heights 0–1, so many of them evenly over its ticks: what sounds highest, held through rests. */
export function heightsOf(
  notes: readonly { start: number; length: number; pitch: number }[],
  ticks: number,
  count = 33,
): number[] {
  const pitches = notes.map(({ pitch }) => pitch);
  const low = Math.min(...pitches);
  const span = Math.max(1, Math.max(...pitches) - low);
  let last = notes[0]?.pitch ?? low;
  return Array.from({ length: count }, (_, i) => {
    const at = (i / (count - 1)) * ticks;
    const now = notes.filter(({ start, length }) => start <= at && at < start + length);
    if (now.length > 0) last = Math.max(...now.map(({ pitch }) => pitch));
    return notes.length > 0 ? (last - low) / span : 0.5;
  });
}
