import { plural, nth, lastOf } from "../../base";
import { pitchName } from "../../pitch";
import type { Note } from "../../score";
import { sharesOf } from "../rhythm/shares";
import { valueName } from "../rhythm/slots";
import type { PhrasedOptions, PhraseWish } from "./options";
import { carrying, phraseBars, type BarPlan } from "./plan";

/** What a line of phrases is, in a sentence: its form, its height, how it ends, and how often its motif comes again. */
export function sentenceOf(
  options: PhrasedOptions,
  wish: PhraseWish,
  notes: readonly Pick<Note, "pitch" | "start">[],
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
  const ending = endingOf(options, close);
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

const TONES = new Map([
  [0, "the root"],
  [3, "the third"],
  [4, "the third"],
  [6, "the fifth"],
  [7, "the fifth"],
  [8, "the fifth"],
]);

/** On which tone of the chord that sounds a line ends, or of its key where there is none. */
function endingOf({ chords, key }: PhrasedOptions, close: Pick<Note, "pitch" | "start">): string {
  const chord = chords.find(({ from, to }) => close.start >= from && close.start < to);
  const root = chord?.classes[0];
  const tone = TONES.get((close.pitch - (root ?? key.root) + 120) % 12) ?? "another tone";
  return root === undefined ? tone : `${tone} of its chord`;
}

/** From so much of the time on, 0–1, it is said that a note value has more or less than was asked. */
const SAID = 0.05;

/** Which note value of a line is furthest from the share of the time that was asked, where a line cannot give it. */
export function missedShare(
  notes: readonly Pick<Note, "length">[],
  values: PhrasedOptions["values"],
): string {
  const offs = sharesOf(notes, values);
  const most = offs.reduce((one, other) => (other.off > one.off ? other : one), nth(offs, 0));
  if (most.off <= SAID) return "";
  const [has, wanted] = [most.has, most.wanted].map((share) => Math.round(100 * share));
  return `; ${valueName(most.value)} has ${has} % of the time, asked for ${wanted} %`;
}
