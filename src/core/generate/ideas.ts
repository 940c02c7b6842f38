import * as yup from "yup";
import { scalePitches, isScale, type Key } from "../pitch/scales";
import { bell, seeded, type Random } from "../random";
import type { Note } from "../score/model";
import { problemsOf } from "../score/schema";
import { GRID_VALUES } from "../time/grid";
import { PPQ, barTicks, type Metre } from "../time/ticks";
import { chordTones, nextIndex, restingIndex, startIndex, within, type Walk } from "./melody";
import { fillRhythm, type Slot, type ValueWeight } from "./rhythm";

/** What to generate. Everything has a default. */
export interface IdeaOptions {
  key: Key;
  metre: Metre;
  /** Length in bars, 1–64. */
  bars: number;
  /** Register: lowest and highest MIDI pitch. */
  low: number;
  high: number;
  /** Share of the rhythm's places that hold a note, 0–100 %; the rest are rests. */
  density: number;
  /** Note values and their shares of the time. */
  values: readonly ValueWeight[];
  /** Largest leap in semitones, 1–24. */
  leap: number;
  /** How often the first bar returns, varied, 0–100 %. */
  repetition: number;
  /** Velocity from … to. */
  softest: number;
  loudest: number;
  /** How many ideas, 1–64. */
  count: number;
  seed: number;
  /** Keep this rhythm and ask only for pitches; null for new rhythms. */
  rhythm: readonly Pick<Note, "start" | "length" | "velocity">[] | null;
}

export const IDEA_DEFAULTS: IdeaOptions = {
  key: { root: 0, scale: "minor" },
  metre: { beats: 4, unit: 4 },
  bars: 2,
  low: 36,
  high: 60,
  density: 80,
  values: [
    { value: 4, kind: "straight", weight: 1 },
    { value: 8, kind: "straight", weight: 3 },
    { value: 16, kind: "straight", weight: 1 },
  ],
  leap: 12,
  repetition: 60,
  softest: 70,
  loudest: 112,
  count: 6,
  seed: 1,
  rhythm: null,
};

/** One generated line. The same options and seed give the same notes everywhere. */
export interface Idea {
  seed: number;
  notes: Note[];
}

const inRange = (min: number, max: number) =>
  yup
    .number()
    .strict()
    .required()
    .min(min, `must be at least ${min}`)
    .max(max, `must be at most ${max}`);
const wholeIn = (min: number, max: number) => inRange(min, max).integer("must be a whole number");

const optionsSchema = yup.object({
  bars: wholeIn(1, 64),
  low: wholeIn(0, 127),
  high: wholeIn(0, 127),
  density: inRange(0, 100),
  leap: wholeIn(1, 24),
  repetition: inRange(0, 100),
  softest: wholeIn(1, 127),
  loudest: wholeIn(1, 127),
  count: wholeIn(1, 64),
  seed: wholeIn(0, 2 ** 31 - 1),
  values: yup
    .array(
      yup.object({
        value: wholeIn(1, 128).oneOf([...GRID_VALUES]),
        kind: yup.string().required().oneOf(["straight", "triplet", "dotted"]),
        weight: inRange(0, 1000),
      }),
    )
    .required()
    .test("some", "must give at least one note value a weight above 0", (list) =>
      (list ?? []).some((v) => Number(v?.weight) > 0),
    ),
});

/**
 * A batch of lines in a key, none alike: each fills its bars exactly with the wanted note values,
 * stays in scale and register, favours steps over leaps, answers large leaps by a step back, lets
 * its first bar return varied and ends on a tone of the key's chord.
 * Throws a RangeError that names every option out of range.
 */
export function generateIdeas(options: Partial<IdeaOptions> = {}): Idea[] {
  const full: IdeaOptions = { ...IDEA_DEFAULTS, ...options };
  const problems = problemsOf(optionsSchema, full).map((p) => `${p.path} ${p.reason}`);
  if (!isScale(full.key.scale)) problems.push(`key.scale “${full.key.scale}” is no known scale`);
  if (full.low > full.high) problems.push("low must not be above high");
  if (full.softest > full.loudest) problems.push("softest must not be above loudest");
  if (problems.length === 0 && scalePitches(full.key, full.low, full.high).length === 0) {
    problems.push(`no note of the scale lies between ${full.low} and ${full.high}`);
  }
  if (problems.length > 0) throw new RangeError(`Ideas: ${problems.join("; ")}`);

  const ideas: Idea[] = [];
  const known = new Set<string>();
  let seed = full.seed;
  // A narrow register can hold fewer different lines than asked for; then there are fewer.
  for (let tries = 0; ideas.length < full.count && tries < full.count * 20; tries++) {
    const idea = { seed, notes: makeIdea(full, seed) };
    const shape = idea.notes.map((n) => `${n.start},${n.length},${n.pitch}`).join(" ");
    if (!known.has(shape)) ideas.push(idea);
    known.add(shape);
    seed = (seed + 1) % 2 ** 31;
  }
  return ideas;
}

