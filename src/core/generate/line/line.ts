import { type Random, type Ticks, bell, seeded, nth } from "../../base";
import { scalePitches } from "../../pitch";
import { sortNotes, type Note } from "../../score";
import { barTicks } from "../../time";
import { topLine } from "../common/idea";
import { velocityAt } from "../common/loudness";
import { classesAt, toneClasses } from "../common/tones";
import type { RhythmOptions } from "../rhythm/options";
import {
  exactly,
  givenPlaces,
  keptPlaces,
  newPlaces,
  rhythmPlaces,
  type NoteSlot,
} from "../rhythm/places";
import type { LineOptions } from "./options";
import { addVoices } from "./voices";
import { Walk, nearestIndex, nextIndex, reachBack, restingIndex, startIndex, within } from "./walk";

type PlainLineOptions = RhythmOptions & LineOptions;

/** A line as the first version made it: a rhythm, pitches walked over it, and further voices. */
export function plainLine(options: PlainLineOptions, seed: number): Note[] {
  const random = seeded(seed);
  const bar = barTicks(options.metre);
  const places = placesOf(options, bar, random);
  const pitches = pitchesOf(options, places, bar, random);
  const whole = options.bars * bar;
  const line = places.map((place, i): Note => {
    const id = `g${seed}-${i + 1}`;
    if (place.fixed) return { ...place.fixed, id };
    return {
      id,
      start: place.start,
      length: place.length,
      pitch: nth(pitches, i),
      velocity: place.velocity ?? velocityAt(place.start, { whole, bar }, options, random),
      pan: 0,
      tune: 0,
      slide: false,
    };
  });
  return [...sortNotes(options.voices > 1 ? addVoices(line, places, options) : line)];
}

function placesOf(options: PlainLineOptions, bar: Ticks, random: Random): NoteSlot[] {
  if (options.like) return variedPlaces(options, options.like, bar, random);
  if (options.rhythm) return rhythmPlaces(options, options.rhythm, bar);
  const places = newPlaces(options, bar, random);
  if (!options.pitches) return places;
  const fixed = places.filter((place) => place.fixed).length;
  return exactly(places, options.pitches.length + fixed, random);
}

/** The places of a line that is varied: a bar gets a new rhythm now and then. */
function variedPlaces(
  options: PlainLineOptions,
  like: NonNullable<RhythmOptions["like"]>,
  bar: Ticks,
  random: Random,
): NoteSlot[] {
  const old = topLine(like.notes);
  return Array.from({ length: options.bars }, (_, b) => {
    if (options.keepBars.includes(b)) return keptPlaces(options.kept, b, bar);
    const again = !options.rhythm && !options.pitches && random() * 100 < like.amount / 2;
    if (again) {
      const one = newPlaces({ ...options, bars: 1, keepBars: [], follow: null }, bar, random);
      return one.map((place) => ({ ...place, start: place.start + b * bar, bar: b }));
    }
    return givenPlaces(old, bar, options.bars).filter((place) => place.bar === b);
  }).flat();
}

function pitchesOf(
  options: PlainLineOptions,
  places: readonly NoteSlot[],
  bar: Ticks,
  random: Random,
) {
  if (options.pitches) {
    let next = 0;
    return places.map((place) => (place.fixed ? place.fixed.pitch : nth(options.pitches!, next++)));
  }
  const scale = scalePitches(options.key, options.low, options.high);
  const chordal = options.pool === "chords" && options.chords.length > 0;
  const all = Array.from({ length: options.high - options.low + 1 }, (_, i) => options.low + i);
  const pitches = chordal
    ? all.filter((pitch) => options.chords.some((chord) => chord.classes.includes(pitch % 12)))
    : scale;
  // A register that holds no tone of any chord falls back on the scale.
  const walk = new Walk({
    pitches: pitches.length > 0 ? pitches : scale,
    leap: options.leap,
    classesAt: (tick) => classesAt(options, tick),
    chordal: chordal && pitches.length > 0,
  });
  const old = options.like
    ? new Map(topLine(options.like.notes).map((note) => [note.start, note.pitch]))
    : null;
  return pitchLine(places, walk, options, bar, old, random);
}

function pitchLine(
  places: readonly NoteSlot[],
  walk: Walk,
  options: PlainLineOptions,
  bar: Ticks,
  old: ReadonlyMap<number, number> | null,
  random: Random,
): number[] {
  const line: number[] = [];
  const motif = new Map<number, number>();
  const first = places[0];
  const last = places[places.length - 1];
  const starts = first && toneClasses(options, options.startOn, first.start);
  const ends = last && toneClasses(options, options.endOn, last.start);
  const reach = reachBack(walk, places, ends ?? null);
  let bars = -1;
  let shift: number | null = null;
  places.forEach((place, i) => {
    if (place.bar !== bars) {
      bars = place.bar;
      const source = options.form === "question and answer" ? bars > 1 && bars % 2 === 0 : bars > 0;
      const returns = options.form !== "free" && source && random() * 100 < options.repetition;
      shift = returns ? Math.round(bell(random) * 3) : null;
    }
    if (place.fixed) {
      line.push(nearestIndex(walk.pitches, place.fixed.pitch));
      return;
    }
    const at = i > 0 ? nth(line, i - 1) : null;
    const before = i > 1 ? nth(line, i - 2) : null;
    const inBar = place.start % bar;
    const reachable = reach[i];
    const may = (index: number) => !reachable || reachable.has(index);
    const again = shift === null ? undefined : motif.get(inBar);
    const copied = again === undefined || shift === null ? undefined : again + shift;
    const was = old?.get(place.start);
    let index: number;
    if (was !== undefined && random() * 100 >= options.like!.amount) {
      index = nearestIndex(walk.pitches, was);
      if (at !== null && !within(walk, at, index)) {
        index = nextIndex(walk, { at, before, tick: place.start }, may, random);
      }
    } else if (at === null)
      index = startIndex(walk, { tick: place.start, classes: starts ?? null, may }, random);
    else if (
      copied !== undefined &&
      random() < 0.85 &&
      within(walk, at, copied) &&
      walk.allowed(copied, place.start) &&
      may(copied)
    ) {
      index = copied;
    } else index = nextIndex(walk, { at, before, tick: place.start }, may, random);
    if (i === places.length - 1)
      index = restingIndex(walk, index, { from: at, tick: place.start, classes: ends ?? null });
    else if (endsPhrase(places, i)) {
      const rest = restingIndex(walk, index, {
        from: at,
        tick: place.start,
        classes: walk.classesAt(place.start),
      });
      if (may(rest)) index = rest;
    }
    line.push(index);
    if (place.bar === 0) motif.set(inBar, index);
  });
  return line.map((index) => nth(walk.pitches, index));
}

/** Phrases are two bars; the last note of each, and of the whole, comes to rest. */
function endsPhrase(places: readonly NoteSlot[], i: number): boolean {
  const next = places[i + 1];
  return !next || (next.bar !== nth(places, i).bar && next.bar % 2 === 0);
}
