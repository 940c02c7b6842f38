import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { seeded } from "@/core/base";
import { buildKernels } from "../../../../scripts/threads.mjs";
import { compiled } from "./compiled";
import type { Bending, Kernels } from "./loops";
import { plain } from "./plain";

await buildKernels();
const program = readFileSync("build/kernels.wasm");
const BLOCK = 128;
const ROUND = 4096;

/** The same blocks for the compiled loops, where they reach them, and for the plain ones. */
function both(seed: number) {
  const { kernels, floats } = compiled(program);
  const random = seeded(seed);
  const pairOf = (length: number, of: (i: number) => number) => {
    const one = Float32Array.from({ length }, (_, i) => of(i));
    const reached = floats(length)!;
    reached.set(one);
    return [one, reached] as const;
  };
  const saw = pairOf(ROUND + 1, (i) => 1 - (2 * (i % ROUND)) / ROUND);
  const sine = pairOf(ROUND + 1, (i) => Math.sin((2 * Math.PI * i) / ROUND));
  const levels = pairOf(BLOCK, () => random());
  const out = pairOf(BLOCK, () => random() - 0.5);
  const input = pairOf(BLOCK, () => random() - 0.5);
  const sides = [0, 1].map((i) => ({
    kernels: [plain, kernels][i]!,
    ...{ saw: saw[i]!, sine: sine[i]!, levels: levels[i]!, out: out[i]!, input: input[i]! },
  }));
  return { random, sides: sides as [Given, Given], floats };
}

interface Given {
  kernels: Kernels;
  saw: Float32Array;
  sine: Float32Array;
  levels: Float32Array;
  out: Float32Array;
  input: Float32Array;
}

const near = ([a, b]: readonly [Given, Given], what: string, most = 2e-6) => {
  let off = 0;
  for (let i = 0; i < BLOCK; i++) off = Math.max(off, Math.abs(a.out[i]! - b.out[i]!));
  expect(off, what).toBeLessThan(most);
};

