import type { Track } from "../../score";

/**
 * Which of our sounds stands for a General MIDI 1 program (0–127), and the other way round. The
 * families of eight are those of the General MIDI 1 sound set.
 */
export const SOUND_PROGRAMS: readonly { sound: string; program: number }[] = [
  { sound: "reed-bass", program: 38 },
  { sound: "keel-bass", program: 33 },
  { sound: "winch-bass", program: 39 },
  { sound: "glass-keys", program: 4 },
  { sound: "attic-upright", program: 0 },
  { sound: "wharf-piano", program: 5 },
  { sound: "buoy-bell", program: 14 },
  { sound: "driftwood", program: 12 },
  { sound: "tin-chimes", program: 9 },
  { sound: "rope-pluck", program: 25 },
  { sound: "net-harp", program: 46 },
  { sound: "sprung-wire", program: 106 },
  { sound: "wire-lead", program: 81 },
  { sound: "gull-whistle", program: 78 },
  { sound: "pier-square", program: 80 },
  { sound: "harbour-mist", program: 89 },
  { sound: "low-tide", program: 95 },
  { sound: "lantern-choir", program: 52 },
  { sound: "sail-strings", program: 48 },
  { sound: "fog-flute", program: 73 },
  { sound: "tug-horn", program: 61 },
  { sound: "chapel-pipes", program: 19 },
  { sound: "squeezebox", program: 21 },
  { sound: "sounding", program: 98 },
  { sound: "spray", program: 122 },
];

/**
 * For each family of eight programs the sound nearest to it: pianos, chromatic percussion, organs, guitars,
 * basses, strings, ensembles, brass, reeds, pipes, leads, pads, effects, plucked strings of many countries,
 * percussive, sounds of things.
 */
const FAMILIES: readonly string[] = [
  ...["attic-upright", "tin-chimes", "chapel-pipes", "rope-pluck"],
  ...["reed-bass", "sail-strings", "sail-strings", "tug-horn"],
  ...["squeezebox", "fog-flute", "wire-lead", "harbour-mist"],
  ...["sounding", "sprung-wire", "driftwood", "spray"],
];

/** Programs that another of our sounds is nearer to than its family's. */
const NEARER: Readonly<Record<number, string>> = {
  2: "wharf-piano",
  6: "rope-pluck",
  7: "rope-pluck",
  8: "tin-chimes",
  11: "driftwood",
  13: "driftwood",
  15: "rope-pluck",
  20: "squeezebox",
  22: "squeezebox",
  23: "squeezebox",
  24: "net-harp",
  32: "keel-bass",
  35: "keel-bass",
  53: "lantern-choir",
  54: "lantern-choir",
  91: "lantern-choir",
  104: "rope-pluck",
  107: "net-harp",
  109: "squeezebox",
  110: "sail-strings",
  112: "tin-chimes",
  113: "buoy-bell",
};

/** General MIDI program written for a sound; 0 (piano) for one that is not in the table. */
export function programOf(sound: string): number {
  return SOUND_PROGRAMS.find((s) => s.sound === sound)?.program ?? 0;
}

/** Whether a track sounds in a bass's register: its sound stands for one of the family "Bass". */
export function isBass({ kind, sound }: Pick<Track, "kind" | "sound">): boolean {
  return kind === "melody" && Math.floor(programOf(sound) / 8) === 4;
}

/** Our nearest sound to a General MIDI program: the one that stands for it, else the nearest of its family. */
export function soundOfProgram(program: number): string {
  const own = SOUND_PROGRAMS.find((s) => s.program === program)?.sound;
  return own ?? NEARER[program] ?? FAMILIES[Math.floor(program / 8)] ?? "glass-keys";
}
