import { type Bpm, clampTo } from "../base";
import {
  type ChordMark,
  LIMITS,
  type Pattern,
  type Project,
  type SongEntry,
  makePart,
  patternOf,
  patternTicks,
  sectionBars,
} from "../score";
import { nextPatternName } from "./project";

/** The section of an id, or a RangeError that names it. */
export function sectionOf(project: Project, id: string): SongEntry {
  const entry = project.song.find((one) => one.id === id);
  if (!entry) throw new RangeError(`“${id}” is no section of this song`);
  return entry;
}

/** A section without the fields that are plain. */
function lean(entry: SongEntry): SongEntry {
  const { skip, mutes, chords, ...rest } = entry;
  const given = Object.entries(rest).filter(([, value]) => value !== undefined);
  return {
    ...(Object.fromEntries(given) as unknown as SongEntry),
    ...(skip && { skip }),
    ...(mutes && mutes.length > 0 && { mutes }),
    ...(chords && chords.length > 0 && { chords }),
  };
}

/** Changes one section; a value of `undefined` makes it plain. The same project where nothing differs. */
export function changeSection(
  project: Project,
  id: string,
  change: Partial<Omit<SongEntry, "id">>,
): Project {
  const before = sectionOf(project, id);
  const after = lean({ ...before, ...change });
  if (JSON.stringify(after) === JSON.stringify(before)) return project;
  return { ...project, song: project.song.map((one) => (one === before ? after : one)) };
}

/** Puts sections in before the one at an index (from 0); at the end where there is none. */
export function insertSections(
  project: Project,
  at: number,
  entries: readonly SongEntry[],
): Project {
  if (entries.length === 0) return project;
  const index = clampTo(Math.round(at), { min: 0, max: project.song.length });
  const { song } = project;
  return inSong(project, [...song.slice(0, index), ...entries, ...song.slice(index)]);
}

/**
 * A project with another song of sections that were there or are new. One that goes on with the section before it
 * does so no more where another one, or none, lies before it now.
 */
function inSong(project: Project, song: readonly SongEntry[]): Project {
  const before = new Map(project.song.map(({ id }, i) => [id, project.song[i - 1]?.id]));
  const kept = song.map((entry, i) => {
    if (!entry.continues || !before.has(entry.id) || before.get(entry.id) === song[i - 1]?.id)
      return entry;
    const { continues: _, ...own } = entry;
    return own;
  });
  return { ...project, song: kept };
}

/** Moves sections, in the order they have, to before the one that has an index now. */
export function moveSections(project: Project, ids: ReadonlySet<string>, to: number): Project {
  const { song } = project;
  const moved = song.filter((entry) => ids.has(entry.id));
  if (moved.length === 0) return project;
  const before = song.slice(0, Math.max(0, to)).filter((entry) => !ids.has(entry.id));
  const after = song.slice(Math.max(0, to)).filter((entry) => !ids.has(entry.id));
  const order = [...before, ...moved, ...after];
  return order.every((entry, i) => entry === song[i]) ? project : inSong(project, order);
}

/** Takes sections out of the song; their patterns stay. */
export function deleteSections(project: Project, ids: ReadonlySet<string>): Project {
  const song = project.song.filter((entry) => !ids.has(entry.id));
  return song.length === project.song.length ? project : inSong(project, song);
}

/** How often a section plays its pattern, 1–999: whole loops again. */
export function setSectionTimes(project: Project, id: string, times: number): Project {
  const whole = Math.round(clampTo(times, { min: 1, max: LIMITS.times }));
  return changeSection(project, id, { times: whole, bars: undefined });
}

/** Length of a section in bars; whole loops of its pattern are that, a piece of one ends early. */
export function setSectionBars(project: Project, id: string, bars: number): Project {
  const entry = sectionOf(project, id);
  const pattern = patternOf(project, entry.pattern);
  const whole = Math.round(clampTo(bars, { min: 1, max: LIMITS.bars }));
  const rounds = (whole + ((entry.skip ?? 0) % pattern.bars)) / pattern.bars;
  const times = clampTo(Math.ceil(rounds), { min: 1, max: LIMITS.times });
  return changeSection(project, id, {
    times,
    bars: Number.isInteger(rounds) && times === rounds ? undefined : whole,
  });
}

