import { type Milliseconds, lastOf } from "../base";
import { msPerTick } from "../time";
import { type Project, patternTicks } from "../score";
import type { PlayedNote } from "./played";

/** Silence that ends a phrase of what is played without the loop, in ms. */
const PAUSE_MS = 2500;

/** Notes that were played together: in one round of the loop, or without it from one pause to the next. */
export interface PlayedLoop {
  notes: PlayedNote[];
  /** When the loop began, by the clock that notes are remembered by; null without the loop. */
  began: Milliseconds | null;
}

/** So near to the loop's end, half a sixteenth in ticks, a hit leads into the next loop. */
const EARLY = 120;

/** What was played, round by round of the loop and phrase by phrase without it, in order of time. */
export function loopsPlayed(project: Project, notes: readonly PlayedNote[]): PlayedLoop[] {
  const rounds: PlayedLoop[] = [];
  let [key, last]: [string, Milliseconds] = ["", -Infinity];
  for (const note of notes) {
    const { loop } = note;
    const pattern = loop && project.patterns.find((pattern) => pattern.id === loop.pattern);
    const total = pattern ? patternTicks(project, pattern) : 0;
    const round = loop && total > 0 ? Math.floor((loop.tick + EARLY) / total) : null;
    const inLoop =
      loop && (round === null ? `${loop.run}` : `${loop.run}/${loop.pattern}/${round}`);
    const own = inLoop ?? "free";
    const goesOn = own === key && (own !== "free" || note.at - last < PAUSE_MS);
    if (!goesOn) {
      const began =
        loop && round !== null ? note.at - (loop.tick - round * total) * msPerTick(loop.bpm) : null;
      rounds.push({ notes: [], began });
    }
    lastOf(rounds).notes.push(note);
    [key, last] = [own, Math.max(goesOn ? last : -Infinity, note.at + (note.length ?? 0))];
  }
  return rounds;
}
