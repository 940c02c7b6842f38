import { type Random, type Ticks, pickWeighted } from "../../base";
import { barTicks, beatTicks } from "../../time";
import type { PhrasedOptions } from "./options";
import { type Slot, valueTicks } from "../rhythm/slots";

/** A last note is at least so many times as long as the others on average; after it a breath, in beats. */
export const LONGER = 1.8;
const BREATH = 0.5;
/** How likely a note closes a phrase that is not long enough, cuts one before it, or is one of three to a beat. */
const SHORT = 0.1;
const CUTS = 0.05;
const OF_THREE = 0.05;
/** How much likelier it begins a beat later. */
const LATER = 6;

/** A bar in which a phrase ends, and how many of its last notes lead into the next. */
export interface ClosedBar {
  slots: Slot[];
  pickups: number;
}

/**
 * A bar that comes to rest: its last note one of the note values, on a beat, rather a long and a late one, and a breath
 * after it; behind that one or two notes that lead on, where `leads` is set and there is room. `mean` is how long
 * notes are on average.
 */
export function closedBar(
  slots: readonly Slot[],
  options: PhrasedOptions,
  { mean, leads }: { mean: Ticks; leads: boolean },
  random: Random,
): ClosedBar {
  const [bar, beat] = [barTicks(options.metre), beatTicks(options.metre)];
  const breath = Math.min(bar / 4, BREATH * beat);
  const step = leads ? pickupTicks(options, beat) : 0;
  const counts = leads ? (random() < 0.5 ? [1, 0] : [2, 1, 0]) : [0];
  for (const pickups of counts) {
    const until = bar - pickups * step - (pickups > 0 ? BREATH * beat : breath);
    const close = closeWithin(slots, options, { until, enough: LONGER * mean }, random);
    if (!close) continue;
    const led = Array.from({ length: pickups }, (_, i) => ({
      start: bar - (pickups - i) * step,
      length: step,
    }));
    return { slots: [...headOf(slots, close.start), close, ...led], pickups };
  }
  // None of the values ends before the bar does: a note that is the whole bar stays, another is held as long as it may.
  if (slots.length === 1 && slots[0]?.start === 0) return { slots: [...slots], pickups: 0 };
  const half = Math.floor(bar / beat / 2) * beat;
  const close = { start: half, length: bar - half - breath };
  return { slots: [...headOf(slots, half), close], pickups: 0 };
}

/** What is left of a bar before a tick. */
const headOf = (slots: readonly Slot[], at: Ticks): Slot[] =>
  slots
    .filter(({ start }) => start < at)
    .map((slot) => ({ ...slot, length: Math.min(slot.length, at - slot.start) }));

/** A note that begins on a beat of the bar's first half or its middle and ends by `until`; null where there is none. */
function closeWithin(
  slots: readonly Slot[],
  { metre, values }: PhrasedOptions,
  { until, enough }: { until: Ticks; enough: Ticks },
  random: Random,
): Slot | null {
  const beat = beatTicks(metre);
  const beats = Math.round(barTicks(metre) / beat);
  const ways: { slot: Slot; weight: number }[] = [];
  for (let k = Math.min(1, beats - 1); k <= Math.max(1, beats / 2) && k < beats; k++) {
    const start = k * beat;
    const cut = slots.some((slot) => slot.start < start && slot.start + slot.length > start);
    for (const value of values) {
      const length = valueTicks(value);
      if (value.weight <= 0 || start + length > until) continue;
      const welcome =
        LATER ** k *
        (length >= enough ? 1 : SHORT * (length / enough)) *
        (cut ? CUTS : 1) *
        (value.kind === "triplet" ? OF_THREE : 1);
      ways.push({ slot: { start, length }, weight: welcome });
    }
  }
  const latest = ways.findLast(({ slot }) => slot.length >= enough)?.slot.start ?? 0;
  const fits = ways.filter(({ slot }) => slot.start >= latest);
  return pickWeighted(fits, ({ weight }) => weight, random)?.slot ?? null;
}

/** How long a note that leads on is: the longest of the values up to half a beat, half a beat where there is none. */
function pickupTicks({ values }: PhrasedOptions, beat: Ticks): Ticks {
  const lengths = values
    .filter(({ weight, kind }) => weight > 0 && kind !== "triplet")
    .map(valueTicks)
    .filter((length) => length <= beat / 2 && length >= beat / 4);
  return lengths.length > 0 ? Math.max(...lengths) : beat / 2;
}
