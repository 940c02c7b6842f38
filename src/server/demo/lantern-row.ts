import { barTicks, grid } from "@/core/time";
import { type ChainStep, type Project, makeLane, makeTrack } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { chord, chordLine, hits, line, padOf } from "./notation";

const swung = grid(16, "straight", 56);

/** The harmony: pitches of each bar's chord, lowest first. */
const CHORDS = [
  [50, 57, 60, 64, 65],
  [46, 53, 57, 62, 65],
  [43, 50, 58, 62, 65],
  [45, 52, 55, 62, 64],
] as const;

/**
 * Lamps along the quay at 118: a kick on every beat that presses pad, bass and keys down, so that all breathes
 * with it; chords held and broken up by a card; stabs that an echo of three sixteenths answers.
 */
export function lanternRow(): Project {
  const metre = { beats: 4, unit: 4 };
  const bar = barTicks(metre);
  const ducked = { duckBy: "drums", duckPad: 36 } as const;
  const tracks = [
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Regatta kit",
      sound: "regatta",
      level: -3,
      lanes: [
        makeLane(36, grid(4)),
        makeLane(39, grid(4)),
        makeLane(42, swung),
        makeLane(46, grid(8)),
        { ...makeLane(37, grid(16)), steps: 6 },
        makeLane(70, swung),
        makeLane(49, grid(4)),
      ],
      kit: {
        level: 0,
        pitch: 0,
        time: 1,
        pads: [
          { ...padOf(37), level: -5, pan: -0.3, echo: -10 },
          { ...padOf(39), level: -2, reverb: -13 },
          { ...padOf(46), level: -4, choke: 1 },
          { ...padOf(70), level: -6, pan: 0.25 },
        ],
      },
      mix: { compress: 15 },
    }),
    makeTrack({
      id: "bass",
      kind: "melody",
      name: "Keel bass",
      sound: "keel-bass",
      level: -2,
      shaping: { drive: 30, brightness: 25 },
      mix: { ...ducked, duckDepth: 8, duckRelease: 160 },
    }),
    makeTrack({
      id: "pad",
      kind: "melody",
      name: "Harbour mist",
      sound: "harbour-mist",
      level: -5,
      shaping: { width: 60, brightness: 15, attack: 0.4 },
      mix: { low: -4, reverb: -10, ...ducked, duckDepth: 14, duckRelease: 330 },
    }),
    makeTrack({
      id: "keys",
      kind: "melody",
      name: "Wharf piano",
      sound: "wharf-piano",
      level: -5,
      shaping: { motion: 25 },
      mix: { echo: -9, reverb: -16, ...ducked, duckDepth: 5, duckRelease: 150 },
    }),
    makeTrack({
      id: "harp",
      kind: "melody",
      name: "Net harp",
      sound: "net-harp",
      level: -8,
      pan: 0.2,
      mix: { high: 3, reverb: -9, echo: -14 },
    }),
  ];
  const drums = [
    ...hits(36, "9999 9999", grid(4)),
    ...hits(39, ".7.7 .7.8", grid(4)),
    ...hits(42, "4.25 4.25 4.25 4.25 4.25 4.25 4.25 4254", swung),
    ...hits(46, ".6.6.6.6 .6.6.6.7", grid(8)),
    ...hits(37, "..5..4", grid(16)),
    ...hits(70, ".3.4 .3.4 .3.4 .3.4 .3.4 .3.4 .3.4 .345", swung),
  ];
  const roots = [38, 34, 31, 33];
  const bass = roots.flatMap((root, i) =>
    line(`b${i}-`, [
      [16 * i + 2, 1.6, root, 112],
      [16 * i + 6, 1.6, root, 100],
      [16 * i + 9, 0.8, root + 12, 84],
      [16 * i + 10, 1.6, root, 110],
      [16 * i + 13, 0.8, root + 7, 82],
      [16 * i + 14, 1.6, root + 12, 98],
    ]),
  );
  const pad = CHORDS.flatMap((pitches, i) =>
    chord(`p${i}`, [16 * i, 16], pitches, { velocity: 78 }),
  );
  const stabs = CHORDS.flatMap((pitches, i) =>
    [
      [3, 1.5, 84],
      [6, 2, 92],
      [11, 1.5, 78],
    ].flatMap(([at, length, velocity], k) =>
      chord(
        `k${i}${k}`,
        [16 * i + at!, length!],
        pitches.slice(2).map((p) => p + 12),
        { velocity: velocity!, spread: 4 },
      ),
    ),
  );
  const held = CHORDS.flatMap((pitches, i) =>
    chord(
      `h${i}`,
      [16 * i, 16],
      pitches.slice(1, 4).map((p) => p + 12),
      { velocity: 90 },
    ),
  );
  const broken: ChainStep = {
    id: "broken",
    transform: "arpeggiate",
    on: true,
    params: {
      ...transformOf("arpeggiate").defaults,
      mode: "up-down",
      value: "16",
      octaves: 2,
      gate: 75,
    },
    scope: null,
  };
  const part = { grid: grid(16), chain: [] };
  const four = { length: 4 * bar };
  return {
    name: "Lantern Row",
    tempo: 118,
    metre,
    key: { root: 2, scale: "minor" },
    tracks,
    room: { decay: 2200, size: 45, preDelay: 18, echoValue: "1/8.", feedback: 42, level: 1 },
    patterns: [
      {
        id: "a",
        name: "Dusk",
        colour: "amber",
        bars: 4,
        chords: chordLine([0, "Dm9"], [16, "Bbmaj7"], [32, "Gm7"], [48, "A7sus4"]),
        parts: [
          { ...part, track: "drums", length: 2 * bar, notes: drums },
          { ...part, ...four, track: "bass", notes: bass },
          { ...part, ...four, track: "pad", notes: pad },
          { ...part, ...four, track: "keys", notes: stabs },
          { ...part, ...four, track: "harp", notes: held, chain: [broken] },
        ],
      },
      {
        id: "b",
        name: "Lanterns lit",
        colour: "slate",
        bars: 4,
        chords: chordLine([0, "Bbmaj7"], [16, "C"], [32, "Dm9"], [48, "Am7"]),
        parts: [
          {
            ...part,
            ...four,
            track: "drums",
            notes: [
              ...drums.filter(({ pitch, start }) => pitch !== 36 && start >= 0),
              ...hits(49, "6", grid(4)),
            ],
          },
          {
            ...part,
            ...four,
            track: "bass",
            notes: line("b", [
              [0, 14, 34, 100],
              [16, 14, 36, 100],
              [32, 14, 38, 104],
              [48, 8, 33, 100],
              [58, 5, 40, 92],
            ]),
          },
          {
            ...part,
            ...four,
            track: "pad",
            notes: [
              ...chord("p0", [0, 16], [46, 53, 57, 62, 65], { velocity: 84 }),
              ...chord("p1", [16, 16], [48, 55, 60, 64, 67], { velocity: 84 }),
              ...chord("p2", [32, 16], [50, 57, 60, 64, 65], { velocity: 88 }),
              ...chord("p3", [48, 16], [45, 52, 57, 60, 67], { velocity: 84 }),
            ],
          },
          { ...part, ...four, track: "keys", notes: [] },
          {
            ...part,
            ...four,
            track: "harp",
            notes: [
              ...chord("h0", [0, 16], [65, 69, 74], { velocity: 88 }),
              ...chord("h1", [16, 16], [67, 72, 76], { velocity: 88 }),
              ...chord("h2", [32, 16], [69, 72, 77], { velocity: 92 }),
              ...chord("h3", [48, 16], [67, 72, 76], { velocity: 88 }),
            ],
            chain: [broken],
          },
        ],
      },
    ],
    song: [
      { id: "s1", pattern: "b", times: 1, name: "Dusk", mutes: ["drums", "keys"] },
      { id: "s2", pattern: "a", times: 2, name: "Lamps" },
      { id: "s3", pattern: "b", times: 1, name: "Over the water" },
      { id: "s4", pattern: "a", times: 2, name: "Full quay" },
      { id: "s5", pattern: "b", times: 1, name: "Last lamp", tempo: 112, mutes: ["drums"] },
    ],
  };
}
