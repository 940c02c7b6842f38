import FFT from "fft.js";
import { BLOCK } from "./block";

/** A block of samples is transformed together with the one before. */
const SIZE = 2 * BLOCK;
/** Frequencies of a transform of real samples. */
const BINS = BLOCK + 1;

/** A transform of real samples: real and imaginary parts from 0 to half of the sampling rate. */
interface Spectrum {
  re: Float32Array;
  im: Float32Array;
}

const fft = new FFT(SIZE);
const transformed = fft.createComplexArray();
const summed = fft.createComplexArray();
const sounding = fft.createComplexArray();
const given = new Array<number>(SIZE).fill(0);

/** The transform of what is `given`. */
function transform({ re, im }: Spectrum): void {
  fft.realTransform(transformed, given);
  for (let k = 0; k < BINS; k++) {
    re[k] = transformed[2 * k]!;
    im[k] = transformed[2 * k + 1]!;
  }
}

const spectrum = (): Spectrum => ({ re: new Float32Array(BINS), im: new Float32Array(BINS) });

/** A response in parts of a block each, every one transformed with silence after it. */
function parts(response: Float32Array): Spectrum[] {
  return Array.from({ length: Math.ceil(response.length / BLOCK) }, (_, part) => {
    for (let i = 0; i < SIZE; i++) given[i] = i < BLOCK ? (response[part * BLOCK + i] ?? 0) : 0;
    const own = spectrum();
    transform(own);
    return own;
  });
}

/**
 * One channel convolved with a response for each side, without delay: the response in parts of a block, each
 * multiplied with the transform of the block that is so many blocks old (uniformly partitioned overlap-save: W. G.
 * Gardner, “Efficient convolution without input-output delay”, J. Audio Eng. Soc. 43(3), 1995, from memory).
 */
export class Convolution {
  private readonly left: readonly Spectrum[];
  private readonly right: readonly Spectrum[];
  /** Transforms of the blocks that came in, round and round. */
  private readonly past: readonly Spectrum[];
  private at = 0;
  private readonly before = new Float32Array(BLOCK);
  /** For so many blocks nothing has come in. */
  private silent: number;

  /** Both responses are of one length. */
  constructor(left: Float32Array, right: Float32Array) {
    this.left = parts(left);
    this.right = parts(right);
    this.past = this.left.map(spectrum);
    this.silent = this.past.length + 1;
  }

  /** Takes a block in and writes one of both sides. */
  run(input: Float32Array, outLeft: Float32Array, outRight: Float32Array): void {
    const { left, right, past, before } = this;
    this.silent = input.every((x) => x === 0) ? this.silent + 1 : 0;
    if (this.silent > past.length) {
      outLeft.fill(0);
      outRight.fill(0);
      before.fill(0);
      // What was is forgotten when it counts no longer: nothing of it may come back.
      if (this.silent === past.length + 1) for (const { re, im } of past) [re, im].map(clear);
      return;
    }
    for (let i = 0; i < BLOCK; i++) {
      given[i] = before[i]!;
      given[BLOCK + i] = input[i]!;
    }
    before.set(input);
    this.at = (this.at + past.length - 1) % past.length;
    transform(past[this.at]!);
    summed.fill(0);
    for (let p = 0; p < past.length; p++)
      addProduct(past[(this.at + p) % past.length]!, left[p]!, right[p]!);
    fft.inverseTransform(sounding, summed);
    for (let i = 0; i < BLOCK; i++) {
      outLeft[i] = sounding[2 * (BLOCK + i)]!;
      outRight[i] = sounding[2 * (BLOCK + i) + 1]!;
    }
  }
}

const clear = (values: Float32Array) => values.fill(0);

/**
 * Adds what comes in times both responses to the sum: the left side as its real, the right as its imaginary part, so
 * that one transform back gives both.
 */
function addProduct({ re, im }: Spectrum, left: Spectrum, right: Spectrum): void {
  const { re: leftRe, im: leftIm } = left;
  const { re: rightRe, im: rightIm } = right;
  for (let k = 0; k < BINS; k++) {
    const x = re[k]!;
    const y = im[k]!;
    const a = x * leftRe[k]! - y * leftIm[k]!;
    const b = x * leftIm[k]! + y * leftRe[k]!;
    const c = x * rightRe[k]! - y * rightIm[k]!;
    const d = x * rightIm[k]! + y * rightRe[k]!;
    summed[2 * k]! += a - d;
    summed[2 * k + 1]! += b + c;
    // The other half of the round is of the same frequencies turned about.
    if (k === 0 || k === BLOCK) continue;
    summed[2 * (SIZE - k)]! += a + d;
    summed[2 * (SIZE - k) + 1]! += c - b;
  }
}