interface Place extends Slot {
  bar: number;
  velocity: number | null;
}

function makeIdea(o: IdeaOptions, seed: number): Note[] {
  const random = seeded(seed);
  const bar = barTicks(o.metre);
  const places = o.rhythm ? givenPlaces(o.rhythm, bar, o.bars) : newPlaces(o, bar, random);
  const walk: Walk = {
    pitches: scalePitches(o.key, o.low, o.high),
    tones: chordTones(o.key),
    leap: o.leap,
  };
  const indexes = pitchLine(places, walk, o, bar, random);
  return places.map((place, i) => ({
    id: `g${seed}-${i + 1}`,
    start: place.start,
    length: place.length,
    pitch: walk.pitches[indexes[i]!]!,
    velocity: place.velocity ?? velocityAt(place.start % bar, bar, o, random),
    pan: 0,
    tune: 0,
    slide: false,
  }));
}

function givenPlaces(
  rhythm: NonNullable<IdeaOptions["rhythm"]>,
  bar: number,
  bars: number,
): Place[] {
  return rhythm
    .filter((n) => n.start >= 0 && n.start < bars * bar)
    .map(({ start, length, velocity }) => ({
      start,
      length,
      velocity,
      bar: Math.floor(start / bar),
    }));
}

/** Rhythm of all bars: the first bar's returns with the chance asked for, else a new one. */
function newPlaces(o: IdeaOptions, bar: number, random: Random): Place[] {
  const sounding = (slots: Slot[]) => slots.filter(() => random() * 100 < o.density);
  let motif = sounding(fillRhythm(bar, o.values, random));
  if (motif.length === 0) motif = fillRhythm(bar, o.values, random).slice(0, 1);
  const places: Place[] = [];
  for (let b = 0; b < o.bars; b++) {
    const returns = b > 0 && random() * 100 < o.repetition;
    const slots = b === 0 || returns ? motif : sounding(fillRhythm(bar, o.values, random));
    for (const s of slots) {
      places.push({ start: b * bar + s.start, length: s.length, bar: b, velocity: null });
    }
  }
  return places;
}

function pitchLine(
  places: readonly Place[],
  walk: Walk,
  o: IdeaOptions,
  bar: number,
  random: Random,
): number[] {
  const line: number[] = [];
  const motif = new Map<number, number>();
  let bars = -1;
  let shift: number | null = null;
  places.forEach((place, i) => {
    if (place.bar !== bars) {
      bars = place.bar;
      const returns = bars > 0 && random() * 100 < o.repetition;
      shift = returns ? Math.round(bell(random) * 3) : null;
    }
    const at = i > 0 ? line[i - 1]! : null;
    const before = i > 1 ? line[i - 2]! : null;
    const inBar = place.start % bar;
    const strong = inBar % PPQ === 0;
    const copied = shift === null ? undefined : motif.get(inBar);
    let index: number;
    if (at === null) index = startIndex(walk, random);
    else if (copied !== undefined && random() < 0.85 && within(walk, at, copied + shift!)) {
      index = copied + shift!;
    } else index = nextIndex(walk, at, before, strong, random);
    if (endsPhrase(places, i)) index = restingIndex(walk, index, at);
    line.push(index);
    if (place.bar === 0) motif.set(inBar, index);
  });
  return line;
}

/** Phrases are two bars; the last note of each, and of the whole, comes to rest. */
function endsPhrase(places: readonly Place[], i: number): boolean {
  const next = places[i + 1];
  return !next || (next.bar !== places[i]!.bar && next.bar % 2 === 0);
}

function velocityAt(inBar: number, bar: number, o: IdeaOptions, random: Random): number {
  const strength = inBar === 0 ? 1 : inBar === bar / 2 ? 0.8 : inBar % PPQ === 0 ? 0.65 : 0.35;
  const at = Math.min(1, Math.max(0, strength + bell(random) * 0.35));
  return Math.round(o.softest + at * (o.loudest - o.softest));
}
