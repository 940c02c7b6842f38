import { clamp, nth } from "@/core/base";
import { type PlayedNote, type PlayedLoop, lastEnd } from "@/core/perform";

/** A round or phrase on the strip: from when to when, and where. */
export interface PlayedSpan {
  loop: PlayedLoop;
  from: number;
  to: number;
  x: number;
  width: number;
}

/** What was played, as a line in pixels: silence longer than a moment is folded. */
export interface PlayedLine {
  spans: readonly PlayedSpan[];
  width: number;
}

/** Pixels of a second. */
const SECOND = 30;
const LEAST = 22;
/** Rounds nearer than this in ms lie side by side. */
const JOINED = 400;
const GAP = 14;

/** Lays out rounds one after another, in order of time; `now` ends what is still held. */
export function layPlayed(rounds: readonly PlayedLoop[], now: number): PlayedLine {
  const spans: PlayedSpan[] = [];
  let x = 6;
  for (const round of rounds) {
    const { notes, began } = round;
    const from = Math.min(began ?? Infinity, nth(notes, 0).at);
    const to = Math.max(from + 1, lastEnd(notes, now));
    const before = spans.at(-1);
    if (before)
      x += from - before.to < JOINED && began !== null && before.loop.began !== null ? 2 : GAP;
    const width = Math.max(LEAST, ((to - from) / 1000) * SECOND);
    spans.push({ loop: round, from, to, x, width });
    x += width;
  }
  return { spans, width: x };
}

/** Where a time lies; times in a folded silence at its end. */
export function xOfPlayed({ spans, width }: PlayedLine, at: number): number {
  const span = spans.findLast((span) => span.from <= at) ?? spans[0];
  if (!span) return width;
  const share = clamp((at - span.from) / (span.to - span.from), 0, 1);
  return span.x + share * span.width;
}

/** Notes that begin in a stretch of places, in order. */
export function notesBetween(strip: PlayedLine, a: number, b: number): PlayedNote[] {
  const [from, to] = a < b ? [a, b] : [b, a];
  return strip.spans.flatMap((span) =>
    span.x > to || span.x + span.width < from
      ? []
      : span.loop.notes.filter((note) => {
          const x = xOfPlayed({ spans: [span], width: 0 }, note.at);
          return x >= from && x <= to;
        }),
  );
}
