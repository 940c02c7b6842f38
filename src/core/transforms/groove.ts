import * as yup from "yup";
import { bell, seeded, clampVelocity, nth } from "../base";
import { lineAt, ticksToMs } from "../time";
import { grooveGrid, grooveParam, grooveStepOf, parseGroove } from "../groove";
import { param } from "../params";
import { clampStart, counted, defineTransform, figure, gridOf, roundLoop } from "./kit";

/** Bell-shaped numbers have this standard deviation. */
const BELL = 3;

/**
 * Pulls notes to the timing and the velocities of a groove, each by its own amount: `start' = start + timing ·
 * (line + offset − start)`, and so with the velocity. Where the groove says nothing of a step, notes stay.
 */
export const groove = defineTransform({
  label: "Groove",
  about: "Timing and velocity of a part or a style, by amount",
  schema: yup.object({
    groove: grooveParam("Groove"),
    timing: param.whole("Timing", 0, 100, { unit: "%" }),
    velocity: param.whole("Velocity", 0, 100, { unit: "%" }),
    loose: param.whole("Looseness", 0, 100, { unit: "%" }),
    seed: param.whole("Seed", 0, 999_999),
  }),
  defaults: { groove: "1/16 0/- 38/-", timing: 100, velocity: 100, loose: 0, seed: 1 },
  run(selected, params, context) {
    const felt = parseGroove(params.groove)!;
    const plain = grooveGrid(felt);
    const random = seeded(params.seed);
    const count = felt.steps.length;
    let widest = 0;
    const replaced = selected.map((note) => {
      const line = grooveStepOf(note, felt, gridOf(note, context));
      const step = nth(felt.steps, ((line % count) + count) % count);
      // Drawn for each note, so that one that stays does not change the others.
      const drawn = bell(random) * BELL;
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
    return {
      replaced,
      sentence: (counts) =>
        `${counted(counts.moved, context)} moved, at most ${figure(ticksToMs(widest, context.tempo))} ms; ${counts.changed} louder or softer only`,
    };
  },
});
