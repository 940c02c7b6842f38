import { type Bpm, type Ticks, firstIndex, nth, modulo } from "../base";
import { type Metre, barTicks } from "../time";
import type { Pattern, Project, SongEntry } from "./model";

/** One section on the line of what is played: ticks from the line's beginning. */
export interface Section {
  /** The song's own section; null where a pattern is played by itself. */
  entry: SongEntry | null;
  pattern: Pattern;
  at: number;
  length: Ticks;
  /** Where in its first round the section begins, in ticks. */
  skip: Ticks;
  /** Length of one round of its pattern. */
  loopTicks: Ticks;
  /** Rounds of its pattern played before this one's first, where the section goes on with the one before it. */
  roundsBefore: number;
  /** Tick of the line at which the last of the sections ends that go on with each other. */
  runEnd: Ticks;
}

/** The metre of a pattern: its own, else the project's. */
export const metreOf = (project: Pick<Project, "metre">, pattern: Pick<Pattern, "metre">): Metre =>
  pattern.metre ?? project.metre;

/** Length of a bar of a pattern in ticks. */
export const patternBar = (project: Project, pattern: Pattern): Ticks =>
  barTicks(metreOf(project, pattern));

/** Length of a pattern in ticks. */
export function patternTicks(project: Project, pattern: Pattern): number {
  return pattern.bars * patternBar(project, pattern);
}

/** Where in a pattern a tick since it began to play lies: it starts over at its end. */
export function tickInPattern(project: Project, pattern: Pattern, tick: Ticks): Ticks {
  const total = patternTicks(project, pattern);
  return modulo(tick, total);
}

/**
 * Where in a loop of so many ticks (a part's, a lane's) that same tick lies: the loop begins anew with
 * each round of its pattern, whether it fits into it or not.
 */
export function tickInLoop(project: Project, pattern: Pattern, tick: Ticks, period: Ticks): Ticks {
  return tickInPattern(project, pattern, tick) % period;
}

const known = new WeakMap<Project, Map<string | undefined, readonly Section[]>>();

/**
 * What is played in order: one pattern if asked for, else the song, else (no song) every pattern
 * once. A section is one of the list however often it repeats. Throws a RangeError for a pattern the
 * project does not have. Remembered with the project, which is asked for it many times a second.
 */
export function sectionsOf(project: Project, patternId?: string): readonly Section[] {
  let lists = known.get(project);
  if (!lists) known.set(project, (lists = new Map()));
  let sections = lists.get(patternId);
  if (!sections) lists.set(patternId, (sections = listSections(project, patternId)));
  return sections;
}

function listSections(project: Project, patternId?: string): Section[] {
  const order: { pattern: string; entry: SongEntry | null }[] =
    patternId !== undefined
      ? [{ pattern: patternId, entry: null }]
      : project.song.length > 0
        ? project.song.map((entry) => ({ pattern: entry.pattern, entry }))
        : project.patterns.map(({ id }) => ({ pattern: id, entry: null }));
  const byId = new Map(project.patterns.map((pattern) => [pattern.id, pattern]));
  let at = 0;
  const sections = order.map(({ pattern: id, entry }): Section => {
    const pattern = byId.get(id);
    if (!pattern) throw new RangeError(`“${id}” is no pattern of this project`);
    const bar = patternBar(project, pattern);
    const loopTicks = pattern.bars * bar;
    const bars = entry ? sectionBars(entry, pattern) : pattern.bars;
    const skip = (entry?.skip ?? 0) * bar;
    const section = { entry, pattern, at, length: bars * bar, skip: skip % loopTicks, loopTicks };
    at += section.length;
    return { ...section, roundsBefore: 0, runEnd: at };
  });
  return inRuns(sections);
}

/** Sections with the loops counted on and their end told, where one goes on with the one before it. */
function inRuns(sections: Section[]): Section[] {
  const goesOn = (i: number): boolean =>
    sections[i]?.entry?.continues === true && sections[i - 1]?.pattern === sections[i]?.pattern;
  sections.forEach((section, i) => {
    if (!goesOn(i)) return;
    const { roundsBefore, skip, length, loopTicks } = nth(sections, i - 1);
    section.roundsBefore = roundsBefore + Math.floor((skip + length) / loopTicks);
  });
  for (let i = sections.length - 2; i >= 0; i--)
    if (goesOn(i + 1)) nth(sections, i).runEnd = nth(sections, i + 1).runEnd;
  return sections;
}

