import type { MidiPitch } from "@/core";

/** Renders one pad at a sample rate; pure, so the same rate gives the same samples. */
export type Pad = (rate: number) => Float32Array<ArrayBuffer>;

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
