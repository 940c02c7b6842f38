import {
  type Hertz,
  type MidiPitch,
  type Seconds,
  type Velocity,
  clamp,
  clampVelocity,
  nth,
} from "../base";

/** A note of a single line that was heard. */
export interface HeardNote {
  time: Seconds;
  length: Seconds;
  pitch: MidiPitch;
  velocity: Velocity;
}

/** What is sung or played lies between these. */
const LOWEST: Hertz = 55;
const HIGHEST: Hertz = 1200;
/** It is looked at in this rate or the next above, so often, through so much of it. */
const RATE: Hertz = 16_000;
const HOP: Seconds = 0.01;
const WINDOW: Seconds = 0.04;
/** A dip of the difference below this is a period (the paper's threshold); above the second there is no pitch at all. */
const DIP = 0.12;
const NO_PITCH = 0.3;
/** Quieter than this against the loudest is silence. */
const SILENT_DB = -38;
/** A note is at least so long; so far from its pitch, in semitones, another begins; so much louder, in dB, it is struck again. */
const SHORTEST: Seconds = 0.07;
const AWAY = 0.7;
const AGAIN_DB = 6;

/**
 * The notes of a single line: pitches by the difference of a sound from itself, period by period (YIN: A. de
 * Cheveigné and H. Kawahara, “YIN, a fundamental frequency estimator for speech and music”, JASA 111(4), 2002, steps
 * 1 to 5), and a new note where the pitch leaves the last one or it is struck again.
 */
export function pitchLine(samples: Float32Array, rate: Hertz): HeardNote[] {
  const step = Math.max(1, Math.floor(rate / RATE));
  const slow = thinned(samples, step);
  const track = pitchTrack(slow, rate / step);
  return notesOf(track);
}

/** Every so manyth sample, of the means of as many. */
function thinned(samples: Float32Array, step: number): Float32Array {
  if (step === 1) return samples;
  const out = new Float32Array(Math.floor(samples.length / step));
  for (let i = 0; i < out.length; i++) {
    let sum = 0;
    for (let k = 0; k < step; k++) sum += samples[i * step + k]!;
    out[i] = sum / step;
  }
  return out;
}

interface Track {
  /** Pitch at each look, in semitones of MIDI; NaN where there is none. */
  pitch: Float32Array;
  /** Level at each look in dB, against the loudest. */
  level: Float32Array;
}

function pitchTrack(samples: Float32Array, rate: Hertz): Track {
  const width = Math.round(WINDOW * rate);
  const hop = HOP * rate;
  const looks = Math.max(0, Math.floor((samples.length - width) / hop) + 1);
  const pitch = new Float32Array(looks).fill(NaN);
  const level = new Float32Array(looks);
  let loudest = 0;
  for (let n = 0; n < looks; n++) {
    const from = Math.round(n * hop);
    let sum = 0;
    for (let i = from; i < from + width; i++) sum += samples[i]! ** 2;
    level[n] = Math.sqrt(sum / width);
    loudest = Math.max(loudest, level[n]!);
  }
  if (loudest === 0) return { pitch, level: level.fill(-Infinity) };
  for (let n = 0; n < looks; n++) {
    level[n] = 20 * Math.log10(level[n]! / loudest + 1e-9);
    if (level[n]! < SILENT_DB) continue;
    const period = periodAt(samples, Math.round(n * hop), width, rate);
    if (period !== null) pitch[n] = 69 + 12 * Math.log2(rate / period / 440);
  }
  return { pitch: smoothed(pitch), level };
}

/** The period at a place, in samples and parts of them; null where nothing repeats. */
function periodAt(samples: Float32Array, from: number, width: number, rate: Hertz): number | null {
  const longest = Math.ceil(rate / LOWEST);
  const shortest = Math.max(2, Math.floor(rate / HIGHEST));
  const own = new Float64Array(longest + 2);
  let sum = 0;
  own[0] = 1;
  for (let lag = 1; lag < own.length; lag++) {
    let difference = 0;
    for (let i = from; i < from + width; i++) {
      const d = samples[i]! - (samples[i + lag] ?? 0);
      difference += d * d;
    }
    sum += difference;
    own[lag] = sum === 0 ? 1 : (difference * lag) / sum;
  }
  let best = -1;
  for (let lag = shortest; lag <= longest; lag++) {
    if (own[lag]! >= DIP) continue;
    while (lag < longest && own[lag + 1]! < own[lag]!) lag++;
    best = lag;
    break;
  }
  if (best < 0) {
    best = shortest;
    for (let lag = shortest; lag <= longest; lag++) if (own[lag]! < own[best]!) best = lag;
    if (own[best]! > NO_PITCH) return null;
  }
  const [a, b, c] = [own[best - 1]!, own[best]!, own[best + 1]!];
  const bend = a - 2 * b + c;
  return bend === 0 ? best : best + (0.5 * (a - c)) / bend;
}

/** The middle of each five, so that a slip of one look is none. */
function smoothed(values: Float32Array): Float32Array {
  return values.map((value, n) => {
    if (Number.isNaN(value)) return value;
    const about = [...values.subarray(Math.max(0, n - 2), n + 3)].filter((v) => !Number.isNaN(v));
    return nth(
      about.sort((a, b) => a - b),
      Math.floor(about.length / 2),
    );
  });
}

function notesOf({ pitch, level }: Track): HeardNote[] {
  const notes: HeardNote[] = [];
  let from = -1;
  const end = (to: number) => {
    const looks = [...pitch.subarray(from, to)].sort((a, b) => a - b);
    if (looks.length * HOP >= SHORTEST) {
      const middle = nth(looks, Math.floor(looks.length / 2));
      const loud = level.subarray(from, to).reduce((a, b) => Math.max(a, b), -Infinity);
      notes.push({
        // A look is of what lies about its middle.
        time: Math.max(0, from * HOP + WINDOW / 2),
        length: looks.length * HOP,
        pitch: clamp(Math.round(middle), 0, 127),
        velocity: clampVelocity(127 + 3 * loud),
      });
    }
    from = -1;
  };
  const looks = Math.round(SHORTEST / HOP);
  for (let n = 0; n < pitch.length; n++) {
    if (Number.isNaN(pitch[n]!)) {
      if (from >= 0) end(n);
      continue;
    }
    if (from < 0) from = n;
    else {
      const own = [...pitch.subarray(from, n)].sort((a, b) => a - b);
      const middle = nth(own, Math.floor(own.length / 2));
      const left = [...pitch.subarray(n, n + looks)].every((p) => Math.abs(p - middle) > AWAY);
      const struck = n - from >= looks && level[n]! - level[Math.max(from, n - 3)]! > AGAIN_DB;
      if (left || struck) {
        end(n);
        from = n;
      }
    }
  }
  if (from >= 0) end(pitch.length);
  return notes;
}
