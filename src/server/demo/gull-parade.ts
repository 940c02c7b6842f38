import { barTicks, grid } from "@/core/time";
import { type Project, makeLane, makeTrack } from "@/core/score";
import { chord, hits, line } from "./notation";

/** A bright march that limps: 7/8 counted 2 + 2 + 3, plucks over claps and tambourine. */
export function gullParade(): Project {
  const metre = { beats: 7, unit: 8 };
  const bar = barTicks(metre);
  const tracks = [
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Boathouse kit",
      sound: "boathouse",
      level: -2,
      lanes: [36, 38, 39, 42, 54, 45, 50].map((pitch) =>
        makeLane(pitch, grid(pitch === 42 ? 16 : 8)),
      ),
    }),
    makeTrack({
      id: "pluck",
      kind: "melody",
      name: "Rope pluck",
      sound: "rope-pluck",
      level: -2,
      mix: { reverb: -15 },
    }),
    makeTrack({ id: "bass", kind: "melody", name: "Reed bass", sound: "reed-bass", level: -3 }),
  ];
  const drums = [
    ...hits(36, "9...8.. 9...7.6", grid(8)),
    ...hits(38, "..8...8 ..8...8", grid(8)),
    ...hits(39, "......5 ......5", grid(8)),
    ...hits(42, "8.5.8.5.8.5.5. 8.5.8.5.8.5.55", grid(16)),
    ...hits(54, ".4.4.44 .4.4.44", grid(8)),
    ...hits(45, "....... .....6.", grid(8)),
    ...hits(50, "....... ....6..", grid(8)),
  ];
  const pluck = line("p", [
    [0, 2, 69, 104],
    [2, 2, 73, 88],
    [4, 2, 76, 98],
    [6, 2, 74, 84],
    [8, 2, 73, 100],
    [10, 2, 71, 82],
    [12, 2, 69, 88],
    [14, 2, 71, 104],
    [16, 2, 74, 88],
    [18, 2, 78, 98],
    [20, 1, 79, 84],
    [21, 1, 78, 80],
    [22, 4, 76, 102],
    [26, 2, 73, 84],
    [28, 2, 69, 104],
    [30, 2, 73, 88],
    [32, 2, 76, 98],
    [34, 2, 81, 90],
    [36, 2, 79, 100],
    [38, 2, 78, 84],
    [40, 2, 76, 88],
    [42, 2, 74, 104],
    [44, 2, 71, 86],
    [46, 2, 67, 92],
    [48, 2, 71, 84],
    [50, 6, 69, 106],
  ]);
  const bass = line("b", [
    [0, 3, 45, 108],
    [4, 3, 45, 88],
    [8, 4, 40, 98],
    [12, 2, 43, 84],
    [14, 3, 43, 106],
    [18, 3, 43, 86],
    [22, 4, 45, 98],
    [26, 2, 40, 84],
    [28, 3, 45, 108],
    [32, 3, 49, 88],
    [36, 6, 50, 98],
    [42, 4, 43, 106],
    [46, 4, 40, 90],
    [50, 6, 45, 100],
  ]);
  const answer = [
    ...chord("c1", [0, 7], [57, 61, 64], { velocity: 82, spread: 12 }),
    ...chord("c2", [8, 6], [57, 62, 66], { velocity: 78, spread: 12 }),
    ...chord("c3", [14, 7], [55, 59, 62], { velocity: 82, spread: 12 }),
    ...chord("c4", [22, 6], [57, 61, 64], { velocity: 78, spread: 12 }),
  ];
  const part = { grid: grid(8), chain: [] };
  return {
    name: "Gull Parade",
    tempo: 132,
    metre,
    key: { root: 9, scale: "mixolydian" },
    tracks,
    room: { decay: 900, size: 20, level: -0.5 },
    patterns: [
      {
        id: "a",
        name: "Steps",
        bars: 4,
        parts: [
          { ...part, track: "drums", length: 2 * bar, notes: drums },
          { ...part, track: "pluck", length: 4 * bar, notes: pluck },
          { ...part, track: "bass", length: 4 * bar, notes: bass },
        ],
      },
      {
        id: "b",
        name: "Bandstand",
        bars: 2,
        parts: [
          {
            ...part,
            track: "drums",
            length: 2 * bar,
            notes: drums.filter((note) => note.pitch !== 38),
          },
          { ...part, track: "pluck", length: 2 * bar, notes: answer },
          {
            ...part,
            track: "bass",
            length: 2 * bar,
            notes: bass.filter((note) => note.start < 2 * bar),
          },
        ],
      },
    ],
    song: [],
  };
}
