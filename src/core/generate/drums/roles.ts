import {
  type Random,
  type Ticks,
  bell,
  pickWeighted,
  roundedByChance,
  seeded,
  clamp,
  nth,
} from "../../base";
import { barTicks, beatTicks, gridTicks, steppedGrid } from "../../time";
import { type Note, sortNotes } from "../../score";
import { byBar, cellStarts, hitOf } from "./cells";
import type { DrumIdeaOptions, DrumLane } from "./options";
import { backbeats, roleOf, shareOf, usual, type DrumStyle } from "./styles/style";
import { metricalWeights } from "../rhythm/syncopation";

/** What is not asked for is not impossible: at a high density there is nothing else left. */
const LEAST = 0.002;
/** How much a full slider of syncopation, and of spread, weighs; and how far a neighbour is felt, in cells. */
const SYNCOPATED = 7;
const APART = 3;
/** Ghosts are at most so loud, as a share of the way from softest to loudest. */
const GHOST = 0.3;

interface Cell {
  start: Ticks;
  inBar: Ticks;
  /** Metrical weight, 0 strongest and 1 weakest. */
  weak: number;
  welcome: number;
  anchor: boolean;
}

/**
 * One beat in a style: each lane has a role, its anchors are always there, and what else the density asks for goes
 * where its style and the wishes for syncopation and spread make it welcome. Later bars are the first again as often
 * as asked, and else vary it.
 */
export function drumsInStyle(options: DrumIdeaOptions, style: DrumStyle, seed: number): Note[] {
  const random = seeded(seed);
  return [
    ...sortNotes(options.lanes.flatMap((lane) => laneIn(lane, options, style, seed, random))),
  ];
}

function laneIn(
  lane: DrumLane,
  options: DrumIdeaOptions,
  style: DrumStyle,
  seed: number,
  random: Random,
): Note[] {
  const bar = barTicks(options.metre);
  const cells = cellsOf(lane, options, style);
  const role = roleOf(lane.pitch);
  // A pad by itself is as dense as it is asked to be.
  const share =
    options.lanes.length > 1 ? shareOf(role, options.density / 100) : options.density / 100;
  const back = new Set(
    backbeats(Math.round(bar / beatTicks(options.metre))).map((b) => b * beatTicks(options.metre)),
  );
  let motif: ReadonlySet<Ticks> | null = null;
  const notes: Note[] = [];
  for (const own of byBar(cells, bar).values()) {
    const again: ReadonlySet<Ticks> | null =
      motif && random() * 100 < options.repetition ? motif : null;
    const chosen: ReadonlySet<Ticks> = again ?? chosenOf(own, share, options, random);
    motif ??= chosen;
    for (const { start, inBar, weak, anchor } of own) {
      if (!chosen.has(inBar)) continue;
      const ghost = role === "backbeat" && !anchor && !back.has(inBar);
      const loud = ghost
        ? GHOST * (0.5 + 0.5 * random())
        : clamp((anchor ? 0.9 : 0.85 - 0.55 * weak) + bell(random) * 0.12, 0, 1);
      notes.push(
        hitOf(lane, options, { id: `g${seed}-${lane.pitch}-${Math.round(start)}`, start, loud }),
      );
    }
  }
  return notes;
}

function cellsOf(lane: DrumLane, options: DrumIdeaOptions, style: DrumStyle): Cell[] {
  const [bar, beat] = [barTicks(options.metre), beatTicks(options.metre)];
  const beats = Math.round(bar / beat);
  const cell = gridTicks(steppedGrid(lane.grid));
  const role = roleOf(lane.pitch);
  const anchors = style.anchors(role, beats).map((at) => at * beat);
  const fine = Math.max(beats, Math.round(bar / cell));
  const weights = fine % beats === 0 ? metricalWeights(fine, beats) : null;
  // A crash marks the one in every style (common practice).
  const { welcome } = role === "crash" ? { welcome: usual } : style;
  const deepest = weights ? Math.min(...weights) : 0;
  return cellStarts(lane, options.bars * bar).map((start, i): Cell => {
    // Where it would stand without swing, for the meaning of its place.
    const plain = ((i * cell) % bar) / beat;
    const on = Math.floor(plain + 1e-6);
    const weight = weights
      ? nth(weights, Math.round((plain / beats) * fine) % fine)
      : plain % 1
        ? -3
        : -1;
    return {
      start,
      inBar: start % bar,
      weak: deepest === 0 ? (plain % 1 ? 1 : 0.3) : weight / deepest,
      welcome: welcome(role, { beat: on % beats, part: Math.max(0, plain - on), beats }),
      anchor: anchors.some((at) => Math.abs(at - plain * beat) < 1),
    };
  });
}

/** Places in the bar of its hits: anchors first, then one after another by how welcome each is. */
function chosenOf(
  cells: readonly Cell[],
  share: number,
  options: DrumIdeaOptions,
  random: Random,
): ReadonlySet<Ticks> {
  const n = cells.length;
  const indexes = cells.map((_, i) => i);
  let left = Math.min(n, roundedByChance(share * n, random));
  const taken = new Uint8Array(n);
  const s = options.syncopation / 100;
  const spread = options.spread / 100;
  const weight = cells.map(
    ({ weak, welcome }) => (LEAST + welcome) * Math.exp(SYNCOPATED * (s - 0.3) * (weak - 0.5)),
  );
  const take = (i: number) => {
    taken[i] = 1;
    // Neighbours of what is there are the less welcome, the more evenly it is to lie.
    for (let by = 1; by <= APART; by++)
      for (const at of [(i + by) % n, (i - by + n) % n])
        weight[at]! *= Math.max(1e-6, 1 - spread) ** (2 / by);
  };
  if (options.density > 0)
    cells.forEach(({ anchor }, i) => {
      if (!anchor || taken[i]) return;
      take(i);
      left--;
    });
  for (; left > 0; left--) {
    const free = indexes.filter((i) => !taken[i]);
    const index = pickWeighted(free, (i) => nth(weight, i), random);
    if (index === null) break;
    take(index);
  }
  return new Set(cells.filter((_, i) => taken[i]).map(({ inBar }) => inBar));
}
