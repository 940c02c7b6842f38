import { bell, seeded, type Random } from "../random";
import { sortNotes, type Note } from "../score/model";
import { gridTicks, lineAt, steppedGrid } from "../time/grid";
import { barTicks, beatTicks } from "../time/ticks";
import type { Ticks } from "../units";
import type { DrumIdeaOptions, DrumLane } from "./drum-options";
import { backbeats, roleOf, type DrumStyle } from "./styles/style";
import { metricalWeights } from "./syncopation";

/** Never more cells of a lane than this, however fine its grid. */
const MOST_CELLS = 8192;
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
export function drumsInStyle(o: DrumIdeaOptions, style: DrumStyle, seed: number): Note[] {
  const random = seeded(seed);
  return [...sortNotes(o.lanes.flatMap((lane) => laneIn(lane, o, style, seed, random)))];
}

function laneIn(
  lane: DrumLane,
  o: DrumIdeaOptions,
  style: DrumStyle,
  seed: number,
  random: Random,
): Note[] {
  const bar = barTicks(o.metre);
  const cells = cellsOf(lane, o, style);
  const length = gridTicks(steppedGrid(lane.grid));
  const role = roleOf(lane.pitch);
  const back = new Set(
    backbeats(Math.round(bar / beatTicks(o.metre))).map((b) => b * beatTicks(o.metre)),
  );
  const bars = new Map<number, Cell[]>();
  for (const cell of cells) {
    const at = Math.floor(cell.start / bar);
    const own = bars.get(at);
    if (own) own.push(cell);
    else bars.set(at, [cell]);
  }
  let motif: ReadonlySet<Ticks> | null = null;
  const notes: Note[] = [];
  for (const [, own] of bars) {
    const returns = motif !== null && random() * 100 < o.repetition;
    const chosen: ReadonlySet<Ticks> = returns ? motif! : chosenOf(own, o, random);
    motif ??= chosen;
    for (const { start, inBar, weak, anchor } of own) {
      if (!chosen.has(inBar)) continue;
      const ghost = role === "backbeat" && !anchor && !back.has(inBar);
      const loud = ghost
        ? GHOST * (0.5 + 0.5 * random())
        : Math.min(1, Math.max(0, (anchor ? 0.9 : 0.85 - 0.55 * weak) + bell(random) * 0.12));
      notes.push({
        id: `g${seed}-${lane.pitch}-${Math.round(start)}`,
        start,
        length,
        pitch: lane.pitch,
        velocity: Math.round(o.softest + loud * (o.loudest - o.softest)),
        pan: 0,
        tune: 0,
        slide: false,
      });
    }
  }
  return notes;
}

function cellsOf(lane: DrumLane, o: DrumIdeaOptions, style: DrumStyle): Cell[] {
  const [bar, beat] = [barTicks(o.metre), beatTicks(o.metre)];
  const beats = Math.round(bar / beat);
  const grid = steppedGrid(lane.grid);
  const cell = gridTicks(grid);
  const role = roleOf(lane.pitch);
  const anchors = style.anchors(role, beats).map((at) => at * beat);
  const whole = lane.period ?? o.bars * bar;
  const fine = Math.max(beats, Math.round(bar / cell));
  const weights = fine % beats === 0 ? metricalWeights(fine, beats) : null;
  const deepest = weights ? Math.min(...weights) : 0;
  const cells: Cell[] = [];
  for (let i = 0; lineAt(grid, i) < whole && i < MOST_CELLS; i++) {
    const start = lineAt(grid, i);
    const inBar = start % bar;
    // Where it would stand without swing, for the meaning of its place.
    const plain = ((i * cell) % bar) / beat;
    const on = Math.floor(plain + 1e-6);
    const weight = weights
      ? weights[Math.round((plain / beats) * fine) % fine]!
      : plain % 1
        ? -3
        : -1;
    cells.push({
      start,
      inBar,
      weak: deepest === 0 ? (plain % 1 ? 1 : 0.3) : weight / deepest,
      welcome: style.welcome(role, { beat: on % beats, part: Math.max(0, plain - on), beats }),
      anchor: anchors.some((at) => Math.abs(at - plain * beat) < 1),
    });
  }
  return cells;
}

/** Places in the bar of its hits: anchors first, then one after another by how welcome each is. */
function chosenOf(cells: readonly Cell[], o: DrumIdeaOptions, random: Random): ReadonlySet<Ticks> {
  const n = cells.length;
  const exact = (o.density / 100) * n;
  const count = Math.min(n, Math.floor(exact) + (random() < exact % 1 ? 1 : 0));
  const taken = new Uint8Array(n);
  const s = o.syncopation / 100;
  const spread = o.spread / 100;
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
  let left = count;
  if (o.density > 0)
    cells.forEach(({ anchor }, i) => {
      if (!anchor || taken[i]) return;
      take(i);
      left--;
    });
  for (; left > 0; left--) {
    let total = 0;
    for (let i = 0; i < n; i++) if (!taken[i]) total += weight[i]!;
    let at = random() * total;
    let index = -1;
    for (let i = 0; i < n; i++) {
      if (taken[i]) continue;
      index = i;
      at -= weight[i]!;
      if (at < 0) break;
    }
    if (index < 0) break;
    take(index);
  }
  return new Set(cells.filter((_, i) => taken[i]).map(({ inBar }) => inBar));
}
