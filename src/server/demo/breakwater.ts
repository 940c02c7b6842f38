import { barTicks, grid } from "@/core/time";
import type { Params } from "@/core/params";
import {
  type ChainStep,
  type Note,
  type Project,
  makeLane,
  makeTrack,
  plainPad,
} from "@/core/score";
import { transformOf } from "@/core/transforms";
import { hits, line } from "./notation";

const triplets = grid(16, "triplet");

/**
 * Half-time at 140: hats in 1/16 triplets with rolls over a straight kick, an early first hit, a late
 * backbeat, and a two-bar beat under four bars of line.
 */
export function breakwater(): Project {
  const metre = { beats: 4, unit: 4 };
  const bar = barTicks(metre);
  const tracks = [
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Foghorn kit",
      sound: "foghorn",
      level: -6.5,
      lanes: [
        makeLane(36, grid(16)),
        makeLane(38, grid(4)),
        { ...makeLane(40, triplets), name: "Ghost" },
        makeLane(39, grid(4)),
        makeLane(42, triplets),
        makeLane(46, grid(8)),
        { ...makeLane(70, grid(16)), steps: 6 },
        makeLane(45, grid(16)),
      ],
      kit: {
        level: 0,
        pitch: 0,
        time: 1,
        pads: [
          { ...plainPad(36), drive: 18, decay: 420 },
          { ...plainPad(40), filter: "lowpass", cutoff: 4200, level: -3 },
          { ...plainPad(46), decay: 260, pan: 0.2 },
        ],
      },
      mix: { compress: 55 },
    }),
    makeTrack({
      id: "bass",
      kind: "melody",
      name: "Reed bass",
      sound: "reed-bass",
      level: 1,
      mix: { duckBy: "drums", duckPad: 36, duckDepth: 7, duckRelease: 180 },
    }),
    makeTrack({
      id: "pluck",
      kind: "melody",
      name: "Rope pluck",
      sound: "rope-pluck",
      level: -0.5,
      mix: { echo: -12, reverb: -16 },
    }),
    makeTrack({
      id: "keys",
      kind: "melody",
      name: "Glass keys",
      sound: "glass-keys",
      level: -2.5,
      mix: { reverb: -12 },
    }),
  ];
  const hats = hits(42, "8.56.5 8.56.5 856565 8.5... 8.56.5 856565 8.56.5 8..8..", triplets);
  // Two rolls of the hat: one that speeds up and rises, one that swells.
  const rolled = (notes: readonly Note[], start: number, params: Params) =>
    transformOf("roll").apply(
      notes.map((note) => (note.start === start ? { ...note, length: 480 } : note)),
      params,
      {
        kind: "drums",
        selection: new Set(notes.filter((note) => note.start === start).map((note) => note.id)),
      },
    ).notes;
  const rising = { count: 6, ratio: 0.8, velocityFrom: -40, tuneTo: 7 };
  const swelling = { count: 4, velocityFrom: -60 };
  const hatLine = rolled(rolled(hats, 6720, rising), 7200, swelling);
  const drums = [
    // The first kick comes a little early, the backbeat a little late.
    ...hits(36, "9....... ..7..8.. 9..6.... ..8.....").map((note) =>
      note.start === 0 ? { ...note, start: -10 } : note,
    ),
    ...hits(38, "..9. ..9.", grid(4), 14),
    ...hits(40, "......3..... ...2....3... ......3..... ...2..2.3..3", triplets),
    ...hits(39, "..5. ..5.", grid(4), 14),
    ...hatLine,
    ...hits(46, "....... 5 ........", grid(8)),
    ...hits(70, "..4..5"),
  ];
  const bass = line("b", [
    [0, 5, 41, 112],
    [10, 2, 41, 96],
    [13, 3, 44, 100],
    [16, 6, 39, 112],
    [26, 3, 39, 98],
    [30, 2, 43, 90],
    [32, 5, 37, 112],
    [42, 2, 37, 96],
    [45, 3, 41, 100],
    [48, 8, 36, 112],
    [58, 6, 40, 102],
  ]);
  // Quarter-note triplets: eighths and sixteenths of 8/3 sixteenths each.
  const t = 8 / 3;
  const pluck = line("p", [
    [0, t, 72, 98],
    [t, t, 68, 84],
    [2 * t, t, 65, 90],
    [8, 4, 67, 92],
    [12, 4, 68, 84],
    [16, t, 70, 98],
    [16 + t, t, 67, 84],
    [16 + 2 * t, t, 63, 90],
    [24, 8, 65, 94],
    [32, t, 68, 98],
    [32 + t, t, 65, 84],
    [32 + 2 * t, t, 61, 90],
    [40, 4, 63, 92],
    [44, 4, 65, 84],
    [48, t, 67, 98],
    [48 + t, t, 64, 86],
    [48 + 2 * t, t, 60, 92],
    [56, 8, 64, 96],
  ]);
  const keys = [
    [0, 53, 60, 68],
    [16, 51, 58, 67],
    [32, 49, 56, 65],
    [48, 48, 55, 64],
  ].flatMap(([at, ...pitches]) =>
    line(
      `k${at}-`,
      pitches.map((pitch, i) => [at!, 15, pitch, 80 - 6 * i] as const),
    ),
  );
  // Not yet written into the notes: the hats breathe a little, the shaker goes from side to side.
  const feel: ChainStep[] = [
    {
      id: "breath",
      transform: "humanize",
      on: true,
      params: { ...transformOf("humanize").defaults, velocity: 8, timing: 3, seed: 12 },
      scope: null,
      lane: 42,
    },
    {
      id: "sway",
      transform: "alternate-pan",
      on: true,
      params: { ...transformOf("alternate-pan").defaults, width: 50 },
      scope: null,
      lane: 70,
    },
  ];
  const part = { grid: grid(16), chain: [] };
  return {
    name: "Breakwater",
    tempo: 140,
    metre,
    key: { root: 5, scale: "harmonic minor" },
    tracks,
    room: { decay: 2600, size: 60, echoValue: "1/4T", feedback: 35 },
    patterns: [
      {
        id: "a",
        name: "Swell",
        bars: 4,
        parts: [
          { ...part, track: "drums", length: 2 * bar, notes: drums, chain: feel },
          { ...part, track: "bass", length: 4 * bar, notes: bass },
          { ...part, track: "pluck", length: 4 * bar, grid: grid(4, "triplet"), notes: pluck },
          { ...part, track: "keys", length: 4 * bar, notes: keys },
        ],
      },
      {
        id: "b",
        name: "Ebb",
        bars: 2,
        parts: [
          { ...part, track: "drums", length: bar, notes: drums.filter((note) => note.start < bar) },
          {
            ...part,
            track: "bass",
            length: 2 * bar,
            notes: bass.filter((note) => note.start < 2 * bar),
          },
          { ...part, track: "pluck", length: 2 * bar, grid: grid(4, "triplet"), notes: [] },
          {
            ...part,
            track: "keys",
            length: 2 * bar,
            notes: keys.filter((note) => note.start < 2 * bar),
          },
        ],
      },
    ],
    song: [],
  };
}
