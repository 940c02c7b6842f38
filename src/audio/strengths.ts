import type { Decibels, Milliseconds } from "@/core/base";
import type { Strength } from "./synth/meter";
import type { Strengths } from "./synth/mix-sound";

/** What was told longer ago counts no more: nothing sounds. */
const STALE: Milliseconds = 300;
/** How slowly levels fall from one reading to the next, 0–1. */
const SMOOTH = 0.7;

const decibels = (x: number): Decibels => 20 * Math.log10(x);

interface Reading {
  now: Strength;
  /** The highest sample of what was told before. */
  before: number;
  /** The level that was read last. */
  read: number;
}

/** How strong tracks and the whole are, as the audio thread told last. */
export class LatestStrengths {
  private readings = new Map<number | "whole", Reading>();
  private at = -Infinity;

  take({ tracks, whole }: Strengths): void {
    this.at = performance.now();
    const before = this.readings;
    const reading = (key: number | "whole", now: Strength): [number | "whole", Reading] => {
      const old = before.get(key);
      return [key, { now, before: old?.now.peak ?? 0, read: old?.read ?? 0 }];
    };
    this.readings = new Map([
      ...tracks.map(([track, strength]) => reading(track, strength)),
      reading("whole", whole),
    ]);
  }

  /** Falls slowly, so that an eye can follow; −Infinity when silent or not known. */
  level(of: number | "whole" | undefined): Decibels {
    const reading = this.reading(of);
    if (!reading) return -Infinity;
    reading.read = Math.max(reading.now.rms, SMOOTH * reading.read);
    return decibels(reading.read);
  }

  /** Highest sample of the last 50 ms. */
  peak(of: number | "whole" | undefined): Decibels {
    const reading = this.reading(of);
    return reading ? decibels(Math.max(reading.now.peak, reading.before)) : -Infinity;
  }

  private reading(of: number | "whole" | undefined): Reading | undefined {
    if (of === undefined || performance.now() - this.at > STALE) return undefined;
    return this.readings.get(of);
  }
}
