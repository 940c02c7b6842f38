import { patternTicks } from "../playback/sections";
import type { Project } from "../score/model";
import { msPerTick } from "../time/ticks";
import type { Milliseconds } from "../units";
import type { PlayedNote } from "./played";

/** Silence that ends a phrase of what is played without the loop, in ms. */
const PAUSE_MS = 2500;

/** Notes that were played together: in one round of the loop, or without it from one pause to the next. */
export interface PlayedRound {
  notes: PlayedNote[];
  /** When the round began, by the clock that notes are remembered by; null without the loop. */
  began: Milliseconds | null;
}

/** Which round of its pattern a note was played in, as a name; an early hit is the next round's. */
function roundKey(note: PlayedNote, total: number): string {
  const { run, pattern, tick } = note.loop!;
  // A sixteenth before the loop's end leads into the next round.
  const early = 120;
  return `${run}/${pattern}/${Math.floor((tick + early) / total)}`;
}

/** What was played, round by round of the loop and phrase by phrase without it, in order of time. */
export function roundsPlayed(project: Project, notes: readonly PlayedNote[]): PlayedRound[] {
  const rounds: PlayedRound[] = [];
  let [key, last]: [string, Milliseconds] = ["", -Infinity];
  for (const note of notes) {
    const pattern = note.loop && project.patterns.find((p) => p.id === note.loop!.pattern);
    const total = pattern ? patternTicks(project, pattern) : 0;
    const own = note.loop ? (total > 0 ? roundKey(note, total) : `${note.loop.run}`) : "free";
    const goesOn = own === key && (own !== "free" || note.at - last < PAUSE_MS);
    if (!goesOn) {
      const { loop } = note;
      const began =
        loop && total > 0
          ? note.at -
            (loop.tick - Math.floor((loop.tick + 120) / total) * total) * msPerTick(loop.bpm)
          : null;
      rounds.push({ notes: [], began });
    }
    rounds.at(-1)!.notes.push(note);
    [key, last] = [own, Math.max(goesOn ? last : -Infinity, note.at + (note.length ?? 0))];
  }
  return rounds;
}
