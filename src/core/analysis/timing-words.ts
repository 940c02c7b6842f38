import { type Milliseconds, mean, modulo, nth, ordinal } from "../base";
import { type Metre, barTicks, beatTicks } from "../time";
import type { Drift } from "./timing";

/** Less than this is on the grid, in ms: what hands and ears take for together (common practice). */
const TOGETHER: Milliseconds = 2;
/** Beats whose means lie this near to each other are told as one, in ms. */
const ALIKE: Milliseconds = 3;

const listed = (words: readonly string[]) =>
  words.length < 2
    ? words.join("")
    : `${words.slice(0, -1).join(", ")} and ${nth(words, words.length - 1)}`;

interface Place {
  /** Beat of the bar from 1; 0 for what lies between beats. */
  beat: number;
  mean: Milliseconds;
  /** How far one of them lies from that at most. */
  within: Milliseconds;
}

/** How notes stand at each beat, and between beats. */
function placesOf(drifts: readonly Drift[], metre: Metre): Place[] {
  const beat = beatTicks(metre);
  const by = new Map<number, Milliseconds[]>();
  for (const { start, ticks, ms } of drifts) {
    const inBar = modulo(start - ticks, barTicks(metre));
    const on = inBar % beat === 0 ? inBar / beat + 1 : 0;
    by.set(on, [...(by.get(on) ?? []), ms]);
  }
  return [...by]
    .map(([on, all]) => {
      const middle = mean(all);
      const within = Math.max(...all.map((ms) => Math.abs(ms - middle)));
      return { beat: on, mean: middle, within };
    })
    .sort((a, b) => (a.beat || Infinity) - (b.beat || Infinity));
}

const told = (places: readonly Place[]) => {
  const beats = places.filter(({ beat }) => beat > 0).map(({ beat }) => ordinal(beat));
  const between = places.length > beats.length ? ["between beats"] : [];
  const named = beats.length > 0 ? [`${listed(beats)} beat`] : [];
  return [...named, ...between].join(" and ");
};

/** On the grid; about it, some early and some late; or off it, to one side. */
const kindOf = ({ mean: middle, within }: Pick<Place, "mean" | "within">) =>
  Math.abs(middle) >= TOGETHER ? "off" : within < TOGETHER ? "on" : "about";

function sentence(group: readonly Place[]): string {
  const middle = mean(group.map((one) => one.mean));
  const within = Math.max(...group.map((one) => one.within + Math.abs(one.mean - middle)));
  const kind = kindOf({ mean: middle, within });
  const spread = `within ${Math.ceil(within)} ms`;
  if (kind === "on") return `${told(group)} on the grid`;
  if (kind === "about") return `${told(group)} about the grid, ${spread}`;
  const where = `${Math.round(Math.abs(middle))} ms ${middle > 0 ? "late" : "early"}`;
  const even = within > Math.abs(middle) ? ` on average, ${spread}` : `, even ${spread}`;
  return `${told(group)} ${where}${within < 0.5 ? "" : even}`;
}

/**
 * Where notes lie, as a player would say it: “2nd and 4th beat 8 ms late, even within 3 ms; 1st and 3rd beat on the
 * grid”. Beats are those of the metre that are felt. Empty without notes.
 */
export function timingWords(drifts: readonly Drift[], metre: Metre): string {
  const groups: Place[][] = [];
  for (const place of placesOf(drifts, metre)) {
    const kin = groups.find((group) => {
      const first = nth(group, 0);
      const [one, other] = [kindOf(first), kindOf(place)];
      return one === other && (one !== "off" || Math.abs(first.mean - place.mean) <= ALIKE);
    });
    if (kin) kin.push(place);
    else groups.push([place]);
  }
  // What is where it should be is told last.
  const off = (group: readonly Place[]) =>
    kindOf(nth(group, 0)) === "on" ? -1 : Math.abs(mean(group.map((one) => one.mean)));
  return groups
    .sort((a, b) => off(b) - off(a))
    .map(sentence)
    .join("; ");
}
