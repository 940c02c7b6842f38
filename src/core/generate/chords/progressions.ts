import * as yup from "yup";
import { type MidiPitch, type Random, type Ticks, seeded, nth } from "../../base";
import { type Metre, barTicks, beatTicks, beatsInBar } from "../../time";
import { type Key, chordPitches, chordText, isScale, keyName, parseChord } from "../../pitch";
import { problemsOf } from "../../params";
import { type ChordMark, type Note, makeNote } from "../../score";
import { drawLine, type Step } from "../common/chain";
import type { Idea } from "../common/idea";
import {
  SEVENTHS,
  degreeChords,
  goesOn,
  harmonicKey,
  type DegreeChord,
  type Sevenths,
} from "./functions";
import { voiced } from "./voicing";

/** How a line of chords ends. */
export const CHORD_ENDS = ["leads back", "at home", "open", "plagal", "deceptive"] as const;
export type ChordEnd = (typeof CHORD_ENDS)[number];
/** How often the chord changes. */
export const CHORD_RATES = ["one in two bars", "one a bar", "two a bar"] as const;
export type ChordRate = (typeof CHORD_RATES)[number];

/** What lines of chords are made with. Everything has a default. */
export interface ProgressionOptions {
  key: Key;
  metre: Metre;
  /** 1–64. */
  bars: number;
  rate: ChordRate;
  /** `leads back`: to its beginning, from a dominant or subdominant; the others are cadences. */
  end: ChordEnd;
  sevenths: Sevenths;
  /** How many lines, 1–64. */
  count: number;
  seed: number;
  /** Where chords are laid that are heard, and from where on their voices move least: lowest root. */
  low: MidiPitch;
  /** Bars (from 0) whose chords stay as they are in `kept`. */
  keepBars: readonly number[];
  kept: readonly ChordMark[];
}

export const PROGRESSION_DEFAULTS: ProgressionOptions = {
  key: { root: 0, scale: "minor" },
  metre: { beats: 4, unit: 4 },
  bars: 4,
  rate: "one a bar",
  end: "leads back",
  sevenths: "none",
  count: 12,
  seed: 1,
  low: 55,
  keepBars: [],
  kept: [],
};

/** A line of chords: as marks, and as held notes to be seen and heard. */
export interface ChordIdea extends Idea {
  chords: readonly ChordMark[];
  description: string;
}

const whole = (min: number, max: number) =>
  yup.number().strict().required().integer().min(min).max(max);
const oneOf = (list: readonly string[]) =>
  yup
    .string()
    .strict()
    .required()
    .oneOf([...list]);
const schema = yup.object({
  bars: whole(1, 64),
  rate: oneOf(CHORD_RATES),
  end: oneOf(CHORD_ENDS),
  sevenths: oneOf(SEVENTHS),
  count: whole(1, 64),
  seed: whole(0, 2 ** 31 - 1),
  low: whole(0, 127),
});

/** So many in a row that are there already mean that there are no others. */
const MAX_ALIKE = 64;

/**
 * A batch of chord lines of a key, none alike: functions in their order, an end as asked, voices that move little. The
 * same options and seed give the same chords. Throws a RangeError that names every option out of range.
 */
export function generateProgressions(options: Partial<ProgressionOptions> = {}): ChordIdea[] {
  const o = { ...PROGRESSION_DEFAULTS, ...options };
  const problems = problemsOf(schema, o).map((problem) => `${problem.path} ${problem.reason}`);
  if (!isScale(o.key.scale)) problems.push(`key.scale “${o.key.scale}” is no known scale`);
  if (problems.length > 0) throw new RangeError(`Chords: ${problems.join("; ")}`);
  const key = harmonicKey(o.key);
  const chords = degreeChords(key, o.sevenths);
  const starts = changesOf(o);
  const ideas: ChordIdea[] = [];
  const known = new Set<string>();
  for (let i = 0, alike = 0; ideas.length < o.count && alike < MAX_ALIKE; i++) {
    const seed = (o.seed + i) % 2 ** 31;
    const progression = lineOf(o, chords, starts, seeded(seed));
    const sign = progression.map(({ name }) => name).join(" ");
    if (known.has(sign)) {
      alike++;
      continue;
    }
    alike = 0;
    known.add(sign);
    ideas.push(ideaOf(o, key, progression, starts, seed));
  }
  return ideas;
}

/** Where chords begin; of two in a bar the second on the beat after its middle. */
function changesOf({ metre, bars, rate }: ProgressionOptions): Ticks[] {
  const bar = barTicks(metre);
  const beats = beatsInBar(metre);
  return Array.from({ length: bars }, (_, b): Ticks[] => {
    if (rate === "one in two bars") return b % 2 === 0 ? [b * bar] : [];
    const middle = b * bar + Math.ceil(beats / 2) * beatTicks(metre);
    return rate === "two a bar" && beats > 1 ? [b * bar, middle] : [b * bar];
  }).flat();
}

/** A chord of the line: one of the key, or one that was kept. */
type Placed = Pick<DegreeChord, "name" | "numeral">;

