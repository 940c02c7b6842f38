import { type Grid, cellAt, gridTicks, lineAt } from "../time";
import type { Note } from "../score";
import { NAMED, gridChooser, gridParams } from "./grid-choice";
import { param, params } from "../params";
import { clampVelocity, nth } from "../base";
import { counted, counter, defineTransform, pieceIds } from "./kit";
import { rollOffsets } from "./roll";

const WAYS = ["at grid lines", "into equal pieces", "in a rhythm"] as const;
const way = (...is: string[]) => ({ param: "way", is });
const only = (...is: string[]) => ({ when: way(...is) });

/**
 * Cuts notes at the lines of a grid, into n (each piece `ratio` times as long as the one before), or in
 * a rhythm of steps (`3 3 2`), over and over; the pieces tile each note exactly. Velocity may ramp
 * across the pieces of a note.
 */
export const split = defineTransform({
  label: "Split",
  family: "rhythm",
  example: {
    notes: [
      [0, 1680, 60, 100],
      [1920, 1680, 60, 100],
    ],
    params: { way: WAYS[1], count: 4 },
  },
  about: "Cuts notes at grid lines, into pieces, or in a rhythm",
  schema: params({
    way: param.choice("Mode", WAYS),
    count: param.whole("Pieces", 1, 64, only(WAYS[1])),
    ratio: param.number("Speeds up or down", 0.25, 4, { unit: "×", step: 0.05, ...only(WAYS[1]) }),
    rhythm: param.rhythm("Steps", only(WAYS[2])),
    value: gridParams.value.meta(only(WAYS[0], WAYS[2])),
    kind: gridParams.kind.meta({ when: [way(WAYS[0], WAYS[2]), NAMED] }),
    velocityFrom: param.whole("Velocity at start", -126, 126),
    velocityTo: param.whole("Velocity at end", -126, 126),
  }),
  picture: { pitches: [60], ticks: (bar) => bar },
  defaults: {
    way: WAYS[0] as string,
    count: 2,
    ratio: 1,
    rhythm: "3 3 2",
    value: "own" as string,
    kind: "straight" as string,
    velocityFrom: 0,
    velocityTo: 0,
  },
  run(selected, p, context, all) {
    const pieceId = pieceIds(all);
    const gridFor = gridChooser(p, context);
    const making = counter(context);
    const cutsOf = cutter(p, gridFor, making);
    const replaced = selected.map((note): Note | Note[] => {
      const edges = cutsOf(note);
      if (edges.length === 0 && p.velocityFrom === 0) return note;
      const end = note.start + note.length;
      const pieces: Note[] = [];
      for (let i = 0, start = note.start; i <= edges.length; i++) {
        const next = edges[i] ?? end;
        const share = edges.length > 0 ? i / edges.length : 0;
        pieces.push({
          ...note,
          id: i === 0 ? note.id : pieceId(note.id, i),
          start,
          length: next - start,
          velocity: clampVelocity(
            note.velocity + p.velocityFrom + share * (p.velocityTo - p.velocityFrom),
          ),
        });
        start = next;
      }
      return pieces;
    });
    const cut = replaced.filter((piece) => Array.isArray(piece) && piece.length > 1).length;
    return {
      replaced,
      sentence: (counts) =>
        cut === 0
          ? "No line crosses a note: none cut"
          : `${counted(cut, context)} of ${selected.length} cut, ${selected.length + counts.added} in all`,
    };
  },
});

interface SplitParams {
  way: string;
  count: number;
  ratio: number;
  rhythm: string;
  value: string;
  kind: string;
}

/** For a note the ticks inside it at which it is cut, ascending; `making` is told of every piece. */
function cutter(
  p: SplitParams,
  gridFor: (note: Note) => Grid,
  making: (more: number) => void,
): (note: Note) => number[] {
  if (p.way === WAYS[1]) {
    return ({ start, length }) => {
      const offsets = rollOffsets(Math.min(p.count, length), length, p.ratio).slice(1);
      making(offsets.length + 1);
      return [...new Set(offsets)].filter((o) => o > 0 && o < length).map((o) => start + o);
    };
  }
  if (p.way === WAYS[0]) {
    return (note) => {
      const grid = gridFor(note);
      const end = note.start + note.length;
      const cuts: number[] = [];
      for (let i = cellAt(grid, note.start) + 1; ; i++) {
        const gridLine = lineAt(grid, i);
        making(1);
        if (gridLine >= end) return cuts;
        cuts.push(gridLine);
      }
    };
  }
  const rhythm = p.rhythm.split(" ").map(Number);
  return (note) => {
    const step = gridTicks(gridFor(note));
    const end = note.start + note.length;
    const cuts: number[] = [];
    for (let i = 0, at = note.start; ; i++) {
      at += nth(rhythm, i % rhythm.length) * step;
      making(1);
      if (at >= end) return cuts;
      cuts.push(at);
    }
  };
}
