import * as yup from "yup";
import {
  type MidiPitch,
  type Random,
  type Ticks,
  bell,
  pickWeighted,
  plural,
  roundedByChance,
  seeded,
  clamp,
} from "../../base";
import { type Metre, barTicks, beatTicks } from "../../time";
import { problemsOf } from "../../params";
import { type Note, shapeOf, sortNotes } from "../../score";
import { evenSpread, fillOver } from "../../transforms";
import { byBar, cellStarts, hitOf } from "./cells";
import type { DrumIdeaOptions, DrumLane } from "./options";
import { drumsInStyle } from "./roles";
import type { Idea } from "../common/idea";
import { DRUM_STYLES } from "./styles/registry";
import type { DrumStyle } from "./styles/style";

export const DRUM_IDEA_DEFAULTS: DrumIdeaOptions = {
  lanes: [],
  metre: { beats: 4, unit: 4 },
  bars: 1,
  density: 35,
  syncopation: 30,
  spread: 30,
  repetition: 70,
  softest: 50,
  loudest: 118,
  count: 12,
  seed: 1,
  style: "",
  fill: 0,
};

const inRange = (min: number, max: number) => yup.number().strict().required().min(min).max(max);
const schema = yup.object({
  lanes: yup.array().min(1, "must name at least one lane").required(),
  bars: inRange(1, 64).integer(),
  density: inRange(0, 100),
  syncopation: inRange(0, 100),
  spread: inRange(0, 100),
  repetition: inRange(0, 100),
  softest: inRange(1, 127).integer(),
  loudest: inRange(1, 127).integer(),
  count: inRange(1, 64).integer(),
  seed: inRange(0, 2 ** 31 - 1).integer(),
  fill: inRange(0, 16).integer(),
  style: yup
    .string()
    .strict()
    .defined()
    .oneOf(["", ...DRUM_STYLES.map(({ id }) => id)], "must be a known style"),
});

/** So many in a row that are there already mean that there are no others. */
const MAX_ALIKE = 32;

/**
 * A batch of ideas for drum lanes, none alike: as many hits as the density says, on strong beats or
 * beside them, evenly spread or by chance. Kicks lean to beats 1 and 3, snares and claps to 2 and 4
 * (common practice). Throws a RangeError that names what is out of range.
 */
export function generateDrumIdeas(options: Partial<DrumIdeaOptions> = {}): Idea[] {
  const o = { ...DRUM_IDEA_DEFAULTS, ...options };
  const problems = problemsOf(schema, o).map((problem) => `${problem.path} ${problem.reason}`);
  if (o.softest > o.loudest) problems.push("softest must not be above loudest");
  if (problems.length > 0) throw new RangeError(`Ideas: ${problems.join("; ")}`);
  const ideas: Idea[] = [];
  const known = new Set<string>();
  const style = DRUM_STYLES.find(({ id }) => id === o.style);
  let alike = 0;
  // Where every cell is full there is but one.
  const most = o.density >= 100 && o.fill === 0 ? 2 : MAX_ALIKE;
  for (let i = 0; ideas.length < o.count && alike < most && i < o.count * 20; i++) {
    const seed = (o.seed + i) % 2 ** 31;
    const made = style ? drumsInStyle(o, style, seed) : plainHits(o, seed);
    const notes = o.fill > 0 ? filled(made, o, seed) : made;
    const shape = shapeOf(notes);
    if (known.has(shape)) alike++;
    else {
      ideas.push({ seed, notes, ...(style && { description: saysOf(style, o, notes) }) });
      alike = 0;
    }
    known.add(shape);
  }
  return ideas;
}

function plainHits(options: DrumIdeaOptions, seed: number): Note[] {
  const random = seeded(seed);
  return [...sortNotes(options.lanes.flatMap((lane) => laneHits(lane, options, seed, random)))];
}

function saysOf(
  { about, label }: DrumStyle,
  options: DrumIdeaOptions,
  notes: readonly Note[],
): string {
  // Of one pad it cannot be told what the others do.
  const what = options.lanes.length > 1 ? about : label.toLowerCase();
  const ends = notes.some(({ id }) => id.includes(FILL)) ? ", a fill at the end" : "";
  return `${what}; ${plural(notes.length, "hit")} in ${plural(options.bars, "bar")}${ends}`;
}

const FILL = "fill";

