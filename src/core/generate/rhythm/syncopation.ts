import { type Ticks, nth } from "../../base";

/** So fine are the places of a bar told apart: sixteenths of a beat's quarter. */
const DEEPEST = 5;

/**
 * The metrical weight of each of `cells` places of a bar: 0 for its beginning, one less for each halving. A bar of
 * three or other numbers of beats is divided into them first.
 */
export function metricalWeights(cells: number, beats: number): number[] {
  const perBeat = cells / beats;
  return Array.from({ length: cells }, (_, i) => {
    if (i === 0) return 0;
    const levels = Number.isInteger(Math.log2(beats)) ? Math.log2(beats) : 1;
    if (i % perBeat === 0) {
      if (levels === 1) return -1;
      let beat = i / perBeat;
      let depth = levels;
      while (beat % 2 === 0 && depth > 1) {
        beat /= 2;
        depth--;
      }
      return -depth;
    }
    let [depth, size] = [levels, perBeat];
    for (let at = i % perBeat; depth < levels + DEEPEST && at % size !== 0;) {
      size = size % 2 === 0 ? size / 2 : 1;
      depth++;
    }
    return -depth;
  });
}

/**
 * How syncopated a rhythm is: for each note that is followed by a rest in a stronger place, before the next note, how
 * much stronger that is, all added (H. C. Longuet-Higgins and C. S. Lee, “The rhythmic interpretation of monophonic
 * music”, Music Perception 1(4), 1984, as it is commonly computed). `starts` in ticks of a bar that repeats.
 */
export function syncopation(
  starts: readonly Ticks[],
  { bar, beats, cell }: { bar: Ticks; beats: number; cell: Ticks },
): number {
  const cells = Math.round(bar / cell);
  const weights = metricalWeights(cells, beats);
  const places = [...new Set(starts.map((start) => Math.round(start / cell) % cells))].sort(
    (a, b) => a - b,
  );
  let sum = 0;
  places.forEach((place, i) => {
    const next = i + 1 < places.length ? nth(places, i + 1) : nth(places, 0) + cells;
    let strongest = -Infinity;
    for (let at = place + 1; at < next; at++)
      strongest = Math.max(strongest, nth(weights, at % cells));
    if (strongest > nth(weights, place)) sum += strongest - nth(weights, place);
  });
  return sum;
}
