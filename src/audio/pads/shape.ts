import { clamp } from "@/core/base";
import type { KitShape, PadShape } from "@/core/score";
import { biquad } from "../dsp";
import { stretchSound } from "./stretch";

/** What is left of a sound, however late it is told to start, in seconds. */
const LEAST = 0.005;
/** Sounds end in a fade of this length, so that cutting them does not click. */
const FADE = 0.003;

/**
 * Shapes a sound in the order start, pitch, stretch, drive, filter, decay; level and pan are left
 * to the player, which needs no new sound for them. Pure. Channels are −1…1 at `rate` Hz.
 */
export function shapeSound(
  channels: readonly Float32Array[],
  rate: number,
  pad: PadShape,
  kit: Pick<KitShape, "pitch" | "time">,
): Float32Array<ArrayBuffer>[] {
  let sound = channels.map((channel) => startingAt(channel, rate, pad.start));
  const tune = pad.tune + kit.pitch;
  if (tune !== 0) sound = sound.map((channel) => resample(channel, 2 ** (tune / 12)));
  const factor = pad.stretch * kit.time;
  if (factor !== 1) sound = stretchSound(sound, rate, factor);
  return sound.map((channel) => {
    const shaped = Float32Array.from(channel);
    if (pad.drive > 0) drive(shaped, pad.drive);
    if (pad.filter !== "off") filter(shaped, rate, pad.filter, pad.cutoff, pad.resonance);
    return pad.decay > 0 ? decaying(shaped, rate, pad.decay) : shaped;
  });
}

function startingAt(channel: Float32Array, rate: number, ms: number): Float32Array {
  if (ms === 0) return channel;
  const most = Math.max(0, channel.length - Math.round(LEAST * rate));
  return channel.subarray(Math.min(most, Math.round((ms / 1000) * rate)));
}

/** Reads a sound at another speed through cubic curves (Catmull–Rom) between its samples. */
export function resample(channel: Float32Array, speed: number): Float32Array {
  const length = Math.max(1, Math.round(channel.length / speed));
  const out = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const at = i * speed;
    const k = Math.floor(at);
    const t = at - k;
    const [a, b, c, d] = [
      channel[k - 1] ?? 0,
      channel[k] ?? 0,
      channel[k + 1] ?? 0,
      channel[k + 2] ?? 0,
    ];
    out[i] = b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
  }
  return out;
}

/** Saturates in place; a full-scale sample stays at full scale. */
function drive(sound: Float32Array, percent: number): void {
  const gain = 1 + (percent / 100) ** 2 * 24;
  const most = Math.tanh(gain);
  for (let i = 0; i < sound.length; i++) sound[i] = Math.tanh(gain * sound[i]!) / most;
}

function filter(
  sound: Float32Array,
  rate: number,
  kind: "lowpass" | "highpass" | "bandpass",
  hz: number,
  q: number,
): void {
  const run = biquad(kind, rate, hz, q);
  for (let i = 0; i < sound.length; i++) sound[i] = run(sound[i]!);
}

/** Falls by 60 dB in `ms` and ends there. */
function decaying(
  sound: Float32Array<ArrayBuffer>,
  rate: number,
  ms: number,
): Float32Array<ArrayBuffer> {
  const length = clamp(Math.round((ms / 1000) * rate), 8, sound.length);
  const cut = sound.subarray(0, length);
  const slope = (-3 * Math.LN10) / ((ms / 1000) * rate);
  const fade = Math.min(length, Math.round(FADE * rate));
  for (let i = 0; i < length; i++) {
    cut[i]! *= Math.exp(slope * i) * Math.min(1, (length - 1 - i) / fade);
  }
  return cut;
}
