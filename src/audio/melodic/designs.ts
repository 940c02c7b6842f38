import type { Design } from "./layered";

/** A sound made of a design: what it is called, where it belongs, how it sounds. */
export interface Designed {
  id: string;
  label: string;
  category: string;
  about: string;
  design: Design;
}

const PLUCKED = { shortest: 0.05, fade: 0.08, ring: 0.6 };
const HELD = { shortest: 0.05, fade: 0.06, ring: 0.45 };
const SLOW = { shortest: 0.15, fade: 0.35, ring: 2.4 };
const RUNG = { shortest: 0.05, fade: 0.3, ring: 2.2 };

/**
 * Sounds of layers. A line of the list adds one. Partials of a free bar (1, 2.756, 5.404), of a tuned one
 * (1, 4, 10) and of a bell (0.5, 1, 1.2, 1.5, 2) are from memory (N. Fletcher, T. Rossing, “The Physics of
 * Musical Instruments”).
 */
export const DESIGNS: readonly Designed[] = [
  {
    id: "keel-bass",
    label: "Keel bass",
    category: "Bass",
    about: "Deep and plain, felt more than heard",
    design: {
      layers: [
        { wave: "sine", level: 1 },
        { wave: "sine", ratio: 2, level: 0.35, dies: 0.5 },
        { wave: "sine", ratio: 3, level: 0.14, dies: 0.3 },
      ],
      level: 0.29,
      attack: 0.006,
      holds: 0.85,
      dies: 0.4,
      ending: { shortest: 0.05, fade: 0.04, ring: 0.3 },
    },
  },
  {
    id: "winch-bass",
    label: "Winch bass",
    category: "Bass",
    about: "Growls as it opens, grinds when held",
    design: {
      layers: [
        { wave: "sawtooth", level: 0.5, cents: -7 },
        { wave: "sawtooth", level: 0.5, cents: 7 },
        { wave: "square", ratio: 0.5, level: 0.4 },
      ],
      level: 0.43,
      attack: 0.004,
      holds: 0.8,
      dies: 0.3,
      ending: { shortest: 0.05, fade: 0.03, ring: 0.25 },
      filter: { strike: 3, settles: 9, in: 0.22, q: 7 },
    },
  },
  {
    id: "wharf-piano",
    label: "Wharf piano",
    category: "Keys",
    about: "Tines struck softly, barking when hard",
    design: {
      layers: [
        { wave: "sine", level: 0.8, fm: { ratio: 2, depth: 0.8, dies: 0.5 } },
        {
          wave: "sine",
          ratio: 2,
          level: 0.26,
          fm: { ratio: 7, depth: 1.6, dies: 0.09 },
          dies: 0.5,
        },
      ],
      level: 0.44,
      attack: 0.002,
      holds: 0.1,
      dies: 1.1,
      ending: PLUCKED,
    },
  },
  {
    id: "attic-upright",
    label: "Attic upright",
    category: "Keys",
    about: "Felt on old strings, a little out with itself",
    design: {
      layers: [
        { wave: [1, 0.55, 0.38, 0.25, 0.16, 0.1, 0.07], level: 0.55, cents: -4 },
        { wave: [1, 0.5, 0.3, 0.2, 0.12], level: 0.55, cents: 4, dies: 1.4 },
      ],
      level: 0.69,
      attack: 0.003,
      holds: 0.06,
      dies: 0.9,
      ending: PLUCKED,
      filter: { strike: 10, settles: 3.5, in: 0.5, q: 0.5 },
      breath: { hz: 900, q: 0.8, level: 0.5, dies: 0.012 },
    },
  },
  {
    id: "buoy-bell",
    label: "Buoy bell",
    category: "Mallets and bells",
    about: "Bronze over water, hums on",
    design: {
      layers: [
        { wave: "sine", ratio: 0.5, level: 0.3 },
        { wave: "sine", level: 0.6, dies: 1.8 },
        { wave: "sine", ratio: 1.2, level: 0.35, dies: 1.1 },
        { wave: "sine", ratio: 1.5, level: 0.2, dies: 0.8 },
        { wave: "sine", ratio: 2, level: 0.4, dies: 0.9 },
        { wave: "sine", ratio: 2.67, level: 0.2, dies: 0.35 },
        { wave: "sine", ratio: 4, level: 0.12, dies: 0.2 },
      ],
      level: 0.47,
      attack: 0.002,
      holds: 0.05,
      dies: 1.8,
      ending: RUNG,
    },
  },
  {
    id: "driftwood",
    label: "Driftwood",
    category: "Mallets and bells",
    about: "Warm wooden bars, gone as soon as struck",
    design: {
      layers: [
        { wave: "sine", level: 0.9, dies: 0.32 },
        { wave: "sine", ratio: 4, level: 0.35, dies: 0.07 },
        { wave: "sine", ratio: 10, level: 0.12, dies: 0.025 },
      ],
      level: 0.75,
      attack: 0.0015,
      holds: 0.02,
      dies: 0.4,
      ending: PLUCKED,
      breath: { hz: 1800, q: 1, level: 0.25, dies: 0.006 },
    },
  },
  {
    id: "tin-chimes",
    label: "Tin chimes",
    category: "Mallets and bells",
    about: "Small bright bars with a glint",
    design: {
      layers: [
        { wave: "sine", level: 0.7, dies: 1.1 },
        { wave: "sine", ratio: 2.756, level: 0.3, dies: 0.4 },
        { wave: "sine", ratio: 5.404, level: 0.16, dies: 0.14 },
      ],
      level: 0.64,
      attack: 0.001,
      holds: 0.03,
      dies: 1,
      ending: RUNG,
    },
  },
  {
    id: "net-harp",
    label: "Net harp",
    category: "Pluck",
    about: "Round gut strings, soft at the edges",
    design: {
      layers: [
        { wave: [1, 0.42, 0.2, 0.12, 0.06], level: 0.8 },
        { wave: "triangle", ratio: 2, level: 0.12, dies: 0.2 },
      ],
      level: 0.69,
      attack: 0.002,
      holds: 0.02,
      dies: 0.45,
      ending: PLUCKED,
      filter: { strike: 8, settles: 2, in: 0.16, q: 0.6 },
    },
  },
  {
    id: "sprung-wire",
    label: "Sprung wire",
    category: "Pluck",
    about: "Snaps shut at once, good in runs",
    design: {
      layers: [
        { wave: "sawtooth", level: 0.5, cents: 4 },
        { wave: "square", level: 0.3, cents: -3 },
      ],
      level: 1.15,
      attack: 0.002,
      holds: 0.03,
      dies: 0.16,
      ending: { shortest: 0.04, fade: 0.05, ring: 0.4 },
      filter: { strike: 16, settles: 1.6, in: 0.07, q: 5 },
    },
  },
  {
    id: "gull-whistle",
    label: "Gull whistle",
    category: "Lead",
    about: "A thin pure tone that begins to tremble",
    design: {
      layers: [
        { wave: "sine", level: 0.8 },
        { wave: "triangle", level: 0.2 },
        { wave: "sine", ratio: 2, level: 0.12 },
      ],
      level: 0.23,
      attack: 0.02,
      holds: 0.9,
      dies: 0.3,
      ending: HELD,
      filter: { strike: 5, settles: 5, in: 0.1, q: 0.5 },
      vibrato: { hz: 5.6, cents: 22, after: 0.35 },
      breath: { hz: 3200, q: 2, level: 0.22 },
    },
  },
  {
    id: "pier-square",
    label: "Pier square",
    category: "Lead",
    about: "Hollow and direct, with an edge",
    design: {
      layers: [
        { wave: "square", level: 0.5, cents: -3 },
        { wave: "square", level: 0.3, cents: 8 },
      ],
      level: 0.37,
      attack: 0.004,
      holds: 0.75,
      dies: 0.25,
      ending: HELD,
      filter: { strike: 12, settles: 5, in: 0.2, q: 1.2 },
      vibrato: { hz: 5, cents: 10, after: 0.4 },
    },
  },
  {
    id: "harbour-mist",
    label: "Harbour mist",
    category: "Pad",
    about: "Wide and slow, light behind it",
    design: {
      layers: [
        { wave: "sawtooth", level: 0.3, cents: -11 },
        { wave: "sawtooth", level: 0.3 },
        { wave: "sawtooth", level: 0.3, cents: 11 },
        { wave: "sine", ratio: 0.5, level: 0.25 },
      ],
      level: 0.57,
      attack: 0.35,
      holds: 0.85,
      dies: 0.8,
      ending: SLOW,
      filter: { strike: 1.5, settles: 4.5, in: 0.9, q: 0.8 },
    },
  },
  {
    id: "low-tide",
    label: "Low tide",
    category: "Pad",
    about: "Dark and still, hardly moving",
    design: {
      layers: [
        { wave: "sine", level: 0.7 },
        { wave: "triangle", level: 0.35, cents: 6 },
        { wave: "sine", ratio: 1.5, level: 0.14 },
      ],
      level: 0.31,
      attack: 0.5,
      holds: 0.9,
      dies: 1,
      ending: SLOW,
      filter: { strike: 2, settles: 3, in: 1, q: 0.5 },
    },
  },
  {
    id: "lantern-choir",
    label: "Lantern choir",
    category: "Pad",
    about: "Voices on an open vowel, far off",
    design: {
      layers: [
        { wave: "sawtooth", level: 0.6, cents: -8 },
        { wave: "sawtooth", level: 0.6, cents: 8 },
      ],
      level: 1.03,
      attack: 0.22,
      holds: 0.9,
      dies: 0.6,
      ending: SLOW,
      filter: { strike: 12, settles: 12, in: 0.1, q: 0.5 },
      vibrato: { hz: 4.8, cents: 9, after: 0.3 },
      // An open “ah”: formants of a low voice (G. Peterson, H. Barney, 1952, from memory).
      formants: [
        [730, 6, 1],
        [1090, 7, 0.6],
        [2440, 9, 0.25],
        [250, 1, 0.35],
      ],
    },
  },
  {
    id: "sail-strings",
    label: "Sail strings",
    category: "Strings and winds",
    about: "Bowed and many, filling as they swell",
    design: {
      layers: [
        { wave: "sawtooth", level: 0.35, cents: -6 },
        { wave: "sawtooth", level: 0.35, cents: 5 },
        { wave: "sawtooth", level: 0.2, ratio: 2, cents: 3 },
      ],
      level: 0.62,
      attack: 0.09,
      holds: 0.85,
      dies: 0.4,
      ending: { shortest: 0.12, fade: 0.12, ring: 0.9 },
      filter: { strike: 3, settles: 6, in: 0.2, q: 0.6 },
      vibrato: { hz: 5.4, cents: 8, after: 0.3 },
      breath: { hz: 2600, q: 0.7, level: 0.03 },
    },
  },
  {
    id: "fog-flute",
    label: "Fog flute",
    category: "Strings and winds",
    about: "Breath first, then a round tone",
    design: {
      layers: [{ wave: [1, 0.28, 0.1, 0.03], level: 0.8 }],
      level: 0.28,
      attack: 0.05,
      holds: 0.9,
      dies: 0.4,
      ending: HELD,
      filter: { strike: 5, settles: 5, in: 0.1, q: 0.5 },
      vibrato: { hz: 5, cents: 12, after: 0.4 },
      breath: { hz: 1700, q: 1.2, level: 0.16, dies: 0.3 },
    },
  },
  {
    id: "tug-horn",
    label: "Tug horn",
    category: "Strings and winds",
    about: "Brass that opens when it is pushed",
    design: {
      layers: [
        { wave: "sawtooth", level: 0.55 },
        { wave: "sawtooth", level: 0.3, cents: 6 },
      ],
      level: 0.56,
      attack: 0.035,
      holds: 0.85,
      dies: 0.3,
      ending: HELD,
      filter: { strike: 1.4, settles: 6.5, in: 0.07, q: 1.4 },
    },
  },
  {
    id: "chapel-pipes",
    label: "Chapel pipes",
    category: "Organ and reeds",
    about: "Full and even, as long as it is held",
    design: {
      layers: [
        { wave: [1, 0.8, 0.35, 0.5, 0, 0.2, 0, 0.28], level: 0.55 },
        { wave: "sine", ratio: 0.5, level: 0.4 },
      ],
      level: 0.36,
      attack: 0.012,
      holds: 1,
      dies: 0.1,
      ending: { shortest: 0.06, fade: 0.03, ring: 0.25 },
      filter: { strike: 12, settles: 12, in: 0.1, q: 0.5 },
      breath: { hz: 2200, q: 1.5, level: 0.25, dies: 0.02 },
    },
  },
  {
    id: "squeezebox",
    label: "Squeezebox",
    category: "Organ and reeds",
    about: "Two reeds a hair apart, beating",
    design: {
      layers: [
        { wave: [1, 0.7, 0.6, 0.45, 0.35, 0.3, 0.2, 0.15], level: 0.4, cents: -6 },
        { wave: [1, 0.7, 0.6, 0.45, 0.35, 0.3, 0.2, 0.15], level: 0.4, cents: 6 },
      ],
      level: 0.61,
      attack: 0.03,
      holds: 0.95,
      dies: 0.2,
      ending: HELD,
      filter: { strike: 6, settles: 6, in: 0.1, q: 0.5 },
    },
  },
  {
    id: "sounding",
    label: "Sounding",
    category: "Effects",
    about: "A ping sent down that does not come back",
    design: {
      layers: [
        { wave: "sine", level: 0.8, fm: { ratio: 2.01, depth: 0.5, dies: 0.9 } },
        { wave: "sine", ratio: 3, level: 0.08, dies: 0.4 },
      ],
      level: 0.43,
      attack: 0.004,
      holds: 0.02,
      dies: 1.3,
      ending: RUNG,
    },
  },
  {
    id: "spray",
    label: "Spray",
    category: "Effects",
    about: "Water thrown up, with a tone inside",
    design: {
      layers: [{ wave: "sine", level: 0.35, dies: 0.8 }],
      level: 0.83,
      attack: 0.06,
      holds: 0.15,
      dies: 0.5,
      ending: SLOW,
      filter: { strike: 18, settles: 18, in: 0.1, q: 0.5 },
      breath: { hz: 4200, q: 0.6, level: 0.9, dies: 0.7 },
    },
  },
];
