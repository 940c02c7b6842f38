import { chordsIn, partBetween } from "../score/edits/cut";
import { nextPatternName } from "../score/edits/project";
import { LIMITS, type ChordMark, type Pattern, type Project, type SongEntry } from "../score/model";
import { barTicks, type Metre } from "../time/ticks";
import type { Bpm, Ticks } from "../units";
import type { SmfChanges } from "./smf-head";
import type { Losses } from "./smf-losses";

/** A run of bars of one metre, no longer than a pattern may be. */
interface Run {
  from: Ticks;
  bars: number;
  metre: Metre;
}

/** Tempos or metres in ticks of the project. */
type At<T> = readonly { tick: Ticks; value: T }[];

/** Most bars of a file that are read: what is longer ends there. */
export const MOST_BARS = 8 * LIMITS.bars;

/**
 * A file's project (one pattern with all its notes, however long) as a song where it needs one: a pattern for each
 * run of bars of one metre, a section for each stretch of one tempo. Changes go to the nearest bar line; what finds
 * no section is counted as lost.
 */
export function arrangeChanges(
  project: Project,
  changes: SmfChanges,
  toTick: (tick: Ticks) => Ticks,
  lost: Losses,
): Project {
  const scaled = <T>(list: At<T>): At<T> =>
    list.map(({ tick, value }) => ({ tick: Math.round(toTick(tick)), value }));
  const [whole] = project.patterns;
  const end = whole!.bars * barTicks(project.metre);
  const runs = runsOf(project.metre, end, scaled(changes.metres), lost);
  const tempos = scaled(changes.tempos).filter(
    ({ value }, i, all) => value !== (all[i - 1]?.value ?? project.tempo),
  );
  if (runs.length === 1 && tempos.length === 0) return project;
  const patterns: Pattern[] = [];
  for (const { from, bars, metre } of runs) {
    const ticks = bars * barTicks(metre);
    const name = patterns.length === 0 ? whole!.name : nextPatternName({ ...project, patterns });
    patterns.push({
      id: patterns.length === 0 ? whole!.id : `p${patterns.length + 1}`,
      name,
      bars,
      ...(metre !== project.metre && { metre }),
      ...(whole!.chords && { chords: chordsOver(whole!.chords, from, ticks, runs.length) }),
      parts:
        runs.length === 1
          ? whole!.parts
          : whole!.parts.map((p) => partBetween(p, from, from + ticks)),
    });
  }
  const song = sectionsOf(project.tempo, runs, patterns, tempos, lost);
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
  tempos: At<Bpm>,
  lost: Losses,
): SongEntry[] {
  const song: SongEntry[] = [];
  let [next, bpm, dropped] = [0, plain, 0];
  runs.forEach(({ from, bars, metre }, i) => {
    const bar = barTicks(metre);
    for (let at = 0; at < bars;) {
      // Of several in one bar the last holds.
      for (; next < tempos.length && Math.round((tempos[next]!.tick - from) / bar) <= at; next++)
        bpm = tempos[next]!.value;
      const change = tempos[next] ? Math.round((tempos[next]!.tick - from) / bar) : Infinity;
      const full = song.length + runs.length - i >= LIMITS.song;
      const until = full ? bars : Math.min(bars, change);
      if (full && change < bars) dropped++;
      song.push({
        id: `s${song.length + 1}`,
        pattern: patterns[i]!.id,
        times: 1,
        ...(bpm !== plain && { tempo: bpm }),
        ...(at > 0 && { skip: at }),
        ...(at + (until - at) < bars && { bars: until - at }),
      });
      at = until;
    }
  });
  lost.add("tempo change", "beyond the sections that fit", dropped);
  lost.add("tempo change", "after the last bar", tempos.length - next);
  return song;
}
