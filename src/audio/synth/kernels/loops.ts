/** Where waves bent by others are, and what they become; frequencies are in parts of a phase for each sample. */
export interface Bending {
  phase: number;
  bend: number;
  inc: number;
  more: number;
  bendInc: number;
  bendMore: number;
  deep: number;
  deeper: number;
}

/**
 * The innermost loops of the sound. Phases are whole numbers of 32 bits that go round by themselves, `inc` is added to
 * them each sample; tables have 4096 samples and the first once more. Each writes samples `[from, to)`.
 */
export interface Kernels {
  /** Adds a wave at one level and one pitch; gives its phase after. */
  addWave(
    out: Float32Array,
    from: number,
    to: number,
    table: Float32Array,
    phase: number,
    inc: number,
    level: number,
  ): number;
  /** The same, with a level for each sample. */
  addWaveBy(
    out: Float32Array,
    from: number,
    to: number,
    table: Float32Array,
    levels: Float32Array,
    phase: number,
    inc: number,
  ): number;
  /** The same, at a pitch that moves: `more` is added to `inc` each sample. */
  addSliding(
    out: Float32Array,
    from: number,
    to: number,
    table: Float32Array,
    levels: Float32Array,
    phase: number,
    inc: number,
    more: number,
  ): number;
  /** Adds a wave that another one bends; both go on. */
  addBent(
    out: Float32Array,
    from: number,
    to: number,
    table: Float32Array,
    levels: Float32Array,
    sine: Float32Array,
    state: Bending,
  ): void;
  /** A second-order filter: five factors b0 b1 b2 a1 a2, then x1 x2 y1 y2 as they were, which it changes. */
  biquad(
    input: Float32Array,
    out: Float32Array,
    from: number,
    to: number,
    cell: Float64Array,
    adds: boolean,
    level: number,
  ): void;
  /** Adds what is made, times its levels and a gain. */
  addTimes(
    out: Float32Array,
    from: number,
    to: number,
    x: Float32Array,
    levels: Float32Array,
    gain: number,
  ): void;
  /** Adds a block at a gain, to which `more` is added each sample. */
  addScaled(out: Float32Array, x: Float32Array, gain: number, more: number): void;
  /** Takes a block through a gain, to which `more` is added each sample. */
  scale(out: Float32Array, gain: number, more: number): void;
  /** One of the delay lines that feed each other, for a block. */
  delayLine(values: DelayLine, input: Float32Array, sum: Float32Array, out: Float32Array): void;
  /** Products of the transforms of what came in, newest in row `at`, and of a response for each side, summed up. */
  multiply(out: Float32Array, at: number, past: Rows, left: Rows, right: Rows): void;
}

/** A delay line: its ring, where it is written, and where it is read; what leaves it next, and what is left of it. */
export interface DelayLine {
  ring: Float32Array;
  at: number;
  from: number;
  leaving: Float32Array;
  fall: number;
  /** How much of the sum of all lines is taken from each. */
  back: number;
}

/** Real and imaginary parts of several transforms, a row each. */
export interface Rows {
  re: Float32Array;
  im: Float32Array;
  count: number;
  /** Length of a row, a multiple of four. */
  width: number;
}
