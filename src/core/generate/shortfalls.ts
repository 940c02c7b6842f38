import { plural } from "../base";
import { barTicks } from "../time";
import { scalePitches } from "../pitch";
import { outOfReach } from "./rhythm/mixed";
import { checkOptions, type IdeaOptions } from "./options";
import { valueName } from "./rhythm/slots";
import { hasGaps } from "./rhythm/source";

/** Fewer notes of the scale than these leave a contour nowhere to go. */
const NARROW = 5;

/**
 * Which wishes for a line cannot be met as they are, and what is done in their place, each in a sentence; empty where
 * all can. Throws a RangeError that names every option out of range.
 */
export function shortfallsOf(options: Partial<IdeaOptions>): string[] {
  const o = checkOptions(options);
  const message: string[] = [];
  const bar = barTicks(o.metre);
  const own = o.rhythm === null && o.only === null;
  const mixed = own && o.role !== "pad" && (o.phrases !== null || o.role !== "melody");
  if (mixed && o.follow?.how !== "follow") {
    const off = outOfReach(bar, o.values);
    if (off.length > 0)
      message.push(
        `A bar cannot give ${off.map(valueName).join(", ")} its share: the nearest is taken`,
      );
  }
  if (o.follow?.how === "answer" && !hasGaps(o.follow.hits, o.metre, o.bars * bar))
    message.push("There is no gap of more than a beat to answer in: it goes between the hits");
  if (o.role === "melody" && o.phrases) {
    const { form, bars } = o.phrases;
    const least = form === "period" ? 2 : form === "phrases" ? 1 : 4;
    if (o.bars < least)
      message.push(
        `${form === "AABA" ? "An AABA" : `A ${form}`} needs ${plural(least, "bar")}: it is one phrase of ${plural(o.bars, "bar")}`,
      );
    else if (form === "period" && bars * 2 > o.bars)
      message.push(
        `A question and an answer of ${plural(bars, "bar")} each do not fit into ${plural(o.bars, "bar")}: they are shorter`,
      );
    else if (form === "phrases" && bars > o.bars)
      message.push(
        `A phrase of ${plural(bars, "bar")} does not fit into ${plural(o.bars, "bar")}: it is shorter`,
      );
    const notes = scalePitches(o.key, o.low, o.high).length;
    if (notes < NARROW && o.pitches === null)
      message.push(`The register holds ${plural(notes, "note")} of the scale: the contour is flat`);
  }
  return message;
}
