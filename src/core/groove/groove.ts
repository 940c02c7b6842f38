import { type Ticks, type Velocity, clamp, nth, modulo } from "../base";
import {
  GRID_VALUES,
  type Grid,
  type Metre,
  barTicks,
  grid,
  gridTicks,
  lineAt,
  nearestLine,
} from "../time";
import type { Note } from "../score";

/** One step of a groove: how far off its line hits lie, how loud they are; null where nothing is said. */
export interface GrooveStep {
  offset: Ticks | null;
  velocity: Velocity | null;
  /** Standard deviation of the offsets from bar to bar, in ticks. */
  spread: Ticks;
}

/** Timing and velocity, step by step of a bar; one of fewer steps than a bar has goes round. */
export interface Groove {
  value: number;
  kind: "straight" | "triplet";
  steps: readonly GrooveStep[];
}

/** Most steps of a groove. */
const MAX_STEPS = 128;
/** A hit lies at most so far off its line. */
const FARTHEST: Ticks = 960;

/** The plain grid that a groove counts its steps on. */
export const grooveGrid = ({ value, kind }: Pick<Groove, "value" | "kind">): Grid =>
  grid(value as Grid["value"], kind);

/** A note as far as a groove looks at it. */
type Hit = Pick<Note, "start" | "velocity" | "pitch">;

/**
 * Takes the groove of notes: for each step of a bar the mean of how far they lie off its line and of how loud
 * they are, over all bars. `gridOf` says on which grid a note was meant (a swung one too, whose off-cells are
 * late by its swing); those of another value than the finest count on a plain grid of that.
 */
export function grooveOf(
  notes: readonly Hit[],
  metre: Metre,
  gridOf: (note: Hit) => Grid,
): Groove | null {
  const [first] = notes;
  if (!first) return null;
  // Of several grids the finest: what is on a coarser one has a step of it, and not the other way round.
  const own = notes.reduce((finest, note) => {
    const grid = gridOf(note);
    return grid.value > finest.value ? grid : finest;
  }, gridOf(first));
  const kind = own.kind === "triplet" ? "triplet" : "straight";
  const plain = grid(own.value, kind);
  const cell = gridTicks(plain);
  const count = clamp(Math.round(barTicks(metre) / cell), 1, MAX_STEPS);
  const lists = Array.from({ length: count }, (): Hit[] => []);
  const offsets = lists.map((): number[] => []);
  for (const note of notes) {
    const gridLine = grooveStepOf(note, { value: own.value, kind }, gridOf(note));
    const step = modulo(gridLine, count);
    nth(lists, step).push(note);
    nth(offsets, step).push(note.start - lineAt(plain, gridLine));
  }
  const steps = lists.map((list, i): GrooveStep => {
    if (list.length === 0) return { offset: null, velocity: null, spread: 0 };
    const offset = mean(nth(offsets, i));
    return {
      offset: Math.round(offset) + 0,
      velocity: Math.round(mean(list.map((note) => note.velocity))),
      spread: Math.round(Math.sqrt(mean(nth(offsets, i).map((one) => (one - offset) ** 2)))),
    };
  });
  return { value: own.value, kind, steps };
}

/** The line, counted from the loop's beginning, that a note belongs to in a groove's steps. */
export function grooveStepOf(
  note: Pick<Note, "start">,
  groove: Pick<Groove, "value" | "kind">,
  own: Grid,
): number {
  const same = own.value === groove.value && own.kind === groove.kind;
  return nearestLine(same ? own : grooveGrid(groove), note.start);
}

/** The hits of a groove over so many ticks from a loop's beginning: each step that says something, as early or late as it is. */
export function grooveHits(
  groove: Groove,
  ticks: Ticks,
): { tick: Ticks; velocity: Velocity | null }[] {
  const own = grooveGrid(groove);
  const hits: { tick: Ticks; velocity: Velocity | null }[] = [];
  for (let gridLine = 0; lineAt(own, gridLine) < ticks; gridLine++) {
    const { offset, velocity } = nth(groove.steps, gridLine % groove.steps.length);
    if (offset === null && velocity === null) continue;
    const tick = Math.max(0, Math.round(lineAt(own, gridLine) + (offset ?? 0)));
    if (tick < ticks) hits.push({ tick, velocity });
  }
  return hits;
}

