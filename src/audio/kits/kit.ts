import type { MidiPitch } from "@/core/base";

/** Renders a sound at a sample rate; pure, so the same rate gives the same samples. */
export type Render = (rate: number) => Float32Array<ArrayBuffer>;

/** A pad, and others like it: the same voice with other values, drawn by a random source 0–1. */
export interface Pad extends Render {
  like(random: () => number): Pad;
}

/**
 * A voice whose values can be varied: each by up to so many octaves to either side. A pad inside another is
 * varied in itself.
 */
export function varied<A extends (number | Pad | undefined)[]>(
  make: (...values: A) => Render,
  spread: readonly number[],
): (...values: A) => Pad {
  const pad = (...values: A): Pad => {
    const other = (value: number | Pad | undefined, i: number, random: () => number) =>
      typeof value === "number"
        ? value * 2 ** ((spread[i] ?? 0) * (2 * random() - 1))
        : value?.like(random);
    return Object.assign(make(...values), {
      like: (random: () => number) =>
        pad(...(values.map((value, i) => other(value, i, random)) as A)),
    });
  };
  return pad;
}

/** A drum kit: pads by General MIDI percussion key. All kits fill the same slots. */
export interface Kit {
  id: string;
  label: string;
  /** What it sounds like, in a few words. */
  about: string;
  pads: Readonly<Record<number, Pad>>;
}

/** The pad that answers a key: its own, else the nearest the kit has, lower first. */
export function padFor(kit: Kit, pitch: MidiPitch): number {
  if (kit.pads[pitch]) return pitch;
  const slots = Object.keys(kit.pads).map(Number);
  return slots.reduce((best, slot) =>
    Math.abs(slot - pitch) < Math.abs(best - pitch) ? slot : best,
  );
}
