import { clamp } from "../../base";
import { child, childrenOf, type Element } from "./tree";

/** More bars are not played, however often parts repeat. */
export const MAX_PLAYED = 20_000;

/**
 * The order in which the bars of a part are played: repeats gone through, first and second endings each in its
 * round. Jumps by words (da capo, to a sign) are not followed.
 */
export function playedOrder(measures: readonly Element[]): number[] {
  const order: number[] = [];
  let begin = 0;
  let round = 1;
  for (let at = 0; at < measures.length && order.length < MAX_PLAYED;) {
    const bars = childrenOf(measures[at], "barline");
    const repeats = bars.flatMap((bar) => child(bar, "repeat") ?? []);
    if (repeats.some(({ attributes }) => attributes.direction === "forward") && at !== begin)
      [begin, round] = [at, 1];
    const starts = bars
      .flatMap((bar) => child(bar, "ending") ?? [])
      .find(({ attributes }) => attributes.type === "start");
    const rounds = starts?.attributes.number?.match(/\d+/g)?.map(Number);
    if (rounds && !rounds.includes(round)) {
      at = endingAfter(measures, at) + 1;
      continue;
    }
    order.push(at);
    const back = repeats.find(({ attributes }) => attributes.direction === "backward");
    const times = clamp(Number(back?.attributes.times ?? lastRound(measures, at)) || 2, 2, 32);
    if (back && round < times) {
      round++;
      at = begin;
      continue;
    }
    if (back) [begin, round] = [at + 1, 1];
    at++;
  }
  return order;
}

/** The bar an ending that begins in a bar stops in. */
function endingAfter(measures: readonly Element[], from: number): number {
  for (let at = from; at < measures.length; at++) {
    const stops = childrenOf(measures[at], "barline")
      .flatMap((bar) => child(bar, "ending") ?? [])
      .some(({ attributes }) => attributes.type === "stop" || attributes.type === "discontinue");
    if (stops) return at;
  }
  return measures.length - 1;
}

/** Loops of a repeat whose endings say for how many they are: of those beside the bar it turns back in. */
function lastRound(measures: readonly Element[], at: number): number {
  const numbers = [measures[at], measures[at + 1]].flatMap((measure) =>
    childrenOf(measure, "barline").flatMap(
      (bar) => child(bar, "ending")?.attributes.number?.match(/\d+/g)?.map(Number) ?? [],
    ),
  );
  return Math.max(2, ...numbers);
}
