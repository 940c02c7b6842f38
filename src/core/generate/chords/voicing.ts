import { type MidiPitch, nth, lastOf } from "../../base";
import { chordPitches, inversionsOf, parseChord } from "../../pitch";
import type { ChordMark } from "../../score";

/**
 * How far the voices of one chord move to another, in semitones for each voice: in order from the lowest, and where
 * one has more voices, so that they move least.
 */
export function movement(from: readonly MidiPitch[], to: readonly MidiPitch[]): number {
  const [few, many] = from.length <= to.length ? [from, to] : [to, from];
  if (few.length === 0) return 0;
  // best[j]: the least way with the voices so far, the last of them at the j-th of the others. Each is met.
  let best = many.map((pitch, j) => (j === 0 ? Math.abs(pitch - nth(few, 0)) : Infinity));
  for (let j = 1; j < many.length; j++)
    best[j] = nth(best, j - 1) + Math.abs(nth(many, j) - nth(few, 0));
  for (const pitch of few.slice(1)) {
    const next = many.map(() => Infinity);
    for (let j = 1; j < many.length; j++) {
      const before = Math.min(nth(best, j - 1), nth(next, j - 1));
      next[j] = before + Math.abs(nth(many, j) - pitch);
    }
    best = next;
  }
  return lastOf(best) / many.length;
}

/**
 * Chords in those inversions in which voices move least from one to the next, laid close from `low` on: the least
 * way through all of them. Chords without a name keep theirs.
 */
export function voiced(marks: readonly ChordMark[], low: MidiPitch): ChordMark[] {
  const choices = marks.map((mark) => {
    const chord = parseChord(mark.name);
    if (!chord) return [{ inversion: mark.inversion, pitches: [] as number[] }];
    return Array.from({ length: inversionsOf(chord) + 1 }, (_, inversion) => ({
      inversion,
      pitches: chordPitches(chord, { inversion, low }),
    }));
  });
  // Far inversions lie high: a little dearer, so that lines do not climb for nothing.
  let costs = (choices[0] ?? []).map(({ inversion }) => 0.3 * inversion);
  const came: number[][] = [];
  for (let k = 1; k < choices.length; k++) {
    const back: number[] = [];
    costs = nth(choices, k).map(({ inversion, pitches }) => {
      const ways = nth(choices, k - 1).map(
        (other, i) => nth(costs, i) + movement(other.pitches, pitches) + 0.05 * inversion,
      );
      const least = ways.indexOf(Math.min(...ways));
      back.push(least);
      return nth(ways, least);
    });
    came.push(back);
  }
  const chosen: number[] = [];
  let at = costs.indexOf(Math.min(...costs));
  for (let k = choices.length - 1; k >= 0; k--) {
    chosen[k] = at;
    if (k > 0) at = nth(came, k - 1)[at]!;
  }
  return marks.map((mark, k) => ({
    ...mark,
    inversion: nth(choices, k)[nth(chosen, k)]!.inversion,
  }));
}
