import type { Hertz } from "../../base";
import type { Lufs } from "../../analysis";

/** Sample formats that are written: whole numbers of 16 or 24 bits, or floating point of 32. */
export const WAVE_BITS = [16, 24, 32] as const;
export type WaveBits = (typeof WAVE_BITS)[number];

/** A WAV file to be: how its samples are kept, and what is said of it. */
export interface WaveOptions {
  rate: Hertz;
  channels: number;
  bits: WaveBits;
  /** Samples of each channel. */
  frames: number;
  /** Who made it and when, for broadcast and film: a `bext` chunk. */
  broadcast?: Broadcast;
  /** A loop for samplers, in samples: from its first to just after its last. A `smpl` chunk. */
  loop?: readonly [number, number];
}

/** What a `bext` chunk says. */
export interface Broadcast {
  description: string;
  originator: string;
  /** When it was made. */
  date: Date;
  /** Where it begins, in samples since the beginning of what it is a part of. */
  reference: number;
  /** Its loudness, where that is known. */
  loudness?: Lufs;
}

/** Sizes are held in 32 bits. */
const MAX_BYTES = 0xffffffff;

const FORMAT = { whole: 1, float: 3 } as const;

/** A chunk of a RIFF file: name, size, content, and a byte to make it even. */
function chunk(
  name: string,
  size: number,
  fill: (view: DataView) => void,
): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(8 + size + (size % 2));
  bytes.set(ascii(name));
  const view = new DataView(bytes.buffer);
  view.setUint32(4, size, true);
  fill(new DataView(bytes.buffer, 8));
  return bytes;
}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

const bytesOf = ({ channels, bits, frames }: WaveOptions) => (frames * channels * bits) / 8;

/**
 * All of a WAV file before its samples, and all after them. Throws a RangeError for one larger than the format
 * can hold. Sources: Multimedia Programming Interface and Data Specifications 1.0 (RIFF, WAVE, `fact`); its
 * revision 3.0, New Multimedia Data Types (floating point, `smpl`); EBU Tech 3285 version 2 (`bext`).
 */
export function waveAround(options: WaveOptions): {
  before: Uint8Array<ArrayBuffer>;
  after: Uint8Array<ArrayBuffer>;
} {
  const { rate, channels, bits, frames, broadcast, loop } = options;
  const data = bytesOf(options);
  const float = bits === 32;
  const head = [
    ...(broadcast ? [bext(broadcast)] : []),
    chunk("fmt ", float ? 18 : 16, (view) => {
      view.setUint16(0, float ? FORMAT.float : FORMAT.whole, true);
      view.setUint16(2, channels, true);
      view.setUint32(4, rate, true);
      view.setUint32(8, (rate * channels * bits) / 8, true);
      view.setUint16(12, (channels * bits) / 8, true);
      view.setUint16(14, bits, true);
    }),
    // Whatever is no whole number says how many samples it is.
    ...(float ? [chunk("fact", 4, (view) => view.setUint32(0, frames, true))] : []),
  ];
  const tail = [...(data % 2 ? [new Uint8Array(1)] : []), ...(loop ? [smpl(rate, loop)] : [])];
  const length = (list: readonly Uint8Array[]) => list.reduce((sum, one) => sum + one.length, 0);
  const size = 4 + length(head) + 8 + data + length(tail);
  if (size > MAX_BYTES) {
    throw new RangeError(
      `A WAV file holds at most 4 GB; this would be ${(size / 2 ** 30).toFixed(1)}. Take a lower rate or fewer bits, or FLAC`,
    );
  }
  const riff = new Uint8Array(12);
  riff.set(ascii("RIFF"));
  new DataView(riff.buffer).setUint32(4, size, true);
  riff.set(ascii("WAVE"), 8);
  const of = new Uint8Array(8);
  of.set(ascii("data"));
  new DataView(of.buffer).setUint32(4, data, true);
  return { before: joined([riff, ...head, of]), after: joined(tail) };
}

function joined(list: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = new Uint8Array(list.reduce((sum, one) => sum + one.length, 0));
  let at = 0;
  for (const one of list) {
    all.set(one, at);
    at += one.length;
  }
  return all;
}

const BEXT_BYTES = 602;
/** Says of a measure of loudness that it is not given. */
const NOT_GIVEN = 0x7fff;

