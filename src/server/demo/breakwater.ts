import { barTicks, grid, makeLane, makeTrack, type Project } from "@/core";
import { hits, line } from "./notation";

const triplets = grid(16, "triplet");

/** Half-time at 140: hats in 1/16 triplets over a straight kick, a one-bar beat under four bars of line. */
export function breakwater(): Project {
  const metre = { beats: 4, unit: 4 };
  const bar = barTicks(metre);
  const tracks = [
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Harbour kit",
      sound: "harbour",
      lanes: [
        makeLane(36, grid(16)),
        makeLane(38, grid(4)),
        makeLane(39, grid(4)),
        makeLane(42, triplets),
        makeLane(46, grid(8)),
        { ...makeLane(70, grid(16)), steps: 6 },
        makeLane(45, grid(16)),
      ],
    }),
    makeTrack({ id: "bass", kind: "melody", name: "Reed bass", sound: "reed-bass" }),
    makeTrack({ id: "pluck", kind: "melody", name: "Rope pluck", sound: "rope-pluck", level: -2 }),
    makeTrack({ id: "keys", kind: "melody", name: "Glass keys", sound: "glass-keys", level: -4 }),
  ];
  const drums = [
    ...hits(36, "9....... ..7..8.. 9..6.... ..8....."),
    ...hits(38, "..9. ..9.", grid(4)),
    ...hits(39, "..5. ..5.", grid(4)),
    ...hits(42, "8.56.5 8.56.5 856565 8.5... 8.56.5 856565 8.56.5 123456", triplets),
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
  const part = { grid: grid(16), chain: [] };
  return {
    name: "Breakwater",
    tempo: 140,
    metre,
    key: { root: 5, scale: "harmonic minor" },
    tracks,
    patterns: [
      {
        id: "a",
        name: "A",
        bars: 4,
        parts: [
          { ...part, track: "drums", length: 2 * bar, notes: drums },
          { ...part, track: "bass", length: 4 * bar, notes: bass },
          { ...part, track: "pluck", length: 4 * bar, grid: grid(4, "triplet"), notes: pluck },
          { ...part, track: "keys", length: 4 * bar, notes: keys },
        ],
      },
      {
        id: "b",
        name: "B",
        bars: 2,
        parts: [
          { ...part, track: "drums", length: bar, notes: drums.filter((n) => n.start < bar) },
          { ...part, track: "bass", length: 2 * bar, notes: bass.filter((n) => n.start < 2 * bar) },
          { ...part, track: "pluck", length: 2 * bar, grid: grid(4, "triplet"), notes: [] },
          { ...part, track: "keys", length: 2 * bar, notes: keys.filter((n) => n.start < 2 * bar) },
        ],
      },
    ],
    song: [],
  };
}
