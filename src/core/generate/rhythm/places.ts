import {
  type Random,
  type Ticks,
  type Velocity,
  pickWeighted,
  roundedByChance,
  nth,
  mustGet,
} from "../../base";
import { MAX_EARLY, PPQ, beatTicks } from "../../time";
import type { Note } from "../../score";
import type { RhythmOptions } from "./options";
import { mixedRhythm } from "./mixed";
import { fillRhythm, type Slot } from "./slots";
import { withOther } from "./source";
import { metricalWeights } from "./syncopation";

/** Where a note of a line begins and how long it is. */
export interface NoteSlot extends Slot {
  /** Which bar it lies in, from 0. */
  bar: number;
  /** Given from outside, else null. */
  velocity: Velocity | null;
  /** The note that stays as it is here. */
  fixed?: Note;
}

/** The bar a note belongs to: an early first one to the first. */
export const barAt = (start: Ticks, bar: Ticks) => Math.max(0, Math.floor(start / bar));

/** A rhythm given from outside, as far as it lies in the bars; an early first note counts. */
export function givenPlaces(
  rhythm: NonNullable<RhythmOptions["rhythm"]>,
  bar: Ticks,
  bars: number,
): NoteSlot[] {
  return rhythm
    .filter((note) => note.start >= -MAX_EARLY && note.start < bars * bar)
    .map(({ start, length, velocity }) => ({
      start,
      length,
      velocity,
      bar: barAt(start, bar),
    }))
    .sort((a, b) => a.start - b.start);
}

/** The places of a rhythm that is kept, but for bars that are kept as they are. */
export function rhythmPlaces(
  options: RhythmOptions,
  rhythm: NonNullable<RhythmOptions["rhythm"]>,
  bar: Ticks,
): NoteSlot[] {
  const given = givenPlaces(rhythm, bar, options.bars).filter(
    (p) => !options.keepBars.includes(p.bar),
  );
  const kept = options.keepBars.flatMap((b) => keptPlaces(options.kept, b, bar));
  return [...given, ...kept].sort((a, b) => a.start - b.start);
}

/** All places of a part that goes with the chords: a rhythm that is kept, or bar by bar, the first again as often as asked. */
export function partPlaces(options: RhythmOptions, bar: Ticks, random: Random): Slot[] {
  if (options.rhythm) return givenPlaces(options.rhythm, bar, options.bars);
  const motif = barOf(options, bar, random, 0);
  return Array.from({ length: options.bars }, (_, b) => {
    const again = b === 0 || (!options.follow && random() * 100 < options.repetition);
    const own = again ? motif : barOf(options, bar, random, b);
    return own.map(({ start, length }) => ({ start: start + b * bar, length }));
  }).flat();
}

/**
 * The places of a line of which only some notes change, the highest where several begin together; the others are fixed.
 */
export function onlyPlaces(
  { notes, ids }: NonNullable<RhythmOptions["only"]>,
  bar: Ticks,
  bars: number,
): NoteSlot[] {
  const chosen = new Set(ids);
  const at = new Map<Ticks, Note>();
  for (const note of notes) {
    const other = at.get(note.start);
    const before = other && (chosen.has(other.id) ? 1 : 0) * 128 + other.pitch;
    const own = (chosen.has(note.id) ? 1 : 0) * 128 + note.pitch;
    if (before === undefined || own > before) at.set(note.start, note);
  }
  return givenPlaces([...at.values()], bar, bars).map((place) => {
    const note = mustGet(at, place.start);
    return chosen.has(note.id) ? place : { ...place, fixed: note };
  });
}

/** One bar, the b-th: its slots, of which as many hold a note as the density says; or as another part has it. */
export function barOf(options: RhythmOptions, bar: Ticks, random: Random, b: number): Slot[] {
  const own = () => ownBar(options, bar, random);
  return options.follow
    ? withOther(options.follow, options, [b * bar, bar, options.bars * bar], { own, random })
    : own();
}

function ownBar(options: RhythmOptions, bar: Ticks, random: Random): Slot[] {
  // Lines of the first version keep their rhythms.
  const first = options.phrases === null && options.role === "melody";
  const slots = (first ? fillRhythm : mixedRhythm)(bar, options.values, random);
  const sounding =
    first || options.syncopation === null
      ? slots.filter(() => random() * 100 < options.density)
      : leaning(slots, options, bar, options.syncopation, random);
  return options.rests >= 100 ? sounding : held(slots, sounding, options.rests, random);
}