function bext({ description, originator, date, reference, loudness }: Broadcast) {
  return chunk("bext", BEXT_BYTES, (view) => {
    const text = (at: number, most: number, value: string) => {
      // The standard asks for ASCII; the last byte stays zero.
      const plain = value.normalize("NFKD").replace(/[^\x20-\x7e]/g, "");
      [...plain.slice(0, most - 1)].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
    };
    const two = (n: number) => String(n).padStart(2, "0");
    text(0, 256, description);
    text(256, 32, originator);
    text(320, 11, `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`);
    const time = [date.getHours(), date.getMinutes(), date.getSeconds()].map(two).join(":");
    [...time].forEach((c, i) => view.setUint8(330 + i, c.charCodeAt(0)));
    view.setBigUint64(338, BigInt(Math.max(0, Math.round(reference))), true);
    view.setUint16(346, 2, true);
    const known = loudness !== undefined && Number.isFinite(loudness);
    view.setInt16(412, known ? Math.round(loudness * 100) : NOT_GIVEN, true);
    for (const at of [414, 416, 418, 420]) view.setInt16(at, NOT_GIVEN, true);
  });
}

/** The key at which a sampler plays it as it is: middle C. */
const UNITY_NOTE = 60;

function smpl(rate: Hertz, [from, to]: readonly [number, number]) {
  return chunk("smpl", 36 + 24, (view) => {
    view.setUint32(8, Math.round(1e9 / rate), true);
    view.setUint32(12, UNITY_NOTE, true);
    view.setUint32(28, 1, true);
    view.setUint32(36 + 8, from, true);
    // The last sample of the loop is played as well.
    view.setUint32(36 + 12, to - 1, true);
  });
}

/**
 * Samples as a WAV file has them, side by side. Those of floating point stay as they are; the others are held to
 * full scale and rounded after triangular dither of one step to either side, drawn from `random` (0 to just
 * below 1), which makes what rounding loses a steady hiss that knows nothing of the music (Lipshitz, Wannamaker
 * and Vanderkooy, “Quantization and Dither: A Theoretical Survey”, J. Audio Eng. Soc. 40(5), 1992). Without
 * `random` they are rounded only.
 */
export function encodeWave(
  channels: readonly Float32Array[],
  bits: WaveBits,
  random: (() => number) | null,
): Uint8Array<ArrayBuffer> {
  const frames = channels[0]?.length ?? 0;
  if (bits === 32) {
    const out = new DataView(new ArrayBuffer(frames * channels.length * 4));
    channels.forEach((samples, c) => {
      for (let i = 0; i < frames; i++)
        out.setFloat32((i * channels.length + c) * 4, samples[i]!, true);
    });
    return new Uint8Array(out.buffer);
  }
  const whole = wholeSamples(channels, bits, random);
  if (bits === 16) return new Uint8Array(Int16Array.from(whole).buffer);
  const out = new Uint8Array(whole.length * 3);
  for (let i = 0; i < whole.length; i++) {
    const value = whole[i]!;
    out[3 * i] = value & 0xff;
    out[3 * i + 1] = (value >> 8) & 0xff;
    out[3 * i + 2] = (value >> 16) & 0xff;
  }
  return out;
}

/** Samples side by side as whole numbers of so many bits, dithered as `encodeWave` says. */
export function wholeSamples(
  channels: readonly Float32Array[],
  bits: 16 | 24,
  random: (() => number) | null,
): Int32Array<ArrayBuffer> {
  const frames = channels[0]?.length ?? 0;
  const scale = 2 ** (bits - 1);
  const out = new Int32Array(frames * channels.length);
  for (let i = 0, at = 0; i < frames; i++) {
    for (const samples of channels) {
      const noise = random ? random() - random() : 0;
      const value = Math.round(samples[i]! * scale + noise);
      out[at++] = value < -scale ? -scale : value > scale - 1 ? scale - 1 : value;
    }
  }
  return out;
}

/** A whole WAV file of 16 bits of what is short enough to be held at once; not dithered. */
export function waveFile(channels: readonly Float32Array[], rate: Hertz): Uint8Array<ArrayBuffer> {
  const frames = channels[0]?.length ?? 0;
  const { before, after } = waveAround({ rate, channels: channels.length, bits: 16, frames });
  return joined([before, encodeWave(channels, 16, null), after]);
}