function lineOf(
  options: ProgressionOptions,
  chords: readonly DegreeChord[],
  starts: readonly Ticks[],
  random: Random,
): Placed[] {
  const bar = barTicks(options.metre);
  const count = starts.length;
  const keptAt = (start: Ticks) =>
    options.keepBars.includes(Math.floor(start / bar))
      ? options.kept.findLast((mark) => mark.start <= start)
      : undefined;
  const kept = starts.map(keptAt);
  const index = (name: string) => chords.findIndex((chord) => chord.name === name);
  const steps = starts.map((_, k): Step => {
    const own = kept[k];
    const at = own ? index(own.name) : -1;
    return {
      offsets: [0],
      // A chord that the key has not may follow and be followed by any.
      weight: (i) =>
        own ? (at < 0 || i === at ? 1 : 0) : welcome(nth(chords, i), k, count, options.end),
    };
  });
  const foreign = kept.map((own) => own !== undefined && index(own.name) < 0);
  const fixed = kept.map((own) => own !== undefined);
  const moves = {
    size: chords.length,
    weight: (from: number, to: number) => goesOn(nth(chords, from), nth(chords, to)),
    // Going to and fro between two chords stands still.
    after: (before: number | null, from: number, to: number) =>
      goesOn(nth(chords, from), nth(chords, to)) * (to === before ? 0.25 : 1),
  };
  const free = {
    size: chords.length,
    weight: () => 1,
    after: () => 1,
  };
  // What was kept may stand in no order at all: then nothing is asked of what follows what.
  const drawn =
    (foreign.includes(true)
      ? null
      : drawLine(steps, moves, { from: null, before: null }, random)) ??
    drawLine(steps, fixed.includes(true) ? free : moves, { from: null, before: null }, random) ??
    starts.map(() => 0);
  // The second half begins as the first did, where that leads to where it has to go.
  const again = count >= 8 && count % 4 === 0 && !fixed.includes(true);
  const as = (k: number) => (k % (count / 2) < count / 4 ? drawn[k % (count / 2)] : undefined);
  const returning = steps.map((step, k): Step => {
    const wanted = again ? as(k) : undefined;
    return wanted === undefined ? step : { offsets: [0], weight: (i) => (i === wanted ? 1 : 0) };
  });
  const returned = again ? drawLine(returning, moves, { from: null, before: null }, random) : null;
  const progression = (returned ?? drawn).map((i): DegreeChord => nth(chords, i));
  return progression.map((chord, k) =>
    kept[k] ? { name: kept[k].name, numeral: numeralOf(kept[k].name, chords) } : chord,
  );
}

const numeralOf = (name: string, chords: readonly DegreeChord[]) =>
  chords.find((chord) => chord.name === name)?.numeral ?? chordText(name || "N.C.");

/** How welcome a chord is in its place, by how the line is to end. */
function welcome(chord: DegreeChord, k: number, count: number, end: ChordEnd): number {
  const { degree, does, perfect } = chord;
  if (k === count - 1 && count > 1) {
    if (end === "at home" || end === "plagal") return degree === 1 ? 1 : 0;
    if (end === "open") return degree === 5 ? 1 : 0;
    if (end === "deceptive") return degree === 6 ? 1 : 0;
    return does === "tonic" ? 0 : degree === 5 ? 2 : degree === 7 ? 0.3 : 1;
  }
  if (k === 0) {
    if (count === 1) return degree === 1 ? 1 : 0;
    // A chord that rests not in itself begins nothing.
    const first = { 1: 6, 6: 1.2, 4: 0.8 }[degree] ?? 0;
    return degree === 1 || perfect ? first : 0;
  }
  if (k === count - 2) {
    if (end === "at home") return degree === 5 ? 1 : degree === 7 ? 0.15 : 0;
    if (end === "plagal") return degree === 4 ? 1 : 0;
    if (end === "deceptive") return degree === 5 ? 1 : 0;
  }
  return 1;
}

const SAYS: Readonly<Record<ChordEnd, string>> = {
  "leads back": "leads back",
  "at home": "comes home",
  open: "ends open, on the dominant",
  plagal: "comes home from the subdominant",
  deceptive: "the end is put off",
};

function ideaOf(
  options: ProgressionOptions,
  key: Key,
  progression: readonly Placed[],
  starts: readonly Ticks[],
  seed: number,
): ChordIdea {
  const marks = progression.map(({ name }, k): ChordMark => ({
    id: `c${seed}-${k}`,
    start: nth(starts, k),
    name,
    inversion: 0,
    spread: "close",
  }));
  const chords = voiced(marks, options.low);
  const end = options.bars * barTicks(options.metre);
  const notes = chords.flatMap((mark, k): Note[] => {
    const chord = parseChord(mark.name);
    if (!chord) return [];
    const { start, inversion } = mark;
    const length = (starts[k + 1] ?? end) - start;
    return chordPitches(chord, { inversion, low: options.low }).map((pitch, voice) =>
      makeNote({ id: `g${seed}-${k}-${voice}`, start, length, pitch, velocity: 84 }),
    );
  });
  const numerals = progression.map(({ numeral }) => numeral).join(" ");
  const stands =
    key === options.key
      ? ""
      : `; chords of ${keyName(key)}, since ${options.key.scale} has none of its own`;
  return { seed, notes, chords, description: `${numerals}: ${SAYS[options.end]}${stands}` };
}
