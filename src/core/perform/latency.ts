import { type Milliseconds, median, nth, must, lastOf } from "../base";

/** How far taps lie from clicks: in the middle, and how evenly. */
export interface TapOffset {
  /** Median of tap − click: late taps are positive. */
  ms: Milliseconds;
  /** Median distance from that: how evenly was tapped. */
  spread: Milliseconds;
  taps: number;
}

/** A tap belongs to a click no farther than so much of the gap between clicks. */
const NEAR = 0.45;
/** So many taps are needed. */
const LEAST = 4;

/**
 * What taps along with clicks say of the delay between a touch and its message, what is heard late being
 * reckoned in already; null where there are too few. Medians: one slip changes nothing.
 */
export function tapOffset(
  clicks: readonly Milliseconds[],
  taps: readonly Milliseconds[],
): TapOffset | null {
  const gap = clicks.length > 1 ? (lastOf(clicks) - nth(clicks, 0)) / (clicks.length - 1) : 0;
  const offsets = taps.flatMap((tap) => {
    const near = clicks.reduce(
      (best, click) => (Math.abs(tap - click) < Math.abs(tap - best) ? click : best),
      Infinity,
    );
    return Math.abs(tap - near) <= gap * NEAR ? [tap - near] : [];
  });
  if (offsets.length < LEAST) return null;
  const ms = must(median(offsets));
  const spread = must(median(offsets.map((offset) => Math.abs(offset - ms))));
  return {
    ms: Math.round(ms * 10) / 10,
    spread: Math.round(spread * 10) / 10,
    taps: offsets.length,
  };
}
