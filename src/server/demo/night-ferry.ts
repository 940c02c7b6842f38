import { barTicks, grid } from "@/core/time";
import { type ChainStep, type Project, makeLane, makeTrack } from "@/core/score";
import { transformOf } from "@/core/transforms";
import { chord, chordLine, hits, line, padOf } from "./notation";
import { nth } from "@/core/base";

/** A bar of 6/8 broken upwards and down again, in eighths, from a low note on. */
const rocking = (id: string, bar: number, pitches: readonly number[]) =>
  line(
    id,
    [0, 1, 2, 3, 2, 1].map(
      (tone, i) =>
        [12 * bar + 2 * i, 3.6, nth(pitches, tone), nth([92, 66, 74, 84, 70, 62], i)] as const,
    ),
  );

/**
 * The last boat, in 6/8: an old piano that rocks, a flute that glides from note to note, strings that swell, in a
 * hall of four seconds. Brushes a little uneven, by a card.
 */
export function nightFerry(): Project {
  const metre = { beats: 6, unit: 8 };
  const bar = barTicks(metre);
  const tracks = [
    makeTrack({
      id: "piano",
      kind: "melody",
      name: "Attic upright",
      sound: "attic-upright",
      level: -3,
      shaping: { brightness: -10, release: 1.6 },
      mix: { reverb: -11 },
    }),
    makeTrack({
      id: "flute",
      kind: "melody",
      name: "Fog flute",
      sound: "fog-flute",
      level: -3,
      pan: 0.1,
      shaping: { glide: 90, breath: 1.4 },
      mix: { reverb: -6, echo: -18 },
    }),
    makeTrack({
      id: "strings",
      kind: "melody",
      name: "Sail strings",
      sound: "sail-strings",
      level: -7,
      shaping: { attack: 6, release: 2, width: 55, brightness: -20 },
      mix: { low: -3, reverb: -7 },
    }),
    makeTrack({
      id: "bass",
      kind: "melody",
      name: "Keel bass",
      sound: "keel-bass",
      level: -3,
      shaping: { release: 2 },
    }),
    makeTrack({
      id: "drums",
      kind: "drums",
      name: "Lantern kit",
      sound: "lantern",
      level: -2,
      lanes: [36, 38, 42, 46, 70, 51].map((pitch) => makeLane(pitch, grid(pitch === 70 ? 16 : 8))),
      kit: {
        level: 0,
        pitch: 0,
        time: 1,
        pads: [
          { ...padOf(38), reverb: -9 },
          { ...padOf(51), level: -4, reverb: -12 },
        ],
      },
    }),
  ];
  const drums = [
    ...hits(36, "8....4 7..5..", grid(8)),
    ...hits(38, "...6.. ...7.2", grid(8)),
    ...hits(42, "534434 534435", grid(8)),
    ...hits(70, ".2.3.2.2.3.2 .2.3.2.2.3.2", grid(16)),
    ...hits(51, "5..... ......", grid(8)),
  ];
  const uneven: ChainStep = {
    id: "uneven",
    transform: "humanize",
    on: true,
    params: { ...transformOf("humanize").defaults, velocity: 10, timing: 6, seed: 31 },
    scope: null,
  };
  const part = { grid: grid(8), chain: [], length: 4 * bar };
  const pianoA = [
    ...rocking("p0-", 0, [52, 59, 64, 67]),
    ...rocking("p1-", 1, [48, 55, 64, 67]),
    ...rocking("p2-", 2, [43, 55, 62, 71]),
    ...rocking("p3-", 3, [42, 57, 62, 69]),
  ];
  const pianoB = [
    ...rocking("q0-", 0, [45, 57, 64, 72]),
    ...rocking("q1-", 1, [48, 55, 64, 72]),
    ...rocking("q2-", 2, [52, 59, 67, 71]),
    ...rocking("q3-", 3, [47, 57, 63, 69]),
  ];
  return {
    name: "Night Ferry",
    tempo: 84,
    metre,
    key: { root: 4, scale: "minor" },
    tracks,
    room: {
      decay: 4000,
      size: 75,
      tone: 4200,
      preDelay: 35,
      echoValue: "1/4.",
      feedback: 30,
      level: 3,
    },
    patterns: [
      {
        id: "a",
        name: "Boarding",
        bars: 4,
        chords: chordLine([0, "Em"], [12, "C"], [24, "G"], [36, "D/F#"]),
        parts: [
          { ...part, track: "piano", notes: pianoA },
          {
            ...part,
            track: "flute",
            notes: line("f", [
              [0, 4.2, 71, 92],
              [4, 2.2, 74, 84],
              [6, 5.4, 76, 98],
              [12, 4.2, 79, 100],
              [16, 2.2, 76, 86],
              [18, 5.4, 74, 92],
              [24, 6.2, 71, 88],
              [30, 4.2, 74, 92],
              [34, 2.2, 71, 84],
              [36, 8, 69, 96],
              [45, 2.4, 66, 76],
            ]),
          },
          {
            ...part,
            track: "strings",
            notes: [
              ...chord("s0", [0, 12], [52, 59, 67], { velocity: 76 }),
              ...chord("s1", [12, 12], [48, 60, 67], { velocity: 76 }),
              ...chord("s2", [24, 12], [50, 59, 67], { velocity: 80 }),
              ...chord("s3", [36, 11.5], [54, 57, 62], { velocity: 76 }),
            ],
          },
          {
            ...part,
            track: "bass",
            notes: line("b", [
              [0, 8, 40, 96],
              [10, 2, 38, 70],
              [12, 8, 36, 96],
              [22, 2, 38, 70],
              [24, 11, 43, 94],
              [36, 6, 42, 96],
              [42, 5.5, 38, 84],
            ]),
          },
          { ...part, track: "drums", length: 2 * bar, notes: drums, chain: [uneven] },
        ],
      },
      {
        id: "b",
        name: "Crossing",
        bars: 4,
        chords: chordLine([0, "Am"], [12, "C"], [24, "Em"], [36, "B7"]),
        parts: [
          { ...part, track: "piano", notes: pianoB },
          {
            ...part,
            track: "flute",
            notes: line("f", [
              [0, 6.2, 72, 94],
              [6, 4.2, 76, 100],
              [10, 2.2, 74, 86],
              [12, 7.4, 72, 94],
              [20, 4, 67, 82],
              [24, 6.2, 71, 92],
              [30, 6.2, 67, 86],
              [36, 6.2, 66, 90],
              [42, 5, 63, 80],
            ]),
          },
          {
            ...part,
            track: "strings",
            notes: [
              ...chord("s0", [0, 12], [57, 64, 72], { velocity: 82 }),
              ...chord("s1", [12, 12], [55, 64, 72], { velocity: 82 }),
              ...chord("s2", [24, 12], [55, 64, 71], { velocity: 86 }),
              ...chord("s3", [36, 11.5], [54, 63, 69], { velocity: 84 }),
            ],
          },
          {
            ...part,
            track: "bass",
            notes: line("b", [
              [0, 11, 45, 96],
              [12, 11, 36, 96],
              [24, 11, 40, 98],
              [36, 11, 35, 98],
            ]),
          },
          {
            ...part,
            track: "drums",
            length: 2 * bar,
            notes: drums.filter(({ pitch }) => pitch !== 38),
            chain: [uneven],
          },
        ],
      },
    ],
    song: [],
  };
}
