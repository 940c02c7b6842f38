import { type Random, type Ticks, clamp, nth } from "../../base";
import { FILLER, gcd, groupsOf, type Group, type Slot, type ValueWeight } from "./slots";

/** A way to fill a stretch with values, so that in the long run each has its share of the time. */
interface Filling {
  unit: Ticks;
  /** What may be placed: the values of the mix, and what fills up where they cannot end on the bar line. */
  groups: readonly Group[];
  /** How welcome each group is at each place, what is still to come included; row after row of groups. */
  chances: Float64Array<ArrayBuffer>;
}

/** Values mostly stand where a listener expects them: on multiples of themselves. */
const ASTRAY = 0.3;
/** What fills up is used only where nothing else can be. */
const LAST = 1e-9;
/** So often are the weights adjusted, and so near to the shares is near enough. */
const ROUNDS = 400;
const NEAR = 0.002;

const known = new Map<string, Filling>();
const MAX_KNOWN = 64;

/**
 * Fills `length` ticks exactly with slots of the weighted values: of all ways to do so the likelier ones are those that
 * give each value its share of the time over many bars, as far as the length allows it.
 */
export function mixedRhythm(length: Ticks, values: readonly ValueWeight[], random: Random): Slot[] {
  const { unit, groups, chances } = fillingOf(length, values);
  const slots: Slot[] = [];
  for (let at = 0; at < length;) {
    const row = (at / unit) * groups.length;
    let total = 0;
    for (let g = 0; g < groups.length; g++) total += chances[row + g]!;
    let left = random() * total;
    let chosen = groups.length - 1;
    for (let g = 0; g < groups.length; g++) {
      left -= chances[row + g]!;
      if (left < 0) {
        chosen = g;
        break;
      }
    }
    // Rounding may leave the last, which may not fit.
    while (chances[row + chosen] === 0) chosen--;
    const { ticks, notes } = nth(groups, chosen);
    for (let i = 0; i < notes; i++)
      slots.push({ start: at + (i * ticks) / notes, length: ticks / notes });
    at += ticks;
  }
  return slots;
}

/** The way to fill a stretch with a mix, worked out once. */
function fillingOf(length: Ticks, values: readonly ValueWeight[]): Filling {
  const sign = `${length}|${values.map(({ value, kind, weight }) => `${value}${kind}${weight}`).join()}`;
  let filling = known.get(sign);
  if (!filling) {
    if (known.size >= MAX_KNOWN) known.clear();
    known.set(sign, (filling = balanced(length, values)));
  }
  return filling;
}

/** The weights with which each value has its share: found by turns, from how much of the time it has now. */
function balanced(length: Ticks, values: readonly ValueWeight[]): Filling {
  const own = groupsOf(values);
  const fillers = [4, 2, 1].map((n): Group => ({ ticks: n * FILLER, notes: 1, share: 0 }));
  const unit = Math.max(
    1,
    [...own, ...fillers].reduce((g, group) => gcd(g, group.ticks), length),
  );
  const groups: Group[] = [...own, ...fillers.filter(({ ticks }) => ticks <= length)];
  // A length that not even fillers end on is filled up to its last tick.
  const rest = length % FILLER;
  if (rest > 0) groups.push({ ticks: rest, notes: 1, share: 0 });
  const size = Math.round(length / unit);
  const whole = own.reduce((sum, { share }) => sum + share, 0);
  const targets = groups.map(({ share }) => share / whole);
  const weights = groups.map(({ share, ticks }) => (share > 0 ? share / ticks : LAST));
  let chances = new Float64Array(size * groups.length);
  for (let round = 0; round < ROUNDS; round++) {
    const found = sharesOf(groups, weights, unit, size);
    chances = found.chances;
    const off = targets.map((target, g) =>
      target > 0 ? Math.abs(nth(found.shares, g) - target) : 0,
    );
    if (Math.max(...off) < NEAR) break;
    targets.forEach((target, g) => {
      if (target > 0 && nth(found.shares, g) > 0)
        weights[g] = clamp(nth(weights, g) * (target / nth(found.shares, g)) ** 0.25, 1e-6, 1e6);
    });
  }
  return { unit, groups, chances };
}

/** What of the time each group has with these weights (sums over all ways, forwards and backwards). */
function sharesOf(groups: readonly Group[], weights: readonly number[], unit: Ticks, size: number) {
  const steps = groups.map(({ ticks }) => Math.round(ticks / unit));
  // What can follow, scaled at each place so that nothing overflows.
  const ahead = new Float64Array(size + 1);
  const scale = new Float64Array(size + 1);
  ahead[size] = 1;
  const chances = new Float64Array(size * groups.length);
  for (let at = size - 1; at >= 0; at--) {
    let sum = 0;
    groups.forEach(({ ticks }, g) => {
      const to = at + nth(steps, g);
      if (to > size || ahead[to] === 0) return;
      const placed = (at * unit) % ticks === 0 ? 1 : ASTRAY;
      const chance = nth(weights, g) * placed * ahead[to]! * Math.exp(scale[to]! - scale[at + 1]!);
      chances[at * groups.length + g] = chance;
      sum += chance;
    });
    ahead[at] = sum;
    scale[at] = scale[at + 1]!;
    if (sum > 0) {
      scale[at] = scale[at]! + Math.log(sum);
      ahead[at] = 1;
    }
  }
  return { chances, shares: sharesIn(groups, chances, unit, size) };
}

/** What of the time each group has where these are the chances at each place. */
function sharesIn(
  groups: readonly Group[],
  chances: Float64Array<ArrayBuffer>,
  unit: Ticks,
  size: number,
) {
  const steps = groups.map(({ ticks }) => Math.round(ticks / unit));
  const reached = new Float64Array(size + 1);
  reached[0] = 1;
  const shares = groups.map(() => 0);
  for (let at = 0; at < size; at++) {
    if (reached[at] === 0) continue;
    let sum = 0;
    for (let g = 0; g < groups.length; g++) sum += chances[at * groups.length + g]!;
    groups.forEach((_, g) => {
      const share = (reached[at]! * chances[at * groups.length + g]!) / sum;
      if (!(share > 0)) return;
      reached[at + nth(steps, g)]! += share;
      shares[g]! += (share * nth(steps, g)) / size;
    });
  }
  return shares;
}

/** The values of a mix that a stretch cannot give their share of the time, whatever stands in it: off by more than 3 %. */
export function outOfReach(length: Ticks, values: readonly ValueWeight[]): ValueWeight[] {
  const used = values.filter(({ weight }) => weight > 0);
  const whole = used.reduce((sum, { weight }) => sum + weight, 0);
  const { unit, groups, chances } = fillingOf(length, used);
  const shares = sharesIn(groups, chances, unit, Math.round(length / unit));
  return used.filter(({ weight }, g) => Math.abs(nth(shares, g) - weight / whole) > 0.03);
}
