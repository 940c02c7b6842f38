import { gainOf } from "../instrument";
import type { Decibels, Milliseconds, Seconds, Velocity } from "@/core";

/** How soon a hit presses down (time constant), and for how long it holds, in seconds. */
const FALL: Seconds = 0.0012;
const HOLD: Seconds = 0.008;
/** Nine tenths of the way back take so many time constants. */
const NINE_TENTHS = Math.LN10;

/**
 * Presses a gain down at a hit and lets it come back: nine tenths of the way after `release`. A softer hit
 * presses less, by its velocity. A hit while another is let go of begins anew from where that is.
 */
export function duck(
  gain: AudioParam,
  time: Seconds,
  { depth, release }: { depth: Decibels; release: Milliseconds },
  velocity: Velocity,
): void {
  gain.cancelScheduledValues(time);
  gain.setTargetAtTime(gainOf((-depth * velocity) / 127), time, FALL);
  gain.setTargetAtTime(1, time + HOLD, release / 1000 / NINE_TENTHS);
}
