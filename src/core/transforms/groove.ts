import * as yup from "yup";
import { bell, seeded, clampVelocity, nth, modulo } from "../base";
import { type Grid, gridLines, lineAt, nearestLine, ticksToMs } from "../time";
import type { Note } from "../score";
import { grooveGrid, grooveParam, grooveShift, grooveStepOf, parseGroove } from "../groove";
import { param } from "../params";
import { clampStart, counted, defineTransform, figure, gridOf, roundLoop, evenly } from "./kit";

const BETWEEN = ["go along", "nearest step"] as const;

/** Bell-shaped numbers have this standard deviation. */
const BELL = 3;

/**
 * Pulls notes to the timing and the velocities of a groove, each by its own amount: `start' = start + timing ·
 * (line + offset − start)`, and so with the velocity. What lies between the steps that the groove says something of
 * goes along, by as much as lies between their offsets, and no note passes another; or (as in cards of before) the
 * nearest step holds for it, and where that says nothing it stays.
 */
export const groove = defineTransform({
  label: "Groove",
  family: "feel",
  example: {
    notes: evenly(240, 90, 90, 90, 90, 90, 90, 90, 90),
    params: { groove: "1/16 0/110 45/60 8/90 60/50" },
  },
  about: "Timing and velocity of a part or a style, by amount",
  schema: yup.object({
    groove: grooveParam("Groove"),
    timing: param.whole("Timing", 0, 100, { unit: "%" }),
    velocity: param.whole("Velocity", 0, 100, { unit: "%" }),
    loose: param.whole("Looseness", 0, 100, { unit: "%" }),
    between: param.choice("Between its steps", BETWEEN),
    seed: param.whole("Seed", 0, 999_999),
  }),
  defaults: {
    groove: "1/16 0/- 38/-",
    timing: 100,
    velocity: 100,
    loose: 0,
    between: "nearest step" as string,
    seed: 1,
  },
  starts: { between: "go along" },
  lines({ groove }, _context, _pitch, to) {
    const felt = parseGroove(groove);
    if (!felt) return [];
    const { steps } = felt;
    return gridLines(grooveGrid(felt), 0, to).flatMap((tick, i) => {
      const { offset } = nth(steps, i % steps.length);
      const at = offset === null ? null : Math.round(tick + offset);
      return at === null || at < 0 || at >= to ? [] : [at];
    });
  },
  run(selected, params, context) {
    const felt = parseGroove(params.groove)!;
    const plain = grooveGrid(felt);
    const random = seeded(params.seed);
    const count = felt.steps.length;
    /** Whether a note's own line is the groove's: of a finer grid it may lie between two of these. */
    const isOnLine = (note: Note, own: Grid, line: number): boolean => {
      const same = own.value === felt.value && own.kind === felt.kind;
      const tick = lineAt(own, nearestLine(own, note.start));
      return same || Math.abs(tick - lineAt(plain, line)) <= 1;
    };
    let widest = 0;
    const along = params.between === "go along";
    const shift = grooveShift(felt);
    const moved = selected.map((note) => {
      const own = gridOf(note, context);
      const line = grooveStepOf(note, felt, own);
      const step = nth(felt.steps, modulo(line, count));
      // Drawn for each note, so that one that stays does not change the others.
      const drawn = bell(random) * BELL;
      if (along && (step.offset === null || !isOnLine(note, own, line))) {
        const start = clampStart(note.start + (shift(note.start) * params.timing) / 100);
        widest = Math.max(widest, Math.abs(start - note.start));
        return start === note.start ? note : { ...note, start: roundLoop(note, start, context) };
      }
      let { start, velocity } = note;
      if (step.offset !== null) {
        const loose = (drawn * step.spread * params.loose) / 100;
        const target = lineAt(plain, line) + step.offset + loose;
        start = clampStart(note.start + ((target - note.start) * params.timing) / 100);
        start = roundLoop(note, start, context);
      }
      if (step.velocity !== null) {
        const by = ((step.velocity - note.velocity) * params.velocity) / 100;
        velocity = clampVelocity(note.velocity + by);
      }
      if (start === note.start && velocity === note.velocity) return note;
      if (Math.abs(start - note.start) < 960)
        widest = Math.max(widest, Math.abs(start - note.start));
      return { ...note, start, velocity };
    });
    const replaced = along ? inOrder(selected, moved) : moved;
    return {
      replaced,
      sentence: (counts) =>
        `${counted(counts.moved, context)} moved, at most ${figure(ticksToMs(widest, context.tempo))} ms; ${counts.changed} louder or softer only`,
    };
  },
});

/** Notes of each pitch in the order they had: one that would pass the one before it comes right after that. */
function inOrder(before: readonly Note[], after: readonly Note[]): Note[] {
  const last = new Map<number, { was: number; is: number }>();
  const order = after.map((_, i) => i).sort((a, b) => nth(before, a).start - nth(before, b).start);
  const fixed = [...after];
  for (const i of order) {
    const [was, note] = [nth(before, i), nth(after, i)];
    const held = last.get(note.pitch);
    // What came round to the loop's beginning is no longer after the others.
    const round = Math.abs(note.start - was.start) > 960;
    const least = held && !round ? held.is + (was.start > held.was ? 1 : 0) : -Infinity;
    const start = Math.max(note.start, least);
    if (start !== note.start) fixed[i] = { ...note, start };
    if (!round) last.set(note.pitch, { was: was.start, is: start });
  }
  return fixed;
}
