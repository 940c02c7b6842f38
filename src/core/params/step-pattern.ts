import { type Percent, must } from "../base";

/** A step of a pattern: a note with a share of its velocity and octaves added, a rest, or a tie. */
export type PatternStep =
  { kind: "note"; velocity: Percent; octave: number } | { kind: "rest" } | { kind: "tie" };

const STEP = String.raw`(?:r|t|\d{1,3}(?:[+-][1-3])?)`;

/** Steps as text: velocity in percent with octaves (`100`, `60+1`), `r` a rest, `t` a tie; up to 32. */
export const STEPS = new RegExp(`^(?:${STEP}(?: ${STEP}){0,31})?$`);

/** Reads steps of a text that matches `STEPS`. */
export function parseSteps(text: string): PatternStep[] {
  return text
    .split(" ")
    .filter(Boolean)
    .map((word) => {
      if (word === "r") return { kind: "rest" };
      if (word === "t") return { kind: "tie" };
      const [, velocity, octave] = must(/^(\d+)([+-]\d)?$/.exec(word));
      return { kind: "note", velocity: Number(velocity), octave: Number(octave ?? 0) };
    });
}

/** Steps as text again. */
export function formatSteps(steps: readonly PatternStep[]): string {
  return steps
    .map((step) => {
      if (step.kind === "rest") return "r";
      if (step.kind === "tie") return "t";
      const { velocity, octave } = step;
      return `${velocity}${octave === 0 ? "" : octave > 0 ? `+${octave}` : octave}`;
    })
    .join(" ");
}

/** Lengths in steps as text, one after another: `3 3 2`. */
export const RHYTHM = /^[1-9]\d?( [1-9]\d?)*$/;
