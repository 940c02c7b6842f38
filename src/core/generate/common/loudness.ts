import { type Random, type Ticks, bell, clamp } from "../../base";
import { PPQ } from "../../time";
import type { Loudness } from "./options";

/** The velocity of a note at `start`, of a line of `whole` ticks in bars of `bar`: its course, played a little unevenly. */
export function velocityAt(
  start: Ticks,
  { whole, bar }: { whole: Ticks; bar: Ticks },
  o: Loudness,
  random: Random,
): number {
  const inBar = start % bar;
  const accent = inBar === 0 ? 1 : inBar === bar / 2 ? 0.8 : inBar % PPQ === 0 ? 0.65 : 0.35;
  const share = start / whole;
  const course = {
    accents: accent,
    even: 0.5,
    rise: share,
    fall: 1 - share,
    arch: Math.sin(Math.PI * share),
  }[o.shape];
  const play = o.shape === "accents" ? 0.35 : 0.12;
  const at = clamp(course + bell(random) * play, 0, 1);
  return Math.round(o.softest + at * (o.loudest - o.softest));
}
