import { grid, gridTicks } from "../time";
import type { Params } from "../params";
import { grooveText, type Groove, type GrooveStep } from "./groove";

const step = (offset: number | null, velocity: number | null = null): GrooveStep => ({
  offset,
  velocity,
  spread: 0,
});
const of = (value: number, steps: readonly GrooveStep[]): Groove => ({
  value,
  kind: "straight",
  steps,
});

/** Each second step of a pair begins at a share of the pair: 50 is straight. Velocity stays. */
function swung(value: 8 | 16, percent: number): Groove {
  const cell = gridTicks(grid(value));
  return of(value, [step(0), step(Math.round((2 * cell * percent) / 100 - cell))]);
}

/** A bar of sixteenths in four, by what is said of some of its steps (from 0); the others are on their lines. */
function bar(said: Readonly<Record<number, GrooveStep>>, plain: GrooveStep = step(0)): Groove {
  return of(
    16,
    Array.from({ length: 16 }, (_, i) => said[i] ?? plain),
  );
}

/** Grooves made from rules that their names state (common practice); none is taken from a recording. */
export const GROOVES: readonly { name: string; params: Params }[] = [
  { name: "Swing 54 on sixteenths", groove: swung(16, 54) },
  { name: "Swing 58 on sixteenths", groove: swung(16, 58) },
  { name: "Swing 62 on sixteenths", groove: swung(16, 62) },
  { name: "Swing 66 on sixteenths", groove: swung(16, 66) },
  { name: "Swing 60 on eighths", groove: swung(8, 60) },
  { name: "Swing 66 on eighths", groove: swung(8, 66) },
  {
    name: "Late backbeats, 20 ticks",
    groove: bar({ 4: step(20, 112), 12: step(20, 112) }, step(0)),
  },
  {
    name: "Pushed offbeats, 16 ticks early",
    groove: bar({ 2: step(-16), 6: step(-16), 10: step(-16), 14: step(-16) }),
  },
  {
    name: "Laid back, all but the one",
    groove: bar({ 0: step(0) }, step(18)),
  },
  {
    name: "Strong beats, soft between",
    groove: of(16, [step(0, 112), step(0, 62), step(0, 84), step(0, 66)]),
  },
  {
    name: "Uneven sixteenths: long, short, middle, short",
    groove: of(16, [step(0, 104), step(26, 70), step(8, 88), step(34, 74)]),
  },
].map(({ name, groove }) => ({ name, params: { groove: grooveText(groove) } }));