describe("the compiled loops", () => {
  it("do the same as the plain ones, for any stretch of a block, phase and pitch", () => {
    for (let seed = 1; seed <= 300; seed++) {
      const { random, sides } = both(seed);
      const from = Math.floor(random() * BLOCK);
      const to = from + Math.floor(random() * (BLOCK - from + 1));
      const phase = Math.floor((random() - 0.5) * 2 ** 32);
      const inc = Math.floor(random() * 2 ** (20 + 11 * random()));
      const level = random();
      const said = `seed ${seed}, ${from} to ${to}`;

      const phases = sides.map(({ kernels, out, saw }) =>
        kernels.addWave(out, from, to, saw, phase, inc, level),
      );
      expect(phases[0]).toBe(phases[1]);
      near(sides, `one level, ${said}`);

      const levelled = sides.map(({ kernels, out, saw, levels }) =>
        kernels.addWaveBy(out, from, to, saw, levels, phase, inc),
      );
      expect(levelled[0]).toBe(levelled[1]);
      near(sides, `levels, ${said}`);

      const more = (random() - 0.5) * 1e5;
      const slid = sides.map(({ kernels, out, saw, levels }) =>
        kernels.addSliding(out, from, to, saw, levels, phase, inc, more),
      );
      expect(slid[0]).toBe(slid[1]);
      near(sides, `sliding, ${said}`);

      const filtered = sides.map(({ kernels, out, input }) => {
        const cell = Float64Array.of(0.3, 0.5, 0.3, -0.6, 0.4, 0.1, 0.2, 0.3, 0.4);
        kernels.biquad(input, out, from, to, cell, seed % 2 === 0, level);
        return [...cell];
      });
      expect(filtered[0]).toEqual(filtered[1]);
      near(sides, `filtered, ${said}`);
    }
  });

  it("bend a wave by another as far as is asked, many rounds away too", () => {
    for (let seed = 1; seed <= 200; seed++) {
      const { random, sides } = both(seed);
      const from = Math.floor(random() * BLOCK);
      const to = from + Math.floor(random() * (BLOCK - from + 1));
      const state: Bending = {
        phase: Math.floor((random() - 0.5) * 2 ** 32),
        bend: Math.floor((random() - 0.5) * 2 ** 32),
        inc: random() * 2 ** 28,
        more: random() * 1000,
        bendInc: random() * 2 ** 28,
        bendMore: random() * 1000,
        deep: random() * 2 ** (24 + 9 * random()),
        deeper: -random() * 1000,
      };
      const after = sides.map(({ kernels, out, sine, levels }) => {
        const own = { ...state };
        kernels.addBent(out, from, to, sine, levels, sine, own);
        return own;
      });
      // What bends is read with 24 bits in one, with 53 in the other: phases part by so little.
      const apart = Math.abs((after[0]!.phase - after[1]!.phase) | 0) / 2 ** 32;
      expect(apart, `seed ${seed}`).toBeLessThan(1e-4);
      expect(after[0]!.bend).toBe(after[1]!.bend);
      let off = 0;
      for (let i = 0; i < BLOCK; i++)
        off = Math.max(off, Math.abs(sides[0].out[i]! - sides[1].out[i]!));
      expect(off, `seed ${seed}`).toBeLessThan(1e-3);
    }
  });

  it("add, scale and shape whole blocks as the plain ones do", () => {
    for (let seed = 1; seed <= 100; seed++) {
      const { random, sides } = both(seed);
      const [gain, more] = [random(), (random() - 0.5) / BLOCK];
      const from = Math.floor(random() * BLOCK);
      const to = from + Math.floor(random() * (BLOCK - from + 1));
      for (const { kernels, out, input, levels } of sides)
        kernels.addTimes(out, from, to, input, levels, gain);
      near(sides, `times, seed ${seed}`);
      for (const { kernels, out, input } of sides) kernels.addScaled(out, input, gain, more);
      near(sides, `scaled, seed ${seed}`, 1e-5);
      for (const { kernels, out } of sides) kernels.scale(out, gain, more);
      near(sides, `through a gain, seed ${seed}`, 1e-5);
    }
  });

  it("send a block through a delay line, and a response, as the plain ones do", () => {
    for (let seed = 1; seed <= 40; seed++) {
      const { random, sides, floats } = both(seed);
      const filled = (length: number) => {
        const one = Float32Array.from({ length }, () => random() - 0.5);
        const reached = floats(length)!;
        reached.set(one);
        return [one, reached] as const;
      };
      const [ring, leaving, sum, heard] = [512, BLOCK, BLOCK, BLOCK].map(filled);
      const from = Math.floor(random() * 512);
      const lines = sides.map(({ kernels, input }, i) => {
        const place = { at: 3 * BLOCK, from, fall: 0.7, back: 0.25 };
        const line = { ring: ring![i]!, leaving: leaving![i]!, ...place };
        kernels.delayLine(line, input, sum![i]!, heard![i]!);
        return [...line.ring, ...line.leaving, ...heard![i]!];
      });
      lines[0]!.forEach((x, i) => expect(lines[1]![i]).toBeCloseTo(x, 5));

      const [width, count] = [132, 1 + Math.floor(random() * 17)];
      const rows = Array.from({ length: 6 }, () => filled(width * count));
      const out = filled(4 * width);
      const at = Math.floor(random() * count);
      sides.forEach(({ kernels }, i) => {
        const of = (k: number) => ({ re: rows[k]![i]!, im: rows[k + 1]![i]!, width, count });
        kernels.multiply(out[i]!, at, of(0), of(2), of(4));
      });
      out[0].forEach((x, i) => expect(out[1][i]).toBeCloseTo(x, 4));
    }
  });

  it("leave what they do not reach to the plain ones, and give no room that is not there", () => {
    const { sides, floats } = both(1);
    const [far, reached] = sides;
    reached.kernels.addWave(far.out, 0, BLOCK, reached.saw, 5, 2 ** 24, 1);
    const wanted = Float32Array.from(reached.out);
    plain.addWave(wanted, 0, BLOCK, far.saw, 5, 2 ** 24, 1);
    expect([...far.out]).toEqual([...wanted]);
    expect(floats(2 ** 22)).toBeNull();
    expect(floats(16)).toHaveLength(16);
  });

  it("use room again that is given back, silent, as often as it comes", () => {
    const { floats, giveBack } = compiled(program);
    const first = floats(1024)!.fill(3);
    giveBack(first);
    giveBack(new Float32Array(1024));
    const again = floats(1024)!;
    expect(again.byteOffset).toBe(first.byteOffset);
    expect(again.every((x) => x === 0)).toBe(true);
    expect(floats(1024)!.byteOffset).not.toBe(first.byteOffset);
    for (let i = 0; i < 5000; i++) giveBack(floats(100_000)!);
  });

  it("write nothing beside their stretch", () => {
    const { sides } = both(2);
    const before = sides.map(({ out }) => Float32Array.from(out));
    for (const { kernels, out, saw, levels, input } of sides) {
      kernels.addWave(out, 7, 7, saw, 0, 1 << 24, 1);
      kernels.addWaveBy(out, 100, 100, saw, levels, 0, 1 << 24);
      kernels.addWave(out, 10, 21, saw, 0, 1 << 24, 1);
      kernels.biquad(input, out, 12, 13, new Float64Array(9), false, 1);
    }
    sides.forEach(({ out }, side) => {
      for (let i = 0; i < BLOCK; i++) if (i < 10 || i >= 21) expect(out[i]).toBe(before[side]![i]);
    });
  });
});
