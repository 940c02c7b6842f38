import { barTicks, grid } from "@/core/time";
import { type Project, makeLane, makeTrack } from "@/core/score";
import { chord, chordLine, hits, line, padOf } from "./notation";

/** A theme of one bar of 5/4: start and length in sixteenths, pitch, velocity. */
const THEME = [
  [0, 2, 81, 100],
  [2, 2, 84, 84],
  [4, 3, 88, 94],
  [8, 2, 86, 88],
  [10, 2, 84, 78],
  [14, 2, 79, 84],
  [16, 4, 81, 92],
] as const;

/** The theme, later and at another pitch, as a canon has it. */
const voice = (id: string, late: number, by: number, soft = 0) =>
  line(
    id,
    THEME.map(([at, length, pitch, velocity]) => [at + late, length, pitch + by, velocity - soft]),
  );

/**
 * A mill that turns in five: a theme that chases itself a beat and a half later, clicks whose lanes go round in
 * seven and nine steps, thirds of a beat against sixteenths, and an echo from side to side.
 */
export function tidemill(): Project {
  const metre = { beats: 5, unit: 4 };
  const bar = barTicks(metre);
  const tracks = [
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Pebble kit",
      sound: "pebble",
      level: -2,
      lanes: [
        makeLane(36, grid(16)),
        makeLane(38, grid(4)),
        makeLane(42, grid(16)),
        { ...makeLane(37, grid(16)), steps: 7 },
        { ...makeLane(56, grid(16)), steps: 9 },
        makeLane(75, grid(8, "triplet")),
        makeLane(46, grid(8)),
      ],
      kit: {
        level: 0,
        pitch: 0,
        time: 1,
        pads: [
          { ...padOf(37), pan: -0.5, echo: -9 },
          { ...padOf(42), level: -3 },
          { ...padOf(56), pan: 0.5, level: -4, reverb: -8, echo: -12 },
          // The thump of another kit under the clicks of this one.
          { ...padOf(36), from: "harbour", level: -1 },
        ].sort((a, b) => a.pitch - b.pitch),
      },
      mix: { compress: 45 },
    }),
    makeTrack({
      id: "bass",
      kind: "melody",
      name: "Winch bass",
      sound: "winch-bass",
      level: -6,
      shaping: { brightness: -30, glide: 60 },
      mix: { duckBy: "drums", duckPad: 36, duckDepth: 6, duckRelease: 140 },
    }),
    makeTrack({
      id: "chimes",
      kind: "melody",
      name: "Tin chimes",
      sound: "tin-chimes",
      level: -4,
      pan: -0.25,
      mix: { reverb: -12, echo: -10 },
    }),
    makeTrack({
      id: "harp",
      kind: "melody",
      name: "Sprung wire",
      sound: "sprung-wire",
      level: -6,
      pan: 0.3,
      shaping: { brightness: -20 },
      mix: { reverb: -12 },
    }),
    makeTrack({
      id: "pipes",
      kind: "melody",
      name: "Chapel pipes",
      sound: "chapel-pipes",
      level: -11,
      shaping: { attack: 8, motion: 35, brightness: -25 },
      mix: { reverb: -6, low: -3 },
    }),
  ];
  const drums = [
    ...hits(36, "9... ..7. .... 8... ..5. 9... ..7. .... 8..6 ...."),
    ...hits(38, ".7..8 .7..8", grid(4)),
    ...hits(42, "5363 5363 5363 5363 5363 5363 5363 5363 5363 5566"),
    ...hits(37, "5..4..."),
    ...hits(56, "6....3..."),
    ...hits(75, "... ... 543 ... ... ... ... ... ... 345", grid(8, "triplet")),
    ...hits(46, ".. .. .. .. .5 .. .. .. .. ..", grid(8)),
  ];
  const bass = (root: number, id: string, at: number) =>
    line(id, [
      [at, 3.2, root, 108],
      [at + 6, 2, root, 90],
      [at + 12, 4.2, root + 7, 100],
      [at + 16, 3.5, root + 5, 92],
    ]);
  const part = { grid: grid(16), chain: [], length: 4 * bar };
  const two = { length: 2 * bar };
  return {
    name: "Tidemill",
    tempo: 104,
    metre,
    key: { root: 9, scale: "dorian" },
    tracks,
    room: {
      decay: 1600,
      size: 30,
      echoValue: "1/8.",
      feedback: 52,
      echoTone: 2800,
      pingPong: true,
      level: 2.5,
    },
    patterns: [
      {
        id: "a",
        name: "Wheel",
        bars: 4,
        chords: chordLine([0, "Am7"], [40, "D"]),
        parts: [
          { ...part, ...two, track: "drums", notes: drums },
          {
            ...part,
            track: "bass",
            notes: [
              ...bass(33, "b0-", 0),
              ...bass(33, "b1-", 20),
              ...bass(38, "b2-", 40),
              ...bass(31, "b3-", 60),
            ],
          },
          {
            ...part,
            ...two,
            track: "chimes",
            notes: [...voice("c0-", 0, 0), ...voice("c1-", 20, 0, 12)],
          },
          {
            ...part,
            ...two,
            track: "harp",
            notes: [...voice("h0-", 6, -12), ...voice("h1-", 26, -17, 8)].filter(
              (note) => note.start < 40 * 240,
            ),
          },
          {
            ...part,
            track: "pipes",
            notes: [
              ...chord("o0", [0, 40], [57, 64, 67, 72], { velocity: 80 }),
              ...chord("o1", [40, 20], [57, 62, 66, 74], { velocity: 80 }),
              ...chord("o2", [60, 20], [55, 62, 67, 71], { velocity: 80 }),
            ],
          },
        ],
      },
      {
        id: "b",
        name: "Sluice",
        bars: 2,
        chords: chordLine([0, "F"], [20, "G"]),
        parts: [
          { ...part, ...two, track: "drums", notes: drums.filter(({ pitch }) => pitch !== 38) },
          {
            ...part,
            ...two,
            track: "bass",
            notes: line("b", [
              [0, 19, 29, 104],
              [20, 19, 31, 104],
            ]),
          },
          { ...part, length: bar, track: "chimes", notes: voice("c", 0, 3) },
          { ...part, ...two, track: "harp", notes: [] },
          {
            ...part,
            ...two,
            track: "pipes",
            notes: [
              ...chord("o0", [0, 20], [53, 60, 65, 69], { velocity: 88 }),
              ...chord("o1", [20, 20], [55, 62, 67, 71], { velocity: 88 }),
            ],
          },
        ],
      },
    ],
    song: [],
  };
}