/** The beat with its last beats as a fill: as dense as it is in other places, rising toward its end. */
function filled(notes: readonly Note[], options: DrumIdeaOptions, seed: number): Note[] {
  const beat = beatTicks(options.metre);
  const end = options.bars * barTicks(options.metre);
  const span = Math.min(options.fill * beat, end);
  // A lane with a loop of its own has no last bar.
  const lanes = options.lanes.filter(({ period }) => period === null).map(({ pitch }) => pitch);
  const feel = options.lanes.every(({ grid }) => grid.kind === "triplet") ? "triplet" : "straight";
  const wish = { feel, density: Math.min(100, 65 + options.density / 3), rise: 40 };
  const { hits, replaces } = fillOver(
    lanes,
    { from: end - span, span, beat },
    wish,
    seeded(seed ^ 0x2f0b4c47),
  );
  const loud = ({ velocity }: { velocity: number }) =>
    Math.round(options.softest + ((velocity - 40) / 87) * (options.loudest - options.softest));
  const made = hits.map((hit, i): Note => ({
    ...{ ...hit, id: `g${seed}-${FILL}${i}`, pan: 0, tune: 0, slide: false },
    velocity: Math.max(options.softest, Math.min(options.loudest, loud(hit))),
  }));
  return [...sortNotes([...notes.filter((note) => !replaces(note)), ...made])];
}

interface Cell {
  index: number;
  start: Ticks;
}

function laneHits(lane: DrumLane, options: DrumIdeaOptions, seed: number, random: Random): Note[] {
  const bar = barTicks(options.metre);
  const cells = cellStarts(lane, options.bars * bar).map((start, index): Cell => ({
    index,
    start,
  }));
  let motif: Set<number> | null = null;
  const notes: Note[] = [];
  for (const [at, own] of byBar(cells, bar)) {
    const again: Set<number> | null = motif && random() * 100 < options.repetition ? motif : null;
    // What returns is told by its place in the bar.
    const chosen: Set<number> =
      again ??
      new Set([...barHits(own, lane.pitch, options, bar, random)].map((start) => start - at * bar));
    motif ??= chosen;
    for (const cell of own) {
      const inBar = cell.start - at * bar;
      if (!chosen.has(inBar)) continue;
      const loud = clamp(strength(inBar, options.metre) * 0.8 + 0.15 + bell(random) * 0.2, 0, 1);
      notes.push(
        hitOf(lane, options, {
          id: `g${seed}-${lane.pitch}-${cell.index}`,
          start: cell.start,
          loud,
        }),
      );
    }
  }
  return notes;
}

/** Starts of the hits of one bar. */
function barHits(
  cells: readonly Cell[],
  pitch: MidiPitch,
  options: DrumIdeaOptions,
  bar: Ticks,
  random: Random,
): Set<number> {
  const n = cells.length;
  const k = Math.min(n, roundedByChance((options.density / 100) * n, random));
  const turned = Math.floor(random() * n);
  const even = evenSpread(k, n, turned);
  const s = options.syncopation / 100;
  const weight = (cell: Cell) => {
    const inBar = cell.start % bar;
    const strong = strength(inBar, options.metre);
    const home = homeOf(pitch, Math.floor(inBar / beatTicks(options.metre)), inBar, options.metre);
    const straight = strong ** 2 * home;
    const beside = (1 - strong) ** 2 + 0.05;
    return (1 - s) * straight + s * beside + 0.001;
  };
  const chosen = new Set<number>();
  const free = [...cells];
  while (chosen.size < k) {
    const evenly = random() * 100 < options.spread;
    const pool = free.filter((cell) => evenly === even[cells.indexOf(cell)]);
    const cell = pickWeighted(pool.length > 0 ? pool : free, weight, random)!;
    chosen.add(cell.start);
    free.splice(free.indexOf(cell), 1);
  }
  return chosen;
}

/** How strong a place of the bar is, 0…1: its first beat, the other beats, half beats, the rest. */
function strength(inBar: number, metre: Metre): number {
  const beat = beatTicks(metre);
  if (inBar === 0) return 1;
  if (inBar % beat === 0) return 0.85;
  if ((inBar * 2) % beat === 0) return 0.5;
  return 0.25;
}

/**
 * How much a pad is at home at a place: 1 is as much as anywhere. `beat` counts from 0 in the bar,
 * `inBar` is the place in ticks of it.
 */
function homeOf(pitch: MidiPitch, beat: number, inBar: Ticks, metre: Metre): number {
  const onBeat = inBar % beatTicks(metre) === 0;
  const even = beat % 2 === 0;
  if (pitch === 35 || pitch === 36) return onBeat && even ? 2.5 : 1;
  if (pitch === 38 || pitch === 39 || pitch === 40) return onBeat ? (even ? 0.15 : 5) : 0.6;
  return 1;
}
