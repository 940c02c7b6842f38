import { type Bpm, type Ticks, nth } from "../../base";
import { type Metre, barTicks } from "../../time";
import { type ChordMark, LIMITS, type Pattern, type Project, type SongEntry } from "../../score";
import { chordsIn, nextPatternName, partBetween } from "../../edits";
import type { Losses } from "./losses";

/** A run of bars of one metre, no longer than a pattern may be. */
interface Run {
  from: Ticks;
  bars: number;
  metre: Metre;
}

/** Tempos or metres in ticks of the project. */
type At<T> = readonly { tick: Ticks; value: T }[];

/** What else than the first tempo and metre a file goes through, in ticks of the file. */
export interface Changes {
  tempos: At<Bpm>;
  metres: At<Metre>;
}

/** Most bars of a file that are read: what is longer ends there. */
export const MAX_BARS = 8 * LIMITS.bars;

/**
 * A file's project (one pattern with all its notes, however long) as a song where it needs one: a pattern for each
 * run of bars of one metre, a section for each stretch of one tempo and from each marker on, whose name it has. `toTicks` turns a time of the file into one of the project.
 * Changes go to the nearest bar line; what finds no section is counted as lost.
 */
export function arrangeChanges(
  project: Project,
  changes: Changes & { marks: At<string> },
  toTicks: (tick: Ticks) => number,
  lost: Losses,
): Project {
  const timed = <T>(list: At<T>): At<T> =>
    list.map(({ tick, value }) => ({ tick: Math.round(toTicks(tick)), value }));
  const whole = nth(project.patterns, 0);
  const end = whole.bars * barTicks(project.metre);
  const runs = runsOf(project.metre, end, timed(changes.metres), lost);
  const tempos = timed(changes.tempos).filter(
    ({ value }, i, all) => value !== (all[i - 1]?.value ?? project.tempo),
  );
  const marks = timed(changes.marks);
  const named = marks.some(({ tick }) => tick > 0);
  if (runs.length === 1 && tempos.length === 0 && !named) return project;
  const patterns: Pattern[] = [];
  for (const { from, bars, metre } of runs) {
    const ticks = bars * barTicks(metre);
    const name =
      patterns.length === 0 ? whole.name : nextPatternName({ ...project, patterns }, whole.name);
    patterns.push({
      id: patterns.length === 0 ? whole.id : `p${patterns.length + 1}`,
      name,
      bars,
      ...(metre !== project.metre && { metre }),
      ...(whole.chords && { chords: chordsOver(whole.chords, from, ticks, runs.length) }),
      parts:
        runs.length === 1
          ? whole.parts
          : whole.parts.map((part) => partBetween(part, from, from + ticks)),
    });
  }
  const song = sectionsOf(
    project.tempo,
    runs,
    patterns,
    { tempos, marks: named ? marks : [] },
    lost,
  );
  return { ...project, patterns, song };
}

/** The chords of a run; of the only one all as they are. */
const chordsOver = (chords: readonly ChordMark[], from: Ticks, ticks: Ticks, runs: number) =>
  runs === 1 ? chords : chordsIn(chords, from, from + ticks);

function runsOf(first: Metre, end: Ticks, metres: At<Metre>, lost: Losses): Run[] {
  const runs: Run[] = [];
  let [from, metre] = [0, first];
  const close = (to: Ticks) => {
    const bar = barTicks(metre);
    for (let left = Math.round((to - from) / bar); left > 0;) {
      const bars = Math.min(LIMITS.bars, left);
      runs.push({ from, bars, metre });
      from += bars * bar;
      left -= bars;
    }
  };
  for (const { tick, value } of metres) {
    if (value.beats === metre.beats && value.unit === metre.unit) continue;
    if (runs.length + 2 > LIMITS.patterns || tick >= end) {
      lost.add("metre change", tick >= end ? "after the last bar" : "beyond the patterns that fit");
      continue;
    }
    close(tick);
    metre = value.beats === first.beats && value.unit === first.unit ? first : value;
  }
  const bar = barTicks(metre);
  close(from + Math.max(runs.length === 0 ? 1 : 0, Math.ceil((end - from) / bar)) * bar);
  return runs;
}

function sectionsOf(
  plain: Bpm,
  runs: readonly Run[],
  patterns: readonly Pattern[],
  { tempos, marks }: { tempos: At<Bpm>; marks: At<string> },
  lost: Losses,
): SongEntry[] {
  const song: SongEntry[] = [];
  const tempo = new Steps(tempos);
  const mark = new Steps(marks);
  let [bpm, full] = [plain, false];
  runs.forEach(({ from, bars, metre }, i) => {
    const barOf = (tick: Ticks) => Math.round((tick - from) / barTicks(metre));
    for (let at = 0; at < bars;) {
      bpm = tempo.upTo(barOf, at) ?? bpm;
      const name = mark.upTo(barOf, at);
      const change = Math.min(tempo.next(barOf), mark.next(barOf));
      const last = song.length + runs.length - i >= LIMITS.song;
      const until = last ? bars : Math.min(bars, change);
      full ||= last && change < bars;
      song.push({
        id: `s${song.length + 1}`,
        pattern: nth(patterns, i).id,
        times: 1,
        ...(name !== undefined && name !== nth(patterns, i).name && { name }),
        ...(bpm !== plain && { tempo: bpm }),
        ...(at > 0 && { skip: at }),
        ...(until < bars && { bars: until - at }),
      });
      at = until;
    }
  });
  const rest = full ? "beyond the sections that fit" : "after the last bar";
  lost.add("tempo change", rest, tempo.left + (full ? tempo.passed : 0));
  lost.add("marker", rest, mark.left);
  lost.add("marker", "in the bar of another", mark.passed);
  return song;
}

/** Goes through what changes now and then, bar by bar. */
class Steps<T> {
  private at = 0;
  /** So many were followed by another at the same bar line. */
  passed = 0;
  constructor(private readonly all: At<T>) {}

  /** The last of those up to a bar that were not taken yet; undefined where there are none. */
  upTo(barOf: (tick: Ticks) => number, bar: number): T | undefined {
    let last: T | undefined;
    for (; this.next(barOf) <= bar; this.at++) {
      if (last !== undefined) this.passed++;
      last = nth(this.all, this.at).value;
    }
    return last;
  }

  /** The bar of the next, or Infinity. */
  next(barOf: (tick: Ticks) => number): number {
    const next = this.all[this.at];
    return next ? barOf(next.tick) : Infinity;
  }

  get left(): number {
    return this.all.length - this.at;
  }
}