/** Tempo of a section in BPM, to hundredths; null for the project's. */
export function setSectionTempo(project: Project, id: string, bpm: Bpm | null): Project {
  if (bpm !== null && !Number.isFinite(bpm)) return project;
  const tempo = bpm === null ? undefined : Math.round(clampTo(bpm, LIMITS.tempo) * 100) / 100;
  return changeSection(project, id, { tempo });
}

/** Whether a track is silent in a section. */
export function muteInSection(
  project: Project,
  id: string,
  track: string,
  silent: boolean,
): Project {
  const { mutes = [] } = sectionOf(project, id);
  const others = mutes.filter((one) => one !== track);
  return changeSection(project, id, { mutes: silent ? [...others, track] : others });
}

/**
 * Cuts a section in two, so many bars after its beginning; the second is called `newId` and goes on where
 * the first ends. The same project where it has no such bar inside.
 */
export function splitSection(
  project: Project,
  id: string,
  afterBars: number,
  newId: string,
): Project {
  const entry = sectionOf(project, id);
  const pattern = patternOf(project, entry.pattern);
  const bars = sectionBars(entry, pattern);
  const cut = Math.round(afterBars);
  if (cut < 1 || cut >= bars) return project;
  const skip = ((entry.skip ?? 0) + cut) % pattern.bars;
  const first = setSectionBars(project, id, cut);
  const index = project.song.indexOf(entry);
  const second = lean({ ...entry, id: newId, skip, times: 1, bars: undefined, continues: true });
  const { song } = first;
  const split = [...song.slice(0, index + 1), second, ...song.slice(index + 1)];
  return setSectionBars({ ...first, song: split }, newId, bars - cut);
}

/** A song of every pattern once, in order: what is played while there is none. */
export const songOfAll = (project: Project, idOf: () => string): readonly SongEntry[] =>
  project.patterns.map(({ id }) => ({ id: idOf(), pattern: id, times: 1 }));

/**
 * A copy of a pattern as a new one after it, with the parts of the tracks given (all where null); the
 * others play nothing in it.
 */
export function copyPattern(
  project: Project,
  from: string,
  newId: string,
  tracks: ReadonlySet<string> | null = null,
): Project {
  const source = patternOf(project, from);
  const length = patternTicks(project, source);
  const parts = source.parts.map((part) =>
    !tracks || tracks.has(part.track) ? part : makePart(part.track, length, part.grid),
  );
  const copy: Pattern = {
    ...source,
    id: newId,
    name: nextPatternName(project, source.name),
    parts,
  };
  const at = project.patterns.indexOf(source) + 1;
  const { patterns } = project;
  return { ...project, patterns: [...patterns.slice(0, at), copy, ...patterns.slice(at)] };
}

/** Gives a section a pattern of its own, a copy to vary. */
export function makeSectionOwn(project: Project, id: string, newPattern: string): Project {
  const entry = sectionOf(project, id);
  const copied = copyPattern(project, entry.pattern, newPattern);
  return changeSection(copied, id, { pattern: newPattern });
}

/** A section again right after itself, with a pattern of its own that holds the parts of some tracks. */
export function cloneSection(
  project: Project,
  id: string,
  made: { id: string; pattern: string; tracks: ReadonlySet<string> },
): Project {
  const entry = sectionOf(project, id);
  const copied = copyPattern(project, entry.pattern, made.pattern, made.tracks);
  const { continues: _, ...own } = entry;
  const clone = { ...own, id: made.id, pattern: made.pattern };
  return insertSections(copied, project.song.indexOf(entry) + 1, [clone]);
}

/** Chords that stand in for the pattern's line in a section; none for the pattern's own. */
export const setSectionChords = (
  project: Project,
  id: string,
  chords: readonly ChordMark[],
): Project => changeSection(project, id, { chords });

/** Draws what sounds by chance anew, from another seed. */
export function setSeed(project: Project, seed: number): Project {
  const { seed: before = 0, ...rest } = project;
  const whole = Math.round(clampTo(seed, { min: 0, max: LIMITS.seed }));
  if (whole === before) return project;
  return whole === 0 ? rest : { ...rest, seed: whole };
}

/** What a project plays as a song: its own, or without one each pattern once. */
export const wholeSong = ({
  song,
  patterns,
}: Pick<Project, "song" | "patterns">): readonly SongEntry[] =>
  song.length > 0 ? song : patterns.map(({ id }) => ({ id, pattern: id, times: 1 }));
