import { pitchHz, type Hertz, type Seconds } from "@/core";
import { noise } from "../dsp";
import { swing } from "../epoch";
import { coarse } from "../ease";
import {
  slidPitch,
  velocityGain,
  voiced,
  type Ending,
  type Instrument,
  type Wheel,
} from "../instrument";

/** One partial or wave of a sound. */
export interface Layer {
  /** A wave of the oscillator, or the strengths of its harmonics from the first. */
  wave: OscillatorType | readonly number[];
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
  (context: BaseAudioContext, output: AudioNode, wheel: Wheel | null): Instrument => {
    const waves = new Map<readonly number[], PeriodicWave>();
    const waveOf = (harmonics: readonly number[]) => {
      let wave = waves.get(harmonics);
      if (!wave) {
        const imag = Float32Array.from([0, ...harmonics]);
        wave = context.createPeriodicWave(new Float32Array(imag.length), imag);
        waves.set(harmonics, wave);
      }
      return wave;
    };
    let air: AudioBuffer | null = null;
    const airOf = () => {
      if (!air) {
        air = context.createBuffer(1, Math.ceil(context.sampleRate * 1.7), context.sampleRate);
        const hiss = noise(97);
        air.copyToChannel(Float32Array.from({ length: air.length }, hiss), 0);
      }
      return air;
    };
    // One tremble for all notes, each of which takes it up in its own time.
    let tremble: OscillatorNode | null = null;
    const trembleOf = ({ hz }: NonNullable<Design["vibrato"]>) => {
      if (!tremble) {
        tremble = swing(context, hz, hz * context.currentTime);
        tremble.start();
      }
      return tremble;
    };
    const instrument = voiced(context, output, wheel, design.ending, (note) => {
      const { time, pitch, velocity, shape } = note;
      const hz = pitchHz(pitch);
      // One that takes over from another speaks at once.
      const attack = note.from
        ? Math.min(design.attack, JOINED)
        : Math.min(LONGEST_ATTACK, design.attack * shape.attack);
      const hard = velocity / 127;
      const loud = design.level * velocityGain(velocity);
      const gain = context.createGain();
      gain.gain.setValueAtTime(0, time);
      gain.gain.linearRampToValueAtTime(loud, time + attack);
      gain.gain.setTargetAtTime(loud * design.holds, time + attack, design.dies);
      const { into, filters } = shaped(context, design, gain, hz, hard, time);
      const sources: (OscillatorNode | AudioBufferSourceNode)[] = [];
      const gone = new Map<AudioScheduledSourceNode, Seconds>();
      const until = (dies: Seconds | undefined) => (dies ? time + DIED * dies : Infinity);
      const vibrato =
        design.vibrato && shaking(context, trembleOf(design.vibrato), design.vibrato, time);
      for (const layer of design.layers) {
        const { ratio = 1, cents = 0, level, dies, fm } = layer;
        // What would lie above hearing is left out: it would fold down.
        if (hz * ratio > HIGHEST) continue;
        const source = context.createOscillator();
        if (typeof layer.wave === "string") source.type = layer.wave;
        else source.setPeriodicWave(waveOf(layer.wave));
        source.detune.value = cents;
        slidPitch(source.frequency, note, 12 * Math.log2(ratio));
        coarse(source.detune);
        vibrato?.connect(source.detune);
        if (fm) {
          const bend = context.createOscillator();
          slidPitch(bend.frequency, note, 12 * Math.log2(fm.ratio));
          const depth = context.createGain();
          depth.gain.setValueAtTime(hz * fm.depth * (0.25 + 0.75 * hard), time);
          depth.gain.setTargetAtTime(hz * fm.depth * 0.06, time, fm.dies);
          bend.connect(depth).connect(source.frequency);
          sources.push(bend);
          gone.set(bend, until(dies));
        }
        const mix = context.createGain();
        // Struck harder, what lies above the fundamental speaks more.
        mix.gain.setValueAtTime(ratio > 1 ? level * (0.4 + 0.6 * hard) : level, time);
        if (dies) mix.gain.setTargetAtTime(0, time, dies);
        source.connect(mix).connect(into);
        gone.set(source, until(dies));
        // The layer that sounds longest leads: with it the voice ends.
        const [leader] = sources;
        if (leader && gone.get(leader)! > until(dies)) sources.push(source);
        else sources.unshift(source);
      }
      if (sources[0]) gone.delete(sources[0]);
      if (design.breath && shape.breath > 0) {
        const level = design.breath.level * shape.breath;
        sources.push(breathing(context, { ...design.breath, level }, airOf(), into, time));
      }
      const ended = () => vibrato && tremble?.disconnect(vibrato);
      return { gain, sources, filters, gone, ended, risen: time + attack };
    });
    const dispose = () => {
      tremble?.stop();
      instrument.dispose?.();
    };
    return { ...instrument, dispose };
  };

/** What the layers run into: through the filter and the formants into the note's own level. */
function shaped(
  context: BaseAudioContext,
  { filter, formants }: Design,
  gain: GainNode,
  hz: Hertz,
  hard: number,
  time: Seconds,
): { into: AudioNode; filters: BiquadFilterNode[] } {
  let into: AudioNode = gain;
  const filters: BiquadFilterNode[] = [];
  if (formants) {
    const before = context.createGain();
    for (const [at, q, level] of formants) {
      const peak = context.createBiquadFilter();
      peak.type = "bandpass";
      peak.frequency.value = at;
      peak.Q.value = q;
      const mix = context.createGain();
      mix.gain.value = level;
      before.connect(peak).connect(mix).connect(into);
    }
    into = before;
  }
  if (filter) {
    const low = context.createBiquadFilter();
    low.type = "lowpass";
    low.Q.value = filter.q;
    const bright = 0.45 + 0.55 * hard;
    const limited = (times: number) => Math.min(HIGHEST, Math.max(60, hz * times * bright));
    low.frequency.setValueAtTime(limited(filter.strike), time);
    low.frequency.setTargetAtTime(limited(filter.settles), time, filter.in);
    coarse(low.frequency, low.detune);
    low.connect(into);
    filters.push(low);
    into = low;
  }
  return { into, filters };
}

/** How far a note trembles: not at all at first, then by its cents. */
function shaking(
  context: BaseAudioContext,
  tremble: OscillatorNode,
  { cents, after }: NonNullable<Design["vibrato"]>,
  time: Seconds,
): GainNode {
  const depth = context.createGain();
  depth.gain.setValueAtTime(0, time);
  depth.gain.setTargetAtTime(cents, time + after, 0.25);
  tremble.connect(depth);
  return depth;
}

function breathing(
  context: BaseAudioContext,
  { hz, q, level, dies }: Breath,
  air: AudioBuffer,
  into: AudioNode,
  time: Seconds,
): AudioBufferSourceNode {
  const source = context.createBufferSource();
  source.buffer = air;
  source.loop = true;
  const band = context.createBiquadFilter();
  band.type = "bandpass";
  band.frequency.value = hz;
  band.Q.value = q;
  const mix = context.createGain();
  mix.gain.setValueAtTime(level, time);
  if (dies) mix.gain.setTargetAtTime(0, time, dies);
  source.connect(band).connect(mix).connect(into);
  return source;
}
