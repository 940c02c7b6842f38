import { type Grid, grid, gridTicks, lineAt } from "@/core/time";
import { type ChordMark, type Note, makeNote, plainPad } from "@/core/score";

/**
 * Hits of a lane written as a line: `.` is an empty cell, `1`–`9` a hit from soft to loud, spaces
 * and bars are for the eye. `late` shifts all by ticks (before the line when negative).
 */
export function hits(pitch: number, line: string, on: Grid = grid(16), late = 0): Note[] {
  const cells = line.replace(/[\s|]/g, "");
  const notes: Note[] = [];
  [...cells].forEach((cell, i) => {
    if (cell === ".") return;
    notes.push(
      makeNote({
        id: `d${pitch}-${i}`,
        pitch,
        start: lineAt(on, i) + late,
        length: gridTicks(on),
        velocity: Math.round((Number(cell) / 9) * 127),
      }),
    );
  });
  return notes;
}

/** Melodic notes as `[start, length, pitch, velocity]`, times in sixteenths. */
export function line(
  id: string,
  notes: readonly (readonly [start: number, length: number, pitch: number, velocity: number])[],
): Note[] {
  return notes.map(([start, length, pitch, velocity], i) =>
    makeNote({
      id: `${id}${i}`,
      start: Math.round(start * 240),
      length: Math.round(length * 240),
      pitch,
      velocity,
    }),
  );
}

/** A chord held, its notes `spread` ticks apart from the lowest up. */
export function chord(
  id: string,
  [start, length]: readonly [start: number, length: number],
  pitches: readonly number[],
  { velocity, spread = 0 }: { velocity: number; spread?: number },
): Note[] {
  return pitches.map((pitch, i) =>
    makeNote({
      id: `${id}-${i}`,
      start: start * 240 + i * spread,
      length: length * 240 - i * spread,
      pitch,
      velocity: velocity - i * 4,
    }),
  );
}

/** A pad as its kit has it, to be shaped. */
export const padOf = plainPad;

/** Chords as `[start in sixteenths, name]`. */
export function chordLine(...chords: readonly (readonly [number, string])[]): ChordMark[] {
  return chords.map(([start, name], i) => ({
    id: `c${i}`,
    start: start * 240,
    name,
    inversion: 0,
    spread: "close",
  }));
}
