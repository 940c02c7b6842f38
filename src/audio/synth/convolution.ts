import FFT from "fft.js";
import { BLOCK } from "./block";
import { floats, giveBack, kernels } from "./kernels/kernels";
import type { Rows } from "./kernels/loops";

/** A block of samples is transformed together with the one before. */
const SIZE = 2 * BLOCK;
/** Frequencies of a transform of real samples, from 0 to half of the sampling rate. */
const BINS = BLOCK + 1;

/** Length of a row of them. */
const WIDTH = Math.ceil(BINS / 4) * 4;

const fft = new FFT(SIZE);
const transformed = fft.createComplexArray();
const summed = fft.createComplexArray();
const sounding = fft.createComplexArray();
const given = new Array<number>(SIZE).fill(0);
/** Real and imaginary parts of both sides. */
const products = floats(4 * WIDTH);

/** Transforms, a row each. */
class Spectra implements Rows {
  readonly width = WIDTH;
  readonly re: Float32Array;
  readonly im: Float32Array;

  constructor(readonly count: number) {
    this.re = floats(WIDTH * count);
    this.im = floats(WIDTH * count);
  }

  /** Writes the transform of what is `given`. */
  write(row: number): void {
    fft.realTransform(transformed, given);
    const { re, im } = this;
    for (let k = 0; k < BINS; k++) {
      re[row * WIDTH + k] = transformed[2 * k]!;
      im[row * WIDTH + k] = transformed[2 * k + 1]!;
    }
  }

  clear(): void {
    this.re.fill(0);
    this.im.fill(0);
  }

  dispose(): void {
    giveBack(this.re, this.im);
  }
}

/** A response in parts of a block each, every one transformed with silence after it. */
function parts(response: Float32Array): Spectra {
  const spectra = new Spectra(Math.ceil(response.length / BLOCK));
  for (let part = 0; part < spectra.count; part++) {
    for (let i = 0; i < SIZE; i++) given[i] = i < BLOCK ? (response[part * BLOCK + i] ?? 0) : 0;
    spectra.write(part);
  }
  return spectra;
}

/**
 * One channel convolved with a response for each side, without delay: the response in parts of a block, each
 * multiplied with the transform of the block that is so many blocks old (uniformly partitioned overlap-save: W. G.
 * Gardner, “Efficient convolution without input-output delay”, J. Audio Eng. Soc. 43(3), 1995, from memory).
 */
export class Convolution {
  private readonly left: Spectra;
  private readonly right: Spectra;
  /** Transforms of the blocks that came in, newest first from row `at` on, round and round. */
  private readonly past: Spectra;
  private at = 0;
  private readonly before = new Float32Array(BLOCK);
  /** For so many blocks nothing has come in. */
  private silent: number;

  /** Both responses are of one length. */
  constructor(left: Float32Array, right: Float32Array) {
    this.left = parts(left);
    this.right = parts(right);
    this.past = new Spectra(this.left.count);
    this.silent = this.left.count + 1;
  }

  /** Takes a block in and writes one of both sides. */
  run(input: Float32Array, outLeft: Float32Array, outRight: Float32Array): void {
    const { past, before } = this;
    const { count } = this.left;
    this.silent = input.every((x) => x === 0) ? this.silent + 1 : 0;
    if (this.silent > count) {
      // What was counts no longer: nothing of it may come back.
      if (this.silent === count + 1) past.clear();
      before.fill(0);
      outLeft.fill(0);
      outRight.fill(0);
      return;
    }
    for (let i = 0; i < BLOCK; i++) {
      given[i] = before[i]!;
      given[BLOCK + i] = input[i]!;
    }
    before.set(input);
    this.at = (this.at + count - 1) % count;
    past.write(this.at);
    this.multiply();
    fft.inverseTransform(sounding, summed);
    for (let i = 0; i < BLOCK; i++) {
      outLeft[i] = sounding[2 * (BLOCK + i)]!;
      outRight[i] = sounding[2 * (BLOCK + i) + 1]!;
    }
  }

  /**
   * What came in times both responses: the left side as the real, the right as the imaginary part, so that one
   * transform back gives both.
   */
  private multiply(): void {
    const { left, right, past, at } = this;
    kernels.multiply(products, at, past, left, right);
    for (let k = 0; k < BINS; k++) {
      const a = products[k]!;
      const b = products[k + WIDTH]!;
      const c = products[k + 2 * WIDTH]!;
      const d = products[k + 3 * WIDTH]!;
      summed[2 * k] = a - d;
      summed[2 * k + 1] = b + c;
      // The other half of the round is of the same frequencies turned about.
      if (k === 0 || k === BLOCK) continue;
      summed[2 * (SIZE - k)] = a + d;
      summed[2 * (SIZE - k) + 1] = c - b;
    }
  }

  dispose(): void {
    for (const one of [this.left, this.right, this.past]) one.dispose();
  }
}
