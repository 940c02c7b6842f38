import { type Random, type Ticks, bell, seeded } from "../../base";
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
export function plainLine(o: PlainLineOptions, seed: number): Note[] {
  const random = seeded(seed);
  const bar = barTicks(o.metre);
  const places = placesOf(o, bar, random);
  const pitches = pitchesOf(o, places, bar, random);
  const whole = o.bars * bar;
  const line = places.map((place, i): Note => {
    const id = `g${seed}-${i + 1}`;
    if (place.fixed) return { ...place.fixed, id };
    return {
      id,
      start: place.start,
      length: place.length,
      pitch: pitches[i]!,
      velocity: place.velocity ?? velocityAt(place.start, whole, bar, o, random),
      pan: 0,
      tune: 0,
      slide: false,
    };
  });
  return [...sortNotes(o.voices > 1 ? addVoices(line, places, o) : line)];
}

function placesOf(o: PlainLineOptions, bar: Ticks, random: Random): NoteSlot[] {
  if (o.like) return variedPlaces(o, o.like, bar, random);
  if (o.rhythm) return rhythmPlaces(o, o.rhythm, bar);
  const places = newPlaces(o, bar, random);
  if (!o.pitches) return places;
  const fixed = places.filter((place) => place.fixed).length;
  return exactly(places, o.pitches.length + fixed, random);
}

/** The places of a line that is varied: a bar gets a new rhythm now and then. */
function variedPlaces(
  o: PlainLineOptions,
  like: NonNullable<RhythmOptions["like"]>,
  bar: Ticks,
  random: Random,
): NoteSlot[] {
  const old = topLine(like.notes);
  return Array.from({ length: o.bars }, (_, b) => {
    if (o.keepBars.includes(b)) return keptPlaces(o.kept, b, bar);
    const again = !o.rhythm && !o.pitches && random() * 100 < o.like!.amount / 2;
    if (again) {
      const one = newPlaces({ ...o, bars: 1, keepBars: [], follow: null }, bar, random);
      return one.map((place) => ({ ...place, start: place.start + b * bar, bar: b }));
    }
    return givenPlaces(old, bar, o.bars).filter((place) => place.bar === b);
  }).flat();
}

function pitchesOf(o: PlainLineOptions, places: readonly NoteSlot[], bar: Ticks, random: Random) {
  if (o.pitches) {
    let next = 0;
    return places.map((place) => (place.fixed ? place.fixed.pitch : o.pitches![next++]!));
  }
  const scale = scalePitches(o.key, o.low, o.high);
  const chordal = o.pool === "chords" && o.chords.length > 0;
  const all = Array.from({ length: o.high - o.low + 1 }, (_, i) => o.low + i);
  const pitches = chordal
    ? all.filter((p) => o.chords.some((chord) => chord.classes.includes(p % 12)))
    : scale;
  // A register that holds no tone of any chord falls back on the scale.
  const walk = new Walk({
    pitches: pitches.length > 0 ? pitches : scale,
    leap: o.leap,
    classesAt: (tick) => classesAt(o, tick),
    chordal: chordal && pitches.length > 0,
  });
  const old = o.like ? new Map(topLine(o.like.notes).map((n) => [n.start, n.pitch])) : null;
  return pitchLine(places, walk, o, bar, old, random);
}

function pitchLine(
  places: readonly NoteSlot[],
  walk: Walk,
  o: PlainLineOptions,
  bar: Ticks,
  old: ReadonlyMap<number, number> | null,
  random: Random,
): number[] {
  const line: number[] = [];
  const motif = new Map<number, number>();
  const first = places[0];
  const last = places[places.length - 1];
  const starts = first && toneClasses(o, o.startOn, first.start);
  const ends = last && toneClasses(o, o.endOn, last.start);
  const reach = reachBack(walk, places, ends ?? null);
  let bars = -1;
  let shift: number | null = null;
  places.forEach((place, i) => {
    if (place.bar !== bars) {
      bars = place.bar;
      const source = o.form === "question and answer" ? bars > 1 && bars % 2 === 0 : bars > 0;
      const returns = o.form !== "free" && source && random() * 100 < o.repetition;
      shift = returns ? Math.round(bell(random) * 3) : null;
    }
    if (place.fixed) {
      line.push(nearestIndex(walk.pitches, place.fixed.pitch));
      return;
    }
    const at = i > 0 ? line[i - 1]! : null;
    const before = i > 1 ? line[i - 2]! : null;
    const inBar = place.start % bar;
    const may = (index: number) => !reach[i] || reach[i]!.has(index);
    const copied = shift === null ? undefined : motif.get(inBar);
    const was = old?.get(place.start);
    let index: number;
    if (was !== undefined && random() * 100 >= o.like!.amount) {
      index = nearestIndex(walk.pitches, was);
      if (at !== null && !within(walk, at, index)) {
        index = nextIndex(walk, at, before, place.start, random, may);
      }
    } else if (at === null) index = startIndex(walk, place.start, starts ?? null, random, may);
    else if (
      copied !== undefined &&
      random() < 0.85 &&
      within(walk, at, copied + shift!) &&
      walk.allowed(copied + shift!, place.start) &&
      may(copied + shift!)
    ) {
      index = copied + shift!;
    } else index = nextIndex(walk, at, before, place.start, random, may);
    if (i === places.length - 1) index = restingIndex(walk, index, at, place.start, ends ?? null);
    else if (endsPhrase(places, i)) {
      const rest = restingIndex(walk, index, at, place.start, walk.classesAt(place.start));
      if (may(rest)) index = rest;
    }
    line.push(index);
    if (place.bar === 0) motif.set(inBar, index);
  });
  return line.map((index) => walk.pitches[index]!);
}

/** Phrases are two bars; the last note of each, and of the whole, comes to rest. */
function endsPhrase(places: readonly NoteSlot[], i: number): boolean {
  const next = places[i + 1];
  return !next || (next.bar !== places[i]!.bar && next.bar % 2 === 0);
}
