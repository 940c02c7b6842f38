import { type Hertz, type Seconds, clamp } from "@/core/base";
import { pitchHz } from "@/core/pitch";
import {
  slidPitch,
  velocityGain,
  voiced,
  type Ending,
  type Instrument,
  type VoiceNote,
  type PitchBend,
  type VoicePort,
} from "../instrument";
import { drawn, struck, type Curve } from "../synth/curve-reader";
import type { VoicePlan, WavePlan } from "../synth/plan";
import type { WaveShape } from "../synth/waves";
import type { Clock } from "../clock";

/** One partial or wave of a sound. */
export interface Layer {
  /** A wave by name, or the strengths of its harmonics from the first. */
  wave: WaveShape;
  /** Times the pitch that is played. */
  ratio?: number;
  cents?: number;
  level: number;
  /** Time constant in seconds with which this layer alone dies away; left out where it holds. */
  dies?: Seconds;
  /** Bent by a sine at a multiple of the pitch: how far, in multiples of the pitch, and how soon that fades. */
  fm?: { ratio: number; depth: number; dies: Seconds };
}

/** A low-pass over all layers: where it settles and where it starts, in multiples of the pitch. */
export interface Filtering {
  strike: number;
  settles: number;
  /** Time constant of the way between. */
  in: Seconds;
  q: number;
}

/** Breath, hammer or bow: noise through a band, held or dying away. */
export interface Breath {
  hz: Hertz;
  q: number;
  level: number;
  dies?: Seconds;
}

/** What a sound is made of: layers, an envelope, and what shapes them. All notes of it are built from this. */
export interface Design {
  layers: readonly Layer[];
  /** Level of a note at full velocity. */
  level: number;
  attack: Seconds;
  /** Where it settles after the attack, as a share of its peak, and the time constant of the way there. */
  holds: number;
  dies: Seconds;
  ending: Ending;
  filter?: Filtering;
  breath?: Breath;
  vibrato?: { hz: Hertz; cents: number; after: Seconds };
  /** Vowel-like peaks over all layers: frequency in Hz, width and level. */
  formants?: readonly (readonly [hz: Hertz, q: number, level: number])[];
}

const HIGHEST: Hertz = 16_000;
/** So many time constants after its beginning what dies away is 69 dB down, and need not sound on. */
const DIED = 8;
/** However slow the attack is asked for, it is over after this. */
const LONGEST_ATTACK: Seconds = 8;
/** A note that takes over from another is there in this time. */
const JOINED: Seconds = 0.008;

/** An instrument of a design. Louder notes are brighter: the filter opens and the bending deepens. */
export const layered =
  (design: Design) =>
  (clock: Clock, port: VoicePort, pitchBend: PitchBend | null): Instrument =>
    voiced({ clock, port, pitchBend }, design.ending, (note) => planOf(design, note));

/** What a note of a design sounds with. */
export function planOf(design: Design, note: VoiceNote): VoicePlan {
  const { pitch, velocity, shape } = note;
  const { layers, breath, vibrato, filter, formants } = design;
  const hz = pitchHz(pitch);
  const hard = velocity / 127;
  // What would lie above hearing is left out: it would fold down.
  const audible = layers.filter(({ ratio = 1 }) => hz * ratio <= HIGHEST);
  const waves = audible.map((layer) => waveOf(layer, note, hz, hard));
  // With the layer that sounds longest the voice ends, not before.
  const longest = Math.max(...waves.map(({ until = Infinity }) => until));
  return {
    waves: waves.map((wave) =>
      (wave.until ?? Infinity) === longest ? { ...wave, until: Infinity } : wave,
    ),
    level: rising(design, note, design.level * velocityGain(velocity)),
    ...(filter && { filter: filtering(filter, hz, hard) }),
    ...(formants && { formants }),
    ...(breath && shape.breath > 0 && { breath: breathing(breath, shape.breath) }),
    ...(vibrato && { vibrato: vibratoOf(vibrato) }),
  };
}

function rising({ attack, holds, dies }: Design, { from, shape }: VoiceNote, loud: number): Curve {
  // One that takes over from another speaks at once.
  const rise = from ? Math.min(attack, JOINED) : Math.min(LONGEST_ATTACK, attack * shape.attack);
  return struck(rise, loud, loud * holds, dies);
}

function waveOf(
  { wave, ratio = 1, cents = 0, level, dies, fm }: Layer,
  note: VoiceNote,
  hz: Hertz,
  hard: number,
): WavePlan {
  // Struck harder, what lies above the fundamental speaks more.
  const loud = ratio > 1 ? level * (0.4 + 0.6 * hard) : level;
  return {
    shape: wave,
    hz: slidPitch(note, 12 * Math.log2(ratio)),
    cents,
    level: dies ? drawn(loud, 0, dies) : loud,
    ...(dies && { until: DIED * dies }),
    ...(fm && {
      fm: {
        hz: slidPitch(note, 12 * Math.log2(fm.ratio)),
        depth: drawn(hz * fm.depth * (0.25 + 0.75 * hard), hz * fm.depth * 0.06, fm.dies),
      },
    }),
  };
}

function filtering(filter: Filtering, hz: Hertz, hard: number): NonNullable<VoicePlan["filter"]> {
  const bright = 0.45 + 0.55 * hard;
  const limited = (times: number) => clamp(hz * times * bright, 60, HIGHEST);
  return { q: filter.q, hz: drawn(limited(filter.strike), limited(filter.settles), filter.in) };
}

const breathing = ({ hz, q, level, dies }: Breath, share: number) => ({
  hz,
  q,
  level: dies ? drawn(level * share, 0, dies) : level * share,
});

/** How far a note trembles: not at all at first, then by its cents, with all others of its sound. */
const vibratoOf = ({ hz, cents, after }: NonNullable<Design["vibrato"]>) => ({
  hz,
  together: true,
  cents: drawn(0, cents, 0.25, after),
});
