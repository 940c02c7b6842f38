import type { Track } from "../score/model";

/**
 * Which of our sounds stands for a General MIDI 1 program (0–127), and the other way round. The
 * families of eight are those of the General MIDI 1 sound set.
 */
export const SOUND_PROGRAMS: readonly { sound: string; program: number }[] = [
  { sound: "reed-bass", program: 38 },
  { sound: "glass-keys", program: 4 },
  { sound: "rope-pluck", program: 25 },
  { sound: "wire-lead", program: 81 },
];

/** General MIDI program written for a sound; 0 (piano) for one that is not in the table. */
export function programOf(sound: string): number {
  return SOUND_PROGRAMS.find((s) => s.sound === sound)?.program ?? 0;
}

/** Whether a track sounds in a bass's register: its sound stands for one of the family "Bass". */
export function isBass({ kind, sound }: Pick<Track, "kind" | "sound">): boolean {
  return kind === "melody" && Math.floor(programOf(sound) / 8) === 4;
}

/** Our nearest sound to a General MIDI program. */
export function soundOf(program: number): string {
  const family = Math.floor(program / 8);
  if (family === 4) return "reed-bass";
  if (family === 10) return "wire-lead";
  // Guitars, ethnic plucked strings and chromatic percussion are struck or plucked and die away.
  if (family === 3 || family === 13 || family === 1) return "rope-pluck";
  return "glass-keys";
}
