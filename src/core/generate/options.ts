import * as yup from "yup";
import { oneOf, problemsOf, wholeIn } from "../params";
import { isScale, scalePitches } from "../pitch";
import {
  bassDefaults,
  bassShape,
  type BackingOptions,
  type BassOptions,
} from "./accompany/options";
import { ROLES, commonDefaults, commonShape, type Role } from "./common/options";
import { lineDefaults, lineShape, type LineOptions } from "./line/options";
import { phraseSchema, type PhraseWish } from "./phrase/options";
import { rhythmDefaults, rhythmShape, type RhythmOptions } from "./rhythm/options";

/** What to generate: what any role is made of, in one record. Everything has a default. */
export interface IdeaOptions extends RhythmOptions, LineOptions, BassOptions, BackingOptions {
  role: Role;
  /** A line of phrases with cadences and one climax; null for one as the first version made it. */
  phrases: PhraseWish | null;
  /** How many ideas, 1–64. */
  count: number;
  seed: number;
}

export const IDEA_DEFAULTS: IdeaOptions = {
  ...commonDefaults,
  ...rhythmDefaults,
  ...lineDefaults,
  ...bassDefaults,
  role: "melody",
  phrases: null,
  count: 12,
  seed: 1,
};

const optionsSchema = yup.object({
  ...commonShape,
  ...rhythmShape,
  ...lineShape,
  ...bassShape,
  role: oneOf(ROLES),
  count: wholeIn(1, 64),
  seed: wholeIn(0, 2 ** 31 - 1),
});

/** Lays options over the defaults and checks them; a RangeError names every one out of range. */
export function checkOptions(options: Partial<IdeaOptions>): IdeaOptions {
  const o: IdeaOptions = { ...IDEA_DEFAULTS, ...options };
  const problems = problemsOf(optionsSchema, o).map(
    (problem) => `${problem.path} ${problem.reason}`,
  );
  if (o.phrases)
    problems.push(
      ...problemsOf(phraseSchema, o.phrases).map(
        (problem) => `phrases.${problem.path} ${problem.reason}`,
      ),
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
  const { only } = o;
  if (only && !only.notes.some(({ id }) => only.ids.includes(id)))
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
