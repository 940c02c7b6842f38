import { type Bpm, type Milliseconds, median, clamp, nth, lastOf } from "../base";
import { LIMITS } from "../score";

/** So many of the last taps count. */
const LAST = 24;
/** A tap farther than this from a beat, in beats, is none. */
const BESIDE = 0.35;

export interface TappedTempo {
  /** To a tenth, within what a project may have. */
  bpm: Bpm;
  /** How many taps it is from. */
  taps: number;
}

/**
 * The tempo of what was tapped along with a beat, from the times of the taps in order; null before the
 * second. A tap left out, one too many or one far off changes nothing: each tap is counted to the beat
 * that it is near, and the beat is the median of the slopes between all pairs.
 * Source: P. K. Sen, “Estimates of the regression coefficient based on Kendall's tau”, JASA 63, 1968
 * (formula from memory).
 */
export function tappedTempo(times: readonly Milliseconds[]): TappedTempo | null {
  const last = times.slice(-LAST);
  const gaps = last.slice(1).map((time, i) => time - nth(last, i));
  const near = median(gaps.filter((gap) => gap > 0));
  if (near === null) return null;
  const taps = onBeats(last, near);
  const slopes = taps.flatMap((a, i) =>
    taps.slice(i + 1).map((b) => (b.time - a.time) / (b.beat - a.beat)),
  );
  const beat = median(slopes) ?? near;
  const bpm = Math.round(600_000 / beat) / 10;
  const { min, max } = LIMITS.tempo;
  return { bpm: clamp(bpm, min, max), taps: taps.length };
}

/** The taps that lie near a beat, with its number, each counted from the one before. */
function onBeats(times: readonly Milliseconds[], beat: Milliseconds) {
  const taps = [{ time: nth(times, 0), beat: 0 }];
  for (const time of times.slice(1)) {
    const before = lastOf(taps);
    const beats = (time - before.time) / beat;
    const whole = Math.round(beats);
    if (whole < 1 || Math.abs(beats - whole) > BESIDE) continue;
    taps.push({ time, beat: before.beat + whole });
  }
  return taps;
}
