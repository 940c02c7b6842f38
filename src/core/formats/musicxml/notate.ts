import { type Ticks, nth, mustGet, lastOf } from "../../base";
import { PPQ } from "../../time";
import type { PlaybackEvent } from "../../playback";
import type { Measure } from "./measures";

/** A stretch of one voice in a bar: notes together, or a rest. */
export interface Piece {
  /** Ticks from the beginning of what is played. */
  at: Ticks;
  length: Ticks;
  /** What sounds; empty for a rest. */
  events: readonly PlaybackEvent[];
  /** Whether it goes on from the piece before, and into the next. */
  tied: { from: boolean; on: boolean };
  value: NoteValue;
  /** Of a group of three in the time of two: whether it begins or ends here. */
  tuplet: { begins: boolean; ends: boolean } | null;
}

/** How a length is written. */
export interface NoteValue {
  /** 1 whole, 2 half, 4 quarter, … */
  value: number;
  dots: 0 | 1;
}

/** The bars of one part with its voices, and how many notes gave way. */
export interface Notated {
  bars: Piece[][][];
  lost: number;
}

export interface NotateOptions {
  /** The smallest value written: 8, 16 or 32. */
  smallest: number;
  /** Whether beats may be divided in three. */
  triplets: boolean;
  /** For hits: each is written as long as it is until the next one, within its beat. */
  hits: boolean;
}

/** More voices are not written on one staff. */
const MAX_VOICES = 4;
/** Dividing a beat in three must be nearer by this much to be taken: a straight beat a little late stays one. */
const BETTER = 0.6;

interface Placed {
  from: Ticks;
  to: Ticks;
  event: PlaybackEvent;
}

/** A beat and how it is divided. */
interface Beat {
  at: Ticks;
  length: Ticks;
  /** Ticks of the smallest step in it. */
  step: Ticks;
  triplet: boolean;
}

/**
 * Writes what is played as a person would: onsets and ends on the nearest step of their beat, which is divided by
 * the smallest value or in three, whichever is nearer to what is played in it; notes that begin and end together
 * as chords; others that overlap in voices; lengths cut at bars and beats so that the beats are seen.
 */
export function notate(
  events: readonly PlaybackEvent[],
  measures: readonly Measure[],
  { smallest, triplets, hits }: NotateOptions,
): Notated {
  const beats = beatsOf(events, measures, smallest, triplets);
  const total = measures.reduce((sum, { length }) => sum + length, 0);
  const placed = events
    .map((event): Placed => {
      const from = onStep(beats, event.start, total);
      return { from, to: Math.max(onStep(beats, event.start + event.length, total), 0), event };
    })
    .filter(({ from }) => from < total)
    .map((one) => ({ ...one, to: one.to > one.from ? one.to : stepAfter(beats, one.from, total) }));
  const voices = inVoices(hits ? untilNext(placed, beats) : placed);
  const lost = voices.slice(MAX_VOICES).reduce((sum, voice) => sum + voice.length, 0);
  const written = voices.slice(0, MAX_VOICES);
  if (written.length === 0) written.push([]);
  /** For each voice its first sound that is not over yet. */
  const begins = written.map(() => 0);
  const bars = measures.map((measure) =>
    written.flatMap((voice, i) => {
      while (nth(begins, i) < voice.length && nth(voice, nth(begins, i)).to <= measure.at)
        begins[i]!++;
      const own = pieces(voice, nth(begins, i), measure, beats);
      // A further voice that only rests is not written.
      return i > 0 && own.every((piece) => piece.events.length === 0) ? [] : [own];
    }),
  );
  return { bars, lost };
}

function beatsOf(
  events: readonly PlaybackEvent[],
  measures: readonly Measure[],
  smallest: number,
  triplets: boolean,
): Beat[] {
  const straight = (4 * PPQ) / smallest;
  let next = 0;
  const sorted = [...events].sort((a, b) => a.start - b.start);
  return measures.flatMap(({ at, length, beat }) => {
    const made: Beat[] = [];
    for (let tick = 0; tick < length; tick += beat) {
      const own = { at: at + tick, length: Math.min(beat, length - tick) };
      while (next < sorted.length && nth(sorted, next).start < own.at - straight / 2) next++;
      let i = next;
      let [even, three, count] = [0, 0, 0];
      // Only a beat of a quarter is written in three; those of 6/8 are so already.
      const third = own.length === PPQ ? PPQ / (smallest >= 16 ? 6 : 3) : 0;
      for (; i < sorted.length && nth(sorted, i).start < own.at + own.length; i++) {
        const since = Math.max(0, nth(sorted, i).start - own.at);
        even += offBy(since, straight);
        three += third > 0 ? offBy(since, third) : Infinity;
        count++;
      }
      const triplet = triplets && third > 0 && count > 0 && three < even * BETTER;
      made.push({ ...own, step: triplet ? third : Math.min(straight, own.length), triplet });
    }
    return made;
  });
}

const offBy = (ticks: Ticks, step: Ticks) => Math.abs(ticks - Math.round(ticks / step) * step);

/** The beat a tick lies in. */
function beatAt(beats: readonly Beat[], tick: Ticks): Beat {
  let [low, high] = [0, beats.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (nth(beats, middle).at <= tick) low = middle;
    else high = middle - 1;
  }
  return nth(beats, low);
}

function onStep(beats: readonly Beat[], tick: Ticks, total: Ticks): Ticks {
  const beat = beatAt(beats, Math.max(0, Math.min(tick, total)));
  const since = Math.min(beat.length, Math.round((tick - beat.at) / beat.step) * beat.step);
  return Math.max(0, Math.min(total, beat.at + since));
}

