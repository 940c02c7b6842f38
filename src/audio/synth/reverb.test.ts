import { describe, expect, it } from "vitest";
import { seeded } from "@/core/base";
import { hallOf } from "../effects/hall";
import { BLOCK } from "./block";
import { Convolution } from "./convolution";
import { ReverbSound } from "./reverb-sound";

const RATE = 44_100;
const hiss = (length: number, seed: number) => {
  const random = seeded(seed);
  return Float32Array.from({ length }, () => 2 * random() - 1);
};

/** The sum that a convolution is, sample by sample. */
function convolved(input: Float32Array, response: Float32Array): Float64Array {
  const out = new Float64Array(input.length);
  for (let n = 0; n < input.length; n++)
    for (let k = 0; k < response.length && k <= n; k++) out[n]! += response[k]! * input[n - k]!;
  return out;
}

describe("a convolution", () => {
  const run = (convolution: Convolution, input: Float32Array) => {
    const sides = [new Float32Array(input.length), new Float32Array(input.length)];
    for (let at = 0; at < input.length; at += BLOCK) {
      const [left, right] = sides.map((side) => side.subarray(at, at + BLOCK));
      convolution.run(input.subarray(at, at + BLOCK), left!, right!);
    }
    return sides;
  };

  it("is the sum of its definition on either side, without delay, for responses of any length", () => {
    for (const length of [1, 127, 128, 129, 1000]) {
      const [left, right] = [hiss(length, 3), hiss(length, 4)];
      const input = hiss(20 * BLOCK, 5);
      // Nothing for a while in the middle, longer than the response.
      input.fill(0, 3 * BLOCK + 5, 14 * BLOCK);
      const sides = run(new Convolution(left, right), input);
      [left, right].forEach((response, side) => {
        const sum = convolved(input, response);
        const off = sum.reduce((most, x, i) => Math.max(most, Math.abs(x - sides[side]![i]!)), 0);
        expect(off, `${length} samples`).toBeLessThan(1e-4);
      });
    }
  });
});

describe("a reverb", () => {
  const hall = (decay: number, size = 40) => hallOf({ rate: RATE, decay, size });
  /** What is answered to a click, of which a part may come later. */
  function answer(
    seconds: number,
    frames: number,
    decay: number,
    changes = new Map<number, number>(),
  ) {
    const reverb = new ReverbSound(RATE);
    reverb.take({ type: "reverb", frames, tone: 12_000 });
    reverb.take({ type: "hall", values: hall(decay) });
    const blocks = Math.ceil((seconds * RATE) / BLOCK);
    const sides = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)];
    for (let k = 0; k < blocks; k++) {
      const size = changes.get(k);
      if (size !== undefined) reverb.take({ type: "hall", values: hall(decay, size) });
      const click = new Float32Array(BLOCK);
      if (k === 0) click[0] = 1;
      const [left, right] = sides.map((side) => side.subarray(k * BLOCK, (k + 1) * BLOCK));
      reverb.run(click, [left!, right!]);
    }
    return sides;
  }

  it("is silent until its time before, to the sample, and the same but for that", () => {
    const [at0] = answer(0.3, 0, 1000);
    const [late] = answer(0.3, 1000, 1000);
    const first = (side: Float32Array) => side.findIndex((x) => Math.abs(x) > 1e-7);
    expect(first(late!) - first(at0!)).toBe(1000);
    // Lines give back block by block, so it is the same only where nothing has gone round yet.
    for (let i = 0; i < 200; i++)
      expect(late![first(late!) + i]).toBeCloseTo(at0![first(at0!) + i]!, 6);
  });

  it("passes from one room into another without a jump, and is wholly the new one after", () => {
    const power = (side: Float32Array, from: number) =>
      side.subarray(from, from + 2205).reduce((sum, x) => sum + x * x, 0);
    const [plain] = answer(0.6, 0, 3000);
    const [passed] = answer(0.6, 0, 3000, new Map([[40, 90]]));
    const jump = (side: Float32Array, from: number, to: number) => {
      let most = 0;
      for (let i = from; i < to; i++) most = Math.max(most, Math.abs(side[i]! - side[i - 1]!));
      return most;
    };
    const at = 40 * BLOCK;
    expect(jump(passed!, at - 5, at + 3000)).toBeLessThan(1.2 * jump(plain!, at - 5, at + 3000));
    // The new room has heard nothing: after 60 ms there is nothing more.
    expect(power(plain!, at + 5000)).toBeGreaterThan(1e-4);
    expect(power(passed!, at + 5000)).toBeLessThan(1e-9);
  });
});
