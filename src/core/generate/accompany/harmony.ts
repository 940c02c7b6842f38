import { type Ticks, nth } from "../../base";
import { barTicks } from "../../time";
import type { Harmony } from "../common/options";
import { chordTones } from "../common/tones";

/** A chord and the ticks `[from, to)` it holds: its pitch classes, and that of its bass. */
export interface Span {
  from: Ticks;
  to: Ticks;
  classes: readonly number[];
  root: number;
}

/** The chords over all bars; where no chord holds, the key's own. */
export function harmonyOf(o: Harmony): Span[] {
  const end = o.bars * barTicks(o.metre);
  const own = [...chordTones(o.key)];
  const spans: Span[] = [];
  let at = 0;
  const rest = (to: Ticks) => {
    if (to > at) spans.push({ from: at, to, classes: own, root: o.key.root });
    at = Math.max(at, to);
  };
  for (const { from, to, classes, bass } of o.chords) {
    if (classes.length === 0 || from >= end || to <= at) continue;
    rest(from);
    const until = Math.min(to, end);
    spans.push({ from: at, to: until, classes, root: bass ?? nth(classes, 0) });
    at = until;
  }
  rest(end);
  return spans;
}

/** Which of the chords holds at a tick. */
export const spanAt = (spans: readonly Span[], tick: Ticks): number =>
  Math.max(
    0,
    spans.findIndex(({ to }) => tick < to),
  );