const mean = (list: readonly number[]) => list.reduce((sum, n) => sum + n, 0) / list.length;

/**
 * A groove as a text: its note value, then for each step `offset/velocity/spread` in ticks, `-` for what is not
 * said: `1/16 0/110 12/70/3 - 8/90`. Where it was taken from may stand behind it: `1/4 0/- 12/- # Snare`.
 */
export function grooveText({ value, kind, steps }: Groove): string {
  const said = (n: number | null) => (n === null ? "-" : String(n));
  const words = steps.map(({ offset, velocity, spread }) => {
    if (offset === null && velocity === null) return "-";
    const more = spread > 0 ? `/${spread}` : "";
    return `${said(offset)}/${said(velocity)}${more}`;
  });
  return [`1/${value}${kind === "triplet" ? "T" : ""}`, ...words].join(" ");
}

/** A groove's text with where it was taken from, and that of such a text; empty where none is said. */
export const fromSource = (text: string, source: string): string =>
  `${text} # ${source
    .replace(/[\s#]+/g, " ")
    .trim()
    .slice(0, 80)}`;
export const sourceOfGroove = (text: string): string => /#\s*(.*)$/.exec(text)?.[1] ?? "";

/** How far a groove moves what begins at a tick, in ticks; between steps that say so, by as much as lies between. */
export function grooveShift({ value, kind, steps }: Groove): (tick: Ticks) => Ticks {
  const known = steps.flatMap(({ offset }, i) => (offset === null ? [] : [{ i, offset }]));
  const cell = gridTicks(grooveGrid({ value, kind }));
  const whole = steps.length * cell;
  if (known.length === 0) return () => 0;
  const points = known.map(({ i, offset }) => ({ at: i * cell, offset }));
  const [first, last] = [nth(points, 0), nth(points, points.length - 1)];
  // It goes round: before the first lies the last, after the last the first.
  const round = [
    { at: last.at - whole, offset: last.offset },
    ...points,
    { at: first.at + whole, offset: first.offset },
  ];
  return (tick) => {
    const at = modulo(tick, whole);
    const next = round.findIndex((point) => point.at > at);
    const [a, b] = [nth(round, next - 1), nth(round, next)];
    return a.offset + ((b.offset - a.offset) * (at - a.at)) / (b.at - a.at);
  };
}

/** Reads what `grooveText` writes; null for what is none. */
export function parseGroove(text: string): Groove | null {
  const [head = "", ...words] = text.replace(/#.*$/, "").trim().split(/\s+/);
  const named = /^1\/(\d+)(T?)$/.exec(head);
  const value = Number(named?.[1]);
  if (!named || !(GRID_VALUES as readonly number[]).includes(value)) return null;
  if (words.length === 0 || words.length > MAX_STEPS) return null;
  const steps: GrooveStep[] = [];
  for (const word of words) {
    if (word === "-") {
      steps.push({ offset: null, velocity: null, spread: 0 });
      continue;
    }
    const found = /^(-|-?\d{1,4})\/(-|\d{1,3})(?:\/(\d{1,4}))?$/.exec(word);
    if (!found) return null;
    const offset = found[1] === "-" ? null : Number(found[1]);
    const velocity = found[2] === "-" ? null : Number(found[2]);
    if (offset !== null && Math.abs(offset) > FARTHEST) return null;
    if (velocity !== null && (velocity < 1 || velocity > 127)) return null;
    steps.push({ offset, velocity, spread: Number(found[3] ?? 0) });
  }
  return { value, kind: named[2] ? "triplet" : "straight", steps };
}