function stepAfter(beats: readonly Beat[], tick: Ticks, total: Ticks): Ticks {
  return Math.min(total, tick + beatAt(beats, tick).step);
}

/** Hits until the next one, but no further than their beat: how long one rings is not written. */
function untilNext(placed: readonly Placed[], beats: readonly Beat[]): Placed[] {
  const onsets = [...new Set(placed.map(({ from }) => from))].sort((a, b) => a - b);
  const next = new Map(onsets.map((at, i) => [at, onsets[i + 1] ?? Infinity]));
  return placed.map((one) => {
    const { at, length } = beatAt(beats, one.from);
    return { ...one, to: Math.min(mustGet(next, one.from), at + length) };
  });
}

/** Chords of what begins and ends together. */
interface Sound {
  from: Ticks;
  to: Ticks;
  events: PlaybackEvent[];
}

/** One pitch is written once at a time: the same again ends the one before. */
function inVoices(placed: readonly Placed[]): Sound[][] {
  const sounds = new Map<string, Sound>();
  const order = [...placed].sort(
    (a, b) => a.from - b.from || b.event.pitch - a.event.pitch || b.to - a.to,
  );
  const last = new Map<number, Placed>();
  const single: Placed[] = [];
  for (const one of order) {
    const before = last.get(one.event.pitch);
    if (before && before.from === one.from) continue;
    if (before && before.to > one.from) before.to = one.from;
    const own = { ...one };
    last.set(one.event.pitch, own);
    single.push(own);
  }
  for (const { from, to, event } of single) {
    const key = `${from} ${to}`;
    const sound = sounds.get(key);
    if (sound) sound.events.push(event);
    else sounds.set(key, { from, to, events: [event] });
  }
  const voices: Sound[][] = [];
  for (const sound of [...sounds.values()].sort((a, b) => a.from - b.from || b.to - a.to)) {
    const free = voices.find((voice) => lastOf(voice).to <= sound.from);
    if (free) free.push(sound);
    else voices.push([sound]);
  }
  return voices;
}

/** A voice in one bar: what sounds, rests between, cut so that each piece can be written. */
function pieces(
  voice: readonly Sound[],
  first: number,
  measure: Measure,
  beats: readonly Beat[],
): Piece[] {
  const [begin, end] = [measure.at, measure.at + measure.length];
  const list: Piece[] = [];
  let at = begin;
  const put = (to: Ticks, sound: Sound | null) => {
    for (const [from, length] of cuts(at, to, measure, beats)) {
      const beat = beatAt(beats, from);
      const inThree = beat.triplet && length < beat.length;
      list.push({
        at: from,
        length,
        events: sound?.events ?? [],
        tied: {
          from: sound !== null && from > sound.from,
          on: sound !== null && from + length < sound.to,
        },
        value: valueOf(inThree ? (length * 3) / 2 : length)!,
        tuplet: inThree
          ? { begins: from === beat.at, ends: from + length === beat.at + beat.length }
          : null,
      });
    }
    at = to;
  };
  for (let i = first; i < voice.length && nth(voice, i).from < end; i++) {
    const sound = nth(voice, i);
    if (sound.to <= begin) continue;
    if (sound.from > at) put(sound.from, null);
    put(Math.min(end, sound.to), sound);
  }
  if (at < end) put(end, null);
  return list;
}

/** How a length is written without ties; null where it is not. */
export function valueOf(ticks: Ticks): NoteValue | null {
  for (let value = 1; value <= 64; value *= 2) {
    const whole = (4 * PPQ) / value;
    if (ticks === whole * 1.5) return { value, dots: 1 };
    if (ticks === whole) return { value, dots: 0 };
  }
  return null;
}

/** Cuts a stretch of a bar into lengths that can be written, with the beats seen. */
function cuts(
  from: Ticks,
  to: Ticks,
  { at: bar, beat: beatLength }: Measure,
  beats: readonly Beat[],
): [Ticks, Ticks][] {
  const made: [Ticks, Ticks][] = [];
  for (let at = from; at < to;) {
    const beat = beatAt(beats, at);
    const inBeat = beat.at + beat.length;
    const onBeat = at === beat.at;
    // What begins between beats ends with its beat; on a beat it may be as long as whole beats are.
    let most = onBeat && to >= inBeat ? to : Math.min(to, inBeat);
    if (onBeat && to >= inBeat) {
      const whole = (at - bar) % beatLength === 0 ? to - ((to - bar) % beatLength) : inBeat;
      most = Math.max(inBeat, Math.min(to, whole));
    }
    let length = largest(most - at, beat, at);
    // Beats in three are not joined to what follows, but as whole beats.
    if (length > inBeat - at && crossesTriplet(beats, at, at + length)) length = inBeat - at;
    made.push([at, length]);
    at += length;
  }
  return made;
}

const crossesTriplet = (beats: readonly Beat[], from: Ticks, to: Ticks): boolean => {
  const last = beatAt(beats, to - 1);
  return last.triplet && to < last.at + last.length && last.at > from;
};

/** The largest length that can be written and is no longer. */
function largest(most: Ticks, beat: Beat, at: Ticks): Ticks {
  const whole = at === beat.at && most >= beat.length;
  const unit = beat.triplet && !whole ? 2 / 3 : 1;
  for (let value = 1; value <= 128; value *= 2) {
    const plain = ((4 * PPQ) / value) * unit;
    for (const length of [plain * 1.5, plain]) {
      // A dotted value in three is another value: it is written as that.
      if (length <= most && valueOf(Math.round(length / unit))) return length;
    }
  }
  return most;
}
