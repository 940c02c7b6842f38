import { barTicks, grid } from "@/core/time";
import { type Note, type Project, makeLane, makeTrack } from "@/core/score";
import { chord, chordLine, hits, line } from "./notation";
import { nth } from "@/core/base";

const swung = grid(16, "straight", 57);
const triplets = grid(16, "triplet");

const slideInto = (notes: readonly Note[], id: string): Note[] =>
  notes.map((note) => (note.id === id ? { ...note, slide: true } : note));

/** A slow swung beat in D dorian: late snare, triplet ghosts, and a rim that loops in five steps. */
export function slackWater(): Project {
  const metre = { beats: 4, unit: 4 };
  const two = 2 * barTicks(metre);
  const tracks = [
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Harbour kit",
      sound: "harbour",
      level: -2,
      lanes: [
        makeLane(36, grid(8)),
        makeLane(38, grid(4)),
        { ...makeLane(40, triplets), name: "Ghost" },
        makeLane(42, swung),
        makeLane(46, grid(8)),
        { ...makeLane(37, grid(16)), steps: 5 },
      ],
      mix: { compress: 35 },
    }),
    makeTrack({
      id: "bass",
      kind: "melody",
      name: "Reed bass",
      sound: "reed-bass",
      level: 0.5,
      mix: { compress: 30 },
    }),
    makeTrack({
      id: "keys",
      kind: "melody",
      name: "Glass keys",
      sound: "glass-keys",
      level: -2,
      shaping: { motion: 30 },
      mix: { reverb: -14, echo: -16 },
    }),
  ];

  const kick = hits(36, "9..7.8.. 9..7..86".replaceAll(" ", ""), grid(8));
  const snare = hits(38, ".8.9.8.8", grid(4), 14);
  const ghosts = hits(
    40,
    "......4..... ....3..4.... ..........4. ....4...3...".replaceAll(" ", ""),
    triplets,
  );
  const hat = hits(42, "8596 8595 8596 85.. 8596 8595 8696 8...", swung);
  const tail: Note[] = [1, 2, 3].map((i) => ({
    ...nth(hat, 0),
    id: `roll${i}`,
    start: 3360 + (i - 1) * 160,
    length: 160,
    velocity: 56 + i * 14,
  }));
  const open = hits(46, ".......6 ......6.", grid(8));
  const rim = hits(37, ".5...", grid(16));

  const bass = line("b", [
    [0, 3, 38, 108],
    [3, 1, 41, 84],
    [6, 1.5, 43, 92],
    [8, 3.5, 45, 104],
    [13, 1, 41, 78],
    [14, 2, 43, 88],
    [16, 3, 38, 110],
    [20, 1.5, 48, 86],
    [22, 2, 47, 92],
    [24, 2, 45, 100],
    [27, 1, 43, 80],
    [28, 3.5, 41, 96],
  ]);
  const keys = [
    ...chord("k1", [0, 7], [53, 60, 64], { velocity: 84, spread: 14 }),
    ...chord("k2", [8, 7], [55, 59, 64], { velocity: 78, spread: 18 }),
    ...chord("k3", [16, 7], [53, 57, 64], { velocity: 84, spread: 14 }),
    ...chord("k4", [24, 4], [55, 60, 62], { velocity: 76, spread: 18 }),
    ...chord("k5", [28, 4], [55, 59, 62], { velocity: 70, spread: 18 }),
  ];
  const keysB = [
    ...chord("k1", [0, 3], [57, 60, 64], { velocity: 84, spread: 10 }),
    ...chord("k2", [6, 9], [55, 59, 64], { velocity: 80, spread: 10 }),
    ...chord("k3", [16, 3], [57, 62, 65], { velocity: 84, spread: 10 }),
    ...chord("k4", [22, 9], [55, 60, 64], { velocity: 78, spread: 10 }),
  ];
  const part = { length: two, grid: grid(16), chain: [] };
  const drums = [...kick, ...snare, ...ghosts, ...hat, ...tail, ...open, ...rim];
  return {
    name: "Slack Water",
    tempo: 84,
    metre,
    key: { root: 2, scale: "dorian" },
    tracks,
    room: { decay: 1400, size: 30, echoValue: "1/8T", feedback: 30 },
    patterns: [
      {
        id: "a",
        name: "Quay",
        bars: 2,
        chords: chordLine([0, "Dm7"], [8, "Em"], [16, "Fmaj7"], [24, "G7sus4"], [28, "G"]),
        parts: [
          { ...part, track: "drums", notes: drums },
          { ...part, track: "bass", grid: grid(8), notes: slideInto(bass, "b10") },
          { ...part, track: "keys", notes: keys },
        ],
      },
      {
        id: "b",
        name: "Lamps up",
        bars: 2,
        parts: [
          { ...part, track: "drums", notes: [...kick, ...hat, ...rim] },
          {
            ...part,
            track: "bass",
            grid: grid(8),
            notes: bass.filter((note) => note.start % 960 !== 720),
          },
          { ...part, track: "keys", notes: keysB },
        ],
      },
    ],
    song: [],
  };
}