/** How much a full slider of syncopation weighs. */
const SYNCOPATED = 7;
/** Places are told apart down to 32nds; what lies between them is weak. */
const FINE = PPQ / 8;

/**
 * As many of the places as the density says: those on strong beats where little syncopation is asked for, those beside
 * them, with the strong ones left empty, where much is.
 */
function leaning(
  slots: readonly Slot[],
  options: RhythmOptions,
  bar: Ticks,
  syncopation: number,
  random: Random,
): Slot[] {
  const beats = Math.round(bar / beatTicks(options.metre));
  const cells = Math.round(bar / FINE);
  const weights = cells % beats === 0 ? metricalWeights(cells, beats) : [0];
  const deepest = Math.min(-1, ...weights);
  const weak = ({ start }: Slot) => (weights[start / FINE] ?? deepest) / deepest;
  const lean = SYNCOPATED * (syncopation / 100 - 0.5);
  const left = [...slots];
  const count = Math.min(
    slots.length,
    roundedByChance((options.density / 100) * slots.length, random),
  );
  const chosen = new Set<Slot>();
  while (chosen.size < count) {
    const one = pickWeighted(left, (slot) => Math.exp(lean * (weak(slot) - 0.5)), random)!;
    chosen.add(one);
    left.splice(left.indexOf(one), 1);
  }
  return slots.filter((slot) => chosen.has(slot));
}

/** Lets notes hold on through the places without one, but for the share that stays silent. */
function held(
  slots: readonly Slot[],
  sounding: readonly Slot[],
  rests: number,
  random: Random,
): Slot[] {
  const notes: Slot[] = [];
  const starts = new Set(sounding.map((slot) => slot.start));
  let resting = true;
  for (const slot of slots) {
    const last = notes[notes.length - 1];
    if (starts.has(slot.start)) {
      notes.push({ ...slot });
      resting = false;
    } else if (last && !resting && random() * 100 >= rests) last.length += slot.length;
    else resting = true;
  }
  return notes;
}

/**
 * Rhythm of all bars. As a motif, the first bar's returns with the chance asked for; as question and
 * answer, bars go in pairs, and the first pair returns. Bars that are kept stay as they are.
 */
export function newPlaces(options: RhythmOptions, bar: Ticks, random: Random): NoteSlot[] {
  let first = barOf(options, bar, random, 0);
  if (first.length === 0) first = fillRhythm(bar, options.values, random).slice(0, 1);
  const rhythms: Slot[][] = [first];
  for (let b = 1; b < options.bars; b++) {
    const source = options.form === "question and answer" ? (b === 1 ? 0 : b % 2) : 0;
    const returns = options.form !== "free" && random() * 100 < options.repetition;
    rhythms.push(
      returns && !options.follow ? nth(rhythms, source) : barOf(options, bar, random, b),
    );
  }
  return rhythms.flatMap((slots, b): NoteSlot[] => {
    if (options.keepBars.includes(b)) return keptPlaces(options.kept, b, bar);
    return slots.map(({ start, length }) => ({
      start: b * bar + start,
      length,
      bar: b,
      velocity: null,
    }));
  });
}

/** Places of a bar whose notes stay; of several that begin together, the highest leads. */
export function keptPlaces(kept: readonly Note[], b: number, bar: Ticks): NoteSlot[] {
  return kept
    .filter((note) => barAt(note.start, bar) === b)
    .sort((x, y) => x.start - y.start || y.pitch - x.pitch)
    .map((fixed) => ({
      start: fixed.start,
      length: fixed.length,
      bar: b,
      velocity: fixed.velocity,
      fixed,
    }));
}

/**
 * Exactly so many places: of too many some are left out by chance, of too few the longest are
 * halved. Kept ones count and stay.
 */
export function exactly(places: readonly NoteSlot[], count: number, random: Random): NoteSlot[] {
  const result = [...places];
  while (result.length > count) {
    const loose = result.flatMap((place, i) => (place.fixed ? [] : [i]));
    if (loose.length === 0) break;
    result.splice(nth(loose, Math.floor(random() * loose.length)), 1);
  }
  while (result.length < count) {
    const longest = result.reduce(
      (best, place, i) => (!place.fixed && place.length > (result[best]?.length ?? 0) ? i : best),
      result.findIndex((place) => !place.fixed),
    );
    const place = result[longest];
    if (!place || place.length < 2) break;
    const half = Math.floor(place.length / 2);
    result.splice(
      longest,
      1,
      { ...place, length: half },
      { ...place, start: place.start + half, length: place.length - half },
    );
  }
  return result;
}
