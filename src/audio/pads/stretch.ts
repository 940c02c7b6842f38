import { nth } from "@/core/base";

/** Frame of the overlap, and how far around the ideal place a better one is looked for, in seconds. */
const FRAME = 0.046;
const SEARCH = 0.012;
/** Samples between those compared in the first, coarse search. */
const COARSE = 4;

/**
 * Makes a sound `factor` times as long without changing its pitch: frames are laid over one another
 * where they continue the wave best (WSOLA; Verhelst and Roelands, ICASSP 1993). The first frame is
 * taken as it is, so that the attack stays.
 */
export function stretchSound(
  channels: readonly Float32Array[],
  rate: number,
  factor: number,
): Float32Array[] {
  const input = nth(channels, 0).length;
  const length = Math.max(1, Math.round(input * factor));
  const hop = Math.max(8, Math.round((rate * FRAME) / 2));
  if (factor === 1 || input < 3 * hop) {
    // Too short for frames: a click has no pitch to keep.
    return channels.map((channel) =>
      factor === 1 ? channel.slice() : Float32Array.from({ length }, (_, i) => channel[i] ?? 0),
    );
  }
  const search = Math.round(rate * SEARCH);
  const guide = mono(channels);
  const rise = Float32Array.from(
    { length: hop },
    (_, i) => 0.5 - 0.5 * Math.cos((Math.PI * i) / hop),
  );
  const out = channels.map(() => new Float32Array(length));
  let place = 0;
  for (let at = 0; at < length; at += hop) {
    if (at > 0) {
      const ideal = Math.round(at / factor);
      place = bestPlace(guide, place + hop, ideal, search, hop);
    }
    channels.forEach((channel, c) => {
      const target = nth(out, c);
      for (let i = 0; i < 2 * hop && at + i < length; i++) {
        const weight = i >= hop ? 1 - rise[i - hop]! : at === 0 ? 1 : rise[i]!;
        target[at + i]! += weight * (channel[place + i] ?? 0);
      }
    });
  }
  return out;
}

function mono(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return nth(channels, 0);
  return nth(channels, 0).map((x, i) => x + nth(channels, 1)[i]!);
}

/** Where near `ideal` the wave looks most like what would follow naturally, at `natural`. */
function bestPlace(
  guide: Float32Array,
  natural: number,
  ideal: number,
  search: number,
  width: number,
): number {
  const likeness = (at: number, stride: number) => {
    let sum = 0;
    let energy = 1e-9;
    for (let i = 0; i < width; i += stride) {
      const x = guide[at + i] ?? 0;
      sum += x * (guide[natural + i] ?? 0);
      energy += x * x;
    }
    return sum / Math.sqrt(energy);
  };
  const find = (from: number, to: number, step: number, stride: number) => {
    let [best, most] = [Math.max(0, ideal), -Infinity];
    for (let at = Math.max(0, from); at <= to; at += step) {
      const value = likeness(at, stride);
      if (value > most) [best, most] = [at, value];
    }
    return best;
  };
  const near = find(ideal - search, ideal + search, COARSE, COARSE);
  return find(near - COARSE, near + COARSE, 1, 2);
}