/** How many bars a section of the song plays. */
export const sectionBars = (
  { bars, times, skip = 0 }: SongEntry,
  pattern: Pick<Pattern, "bars">,
): number => bars ?? Math.max(1, times * pattern.bars - (skip % pattern.bars));

/** Total length of sections in ticks. */
export function totalTicks(sections: readonly Section[]): number {
  const last = sections[sections.length - 1];
  return last ? last.at + last.length : 0;
}

/** Index of the first section that ends after a tick of the line; their number where none does. */
export const sectionAfter = (sections: readonly Section[], tick: number): number =>
  firstIndex(sections.length, (i) => nth(sections, i).at + nth(sections, i).length <= tick);

/** What is played, and over which stretch of it playing goes round. */
export interface ArrangementOptions {
  /** This pattern only; else the song, else all patterns in order. */
  pattern?: string;
  /** Only `[from, to)` ticks of the line; left out for all of it. Held to the line. */
  range?: readonly [from: Ticks, to: Ticks] | null;
}

/** A line of sections and the stretch of it that is played: playing begins at tick `from` of it. */
export interface Arrangement {
  sections: readonly Section[];
  total: Ticks;
  from: Ticks;
  /** Ticks until playing starts over. */
  length: Ticks;
}

/** The line of what is played. An empty range, or one beside the line, gives all of it. */
export function arrangementOf(
  project: Project,
  { pattern, range }: ArrangementOptions = {},
): Arrangement {
  const sections = sectionsOf(project, pattern);
  const total = totalTicks(sections);
  const [from, to] = range
    ? [Math.max(0, Math.floor(range[0])), Math.min(total, Math.ceil(range[1]))]
    : [0, total];
  return to > from
    ? { sections, total, from, length: to - from }
    : { sections, total, from: 0, length: total };
}

/** Where a tick of playing lies. */
export interface SongPosition {
  section: Section;
  /** Which section of the line, from 0. */
  index: number;
  /** Tick of the line. */
  tick: Ticks;
  /** Tick of the pattern. */
  patternTick: Ticks;
  /** Loops of its pattern that the section has played before this one. */
  loop: number;
  /** How often the whole line was gone through. */
  pass: number;
}

/** Where a tick since playing began lies in the song and in its pattern; null where nothing is played. */
export function songPositionAt(
  project: Project,
  tick: Ticks,
  options: ArrangementOptions = {},
): SongPosition | null {
  const { sections, from, length } = arrangementOf(project, options);
  if (length === 0) return null;
  const pass = Math.max(0, Math.floor(tick / length));
  const at = from + Math.max(0, tick - pass * length);
  const index = Math.min(sections.length - 1, sectionAfter(sections, at));
  const section = nth(sections, index);
  const since = at - section.at + section.skip;
  const loop = Math.floor(since / section.loopTicks);
  return { section, index, tick: at, patternTick: since - loop * section.loopTicks, loop, pass };
}

/** The bar of the song that a tick of it lies in, from 1, whatever the metres before it. */
export function songBar(project: Project, tick: Ticks): number {
  let bars = 0;
  for (const { pattern, at, length } of sectionsOf(project)) {
    const bar = patternBar(project, pattern);
    if (tick < at + length) return bars + Math.floor(Math.max(0, tick - at) / bar) + 1;
    bars += length / bar;
  }
  return bars + 1;
}

/** The tempo at a tick since playing began, and the tick at which a section with another may begin. */
export function tempoAt(
  project: Project,
  tick: Ticks,
  options: ArrangementOptions = {},
): { bpm: Bpm; until: Ticks } {
  const { from, length } = arrangementOf(project, options);
  const place = songPositionAt(project, tick, options);
  if (!place) return { bpm: project.tempo, until: Infinity };
  const { section, pass } = place;
  const end = Math.min(section.at + section.length - from, length) + pass * length;
  return { bpm: section.entry?.tempo ?? project.tempo, until: end };
}
