import type { Kernels } from "./loops";

/** A round of a wave in parts of a phase: whole numbers of 32 bits, so that it goes round by itself. */
export const PHASE = 2 ** 32;
/** The lower bits of a phase lie between two of the 4096 samples of a table. */
const LOWER = 20;
const BETWEEN = 2 ** LOWER - 1;
const PART = 1 / (BETWEEN + 1);

/** What a table has at a phase, straight between its samples. */
const read = (table: Float32Array, phase: number): number => {
  const k = phase >>> LOWER;
  const a = table[k]!;
  return a + (table[k + 1]! - a) * ((phase & BETWEEN) * PART);
};

/** The innermost loops in plain TypeScript. */
export const plain: Kernels = {
  addWave(out, from, to, table, phase, inc, level) {
    let p = phase | 0;
    for (let i = from; i < to; i++, p = (p + inc) | 0) out[i]! += level * read(table, p);
    return p;
  },

  addWaveBy(out, from, to, table, levels, phase, inc) {
    let p = phase | 0;
    for (let i = from; i < to; i++, p = (p + inc) | 0) out[i]! += levels[i]! * read(table, p);
    return p;
  },

  addSliding(out, from, to, table, levels, phase, inc, more) {
    let p = phase | 0;
    for (let i = from; i < to; i++, inc += more) {
      out[i]! += levels[i]! * read(table, p);
      p = (p + (inc | 0)) | 0;
    }
    return p;
  },

  addBent(out, from, to, table, levels, sine, state) {
    let { phase, bend, inc, bendInc, deep } = state;
    const { more, bendMore, deeper } = state;
    for (let i = from; i < to; i++) {
      out[i]! += levels[i]! * read(table, phase);
      phase = (phase + ((inc + deep * read(sine, bend)) | 0)) | 0;
      bend = (bend + (bendInc | 0)) | 0;
      inc += more;
      bendInc += bendMore;
      deep += deeper;
    }
    state.phase = phase;
    state.bend = bend;
  },

  biquad(input, out, from, to, cell, adds, level) {
    const [b0, b1, b2, a1, a2] = cell as unknown as [number, number, number, number, number];
    let x1 = cell[5]!;
    let x2 = cell[6]!;
    let y1 = cell[7]!;
    let y2 = cell[8]!;
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      const y = b0 * x + b1 * x1 + b2 * x2 - a2 * y2 - a1 * y1;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      out[i] = adds ? out[i]! + level * y : level * y;
    }
    cell[5] = x1;
    cell[6] = x2;
    cell[7] = y1;
    cell[8] = y2;
  },

  addTimes(out, from, to, x, levels, gain) {
    for (let i = from; i < to; i++) out[i]! += x[i]! * levels[i]! * gain;
  },

  addScaled(out, x, gain, more) {
    for (let i = 0; i < out.length; i++, gain += more) out[i]! += gain * x[i]!;
  },

  scale(out, gain, more) {
    for (let i = 0; i < out.length; i++, gain += more) out[i]! *= gain;
  },

  delayLine({ ring, at, from, leaving, fall, back }, input, sum, out) {
    const mask = ring.length - 1;
    for (let n = 0; n < input.length; n++) {
      ring[(at + n) & mask] = input[n]! + leaving[n]! - back * sum[n]!;
      const next = fall * ring[(from + n) & mask]!;
      leaving[n] = next;
      out[n]! += next;
    }
  },

  multiply(out, at, { re, im, count, width }, left, right) {
    for (let k = 0; k < width; k++) {
      let a = 0;
      let b = 0;
      let c = 0;
      let d = 0;
      for (let p = 0; p < count; p++) {
        const came = ((at + p) % count) * width + k;
        const part = p * width + k;
        const x = re[came]!;
        const y = im[came]!;
        a += x * left.re[part]! - y * left.im[part]!;
        b += x * left.im[part]! + y * left.re[part]!;
        c += x * right.re[part]! - y * right.im[part]!;
        d += x * right.im[part]! + y * right.re[part]!;
      }
      out[k] = a;
      out[k + width] = b;
      out[k + 2 * width] = c;
      out[k + 3 * width] = d;
    }
  },
};
