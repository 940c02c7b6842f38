import { plural, nth, lastOf } from "../../base";
import { pitchName } from "../../pitch";
import type { Note } from "../../score";
import type { PhrasedOptions, PhraseWish } from "./options";
import { carrying, phraseBars, type BarPlan } from "./plan";

/** What a line of phrases is, in a sentence: its form, its height, how it ends, and how often its motif comes again. */
export function sentenceOf(
  options: PhrasedOptions,
  wish: PhraseWish,
  notes: readonly Pick<Note, "pitch">[],
  plan: readonly BarPlan[],
): string {
  const size = phraseBars(options, wish);
  const count = Math.ceil(options.bars / size);
  const of = plural(size, "bar");
  const highest = notes.reduce(
    (best, note) => (note.pitch > best.pitch ? note : best),
    nth(notes, 0),
  );
  const peak = `${wish.contour === "drawn" ? "your curve" : wish.contour} to ${pitchName(highest.pitch, options.key)}`;
  const close = notes.at(-1 - lastOf(plan).pickups) ?? lastOf(notes);
  const above = (close.pitch - options.key.root + 120) % 12;
  const ending = above === 0 ? "the root" : above === 3 || above === 4 ? "the third" : "no rest";
  const carried = carrying(plan);
  const led = plan.some(({ pickups }) => pickups > 0) ? ", with pick-ups" : "";
  const ways = [
    ...(plan.some(({ copies, turned }) => copies !== null && turned) ? [", turned over"] : []),
    ...(plan.some(({ otherRhythm }) => otherRhythm) ? [", in another rhythm"] : []),
  ].join("");
  const motif =
    carried > 0 ? `, motif in ${carried + 1} of ${plural(options.bars, "bar")}${ways}` : "";
  if (wish.form === "period" && count > 1)
    return `question of ${of}, ${peak}, answer ends on ${ending}${motif}${led}`;
  const what = { period: "phrase", sentence: "sentence", AABA: "AABA", phrases: "phrase" }[
    wish.form
  ];
  const many =
    what === "phrase" && count > 1 ? `${plural(count, "phrase")} of ${of}` : `${what} of ${of}`;
  const whole = wish.form === "AABA" ? `AABA, each of ${of}` : many;
  return `${whole}, ${peak}, ends on ${ending}${motif}${led}`;
}
