import { type Pattern, type Project, patternTicks } from "../score";
import { loopGroups } from "../playback";
import { mustGet, nth } from "../base";

/** One note in a small picture: `at` and `width` as shares of the length, `row` of `rows` from the top. */
export interface Mark {
  at: number;
  width: number;
  row: number;
  size: number;
  /** Index of the track, which gives the colour. */
  track: number;
  kind: "drums" | "melody";
}

/**
 * A small picture of a pattern as numbers: marks placed by shares of the width (0–1) and by rows
 * from the top.
 */
export interface Thumbnail {
  rows: number;
  bars: number;
  marks: Mark[];
}

const MAX_MARKS = 400;

/** A small picture of the real notes of a pattern (the first), as it is heard, repeats included. */
export function thumbnail(
  project: Project,
  pattern: Pattern = nth(project.patterns, 0),
): Thumbnail {
  const total = patternTicks(project, pattern);
  const marks: Mark[] = [];
  let top = 0;
  project.tracks.forEach((track, index) => {
    const part = pattern.parts.find((part) => part.track === track.id);
    if (!part) return;
    const groups = loopGroups(project, { pattern, track, part }, { all: true });
    const pitches = [...new Set(groups.flatMap((g) => g.notes.map((note) => note.pitch)))];
    pitches.sort((a, b) => (track.kind === "drums" ? a - b : b - a));
    const rowOf = new Map(pitches.map((pitch, i) => [pitch, top + i]));
    for (const group of groups) {
      // A loop so short that nothing begins in it would be gone round for nothing.
      if (!group.starts.some((start) => start < group.period)) continue;
      for (let offset = 0; offset < total && marks.length < MAX_MARKS; offset += group.period) {
        for (const note of group.notes) {
          const start = offset + note.start;
          if (note.start >= group.period || start >= total || marks.length >= MAX_MARKS) break;
          marks.push({
            at: Math.max(0, start) / total,
            width: Math.min(note.length, total - start) / total,
            row: mustGet(rowOf, note.pitch),
            size: note.velocity / 127,
            track: index,
            kind: track.kind,
          });
        }
      }
    }
    top += pitches.length;
  });
  return { rows: Math.max(1, top), bars: pattern.bars, marks };
}
