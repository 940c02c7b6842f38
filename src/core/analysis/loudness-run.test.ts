import { expect, it } from "vitest";
import { seeded } from "../base";
import { loudness } from "./loudness";
import { LoudnessRun } from "./loudness-run";

it("sound that comes in pieces of any length is as loud as it is as a whole", () => {
  const random = seeded(3);
  const rate = 44_100;
  const sides = [0, 1].map((side) =>
    Float32Array.from(
      { length: 3 * rate },
      (_, i) => (i < rate ? 0.4 : 0.02) * Math.sin(i / (9 + side)) + 0.01 * (random() - 0.5),
    ),
  );
  const run = new LoudnessRun(2, rate);
  for (let at = 0; at < sides[0]!.length;) {
    const to = at + 1 + Math.floor(random() * 9000);
    run.add(sides.map((side) => side.subarray(at, to)));
    at = to;
  }
  expect(run.loudness).toBeCloseTo(loudness(sides, rate), 9);
  const largest = sides
    .flatMap((side) => [...side])
    .reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  expect(run.peak).toBe(largest);
  expect(new LoudnessRun(2, rate).loudness).toBe(-Infinity);
});
