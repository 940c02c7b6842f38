// The innermost loops of the sound, compiled to WebAssembly by the build. What each does is said, and done the same in
// plain TypeScript, in src/audio/synth/kernels/plain.ts. Addresses are in bytes; samples are 32 bits.

/** Bits of a phase that lie between two samples of a table. */
const LOWER: u32 = 20;
const BETWEEN: i32 = (1 << LOWER) - 1;
const PART: f32 = 1.0 / f32(1 << LOWER);

function read(table: usize, phase: i32): f32 {
  const at = table + ((<usize>((<u32>phase) >> LOWER)) << 2);
  const a = load<f32>(at);
  return a + (load<f32>(at, 4) - a) * (<f32>(phase & BETWEEN) * PART);
}

function add(at: usize, x: f32): void {
  store<f32>(at, load<f32>(at) + x);
}

/** Four samples of a table at four phases. */
function readFour(table: usize, phases: v128): v128 {
  const k = i32x4.shl(i32x4.shr_u(phases, LOWER), 2);
  let low = v128.load64_zero(table + <usize>i32x4.extract_lane(k, 0));
  low = v128.load64_lane(table + <usize>i32x4.extract_lane(k, 1), low, 1);
  let high = v128.load64_zero(table + <usize>i32x4.extract_lane(k, 2));
  high = v128.load64_lane(table + <usize>i32x4.extract_lane(k, 3), high, 1);
  const a = v128.shuffle<f32>(low, high, 0, 2, 4, 6);
  const b = v128.shuffle<f32>(low, high, 1, 3, 5, 7);
  const part = f32x4.mul(
    f32x4.convert_i32x4_s(v128.and(phases, i32x4.splat(BETWEEN))),
    f32x4.splat(PART),
  );
  return f32x4.add(a, f32x4.mul(f32x4.sub(b, a), part));
}

function fourPhases(phase: i32, inc: i32): v128 {
  let phases = i32x4.splat(phase);
  phases = i32x4.replace_lane(phases, 1, phase + inc);
  phases = i32x4.replace_lane(phases, 2, phase + 2 * inc);
  return i32x4.replace_lane(phases, 3, phase + 3 * inc);
}

export function addWave(
  out: usize,
  count: i32,
  table: usize,
  phase: i32,
  inc: i32,
  level: f32,
): i32 {
  let phases = fourPhases(phase, inc);
  const step = i32x4.splat(4 * inc);
  const levels = f32x4.splat(level);
  let i = 0;
  for (; i + 3 < count; i += 4) {
    const at = out + ((<usize>i) << 2);
    v128.store(at, f32x4.add(v128.load(at), f32x4.mul(levels, readFour(table, phases))));
    phases = i32x4.add(phases, step);
  }
  let p = phase + i * inc;
  for (; i < count; i++, p += inc) add(out + ((<usize>i) << 2), level * read(table, p));
  return p;
}

export function addWaveBy(
  out: usize,
  count: i32,
  table: usize,
  levels: usize,
  phase: i32,
  inc: i32,
): i32 {
  let phases = fourPhases(phase, inc);
  const step = i32x4.splat(4 * inc);
  let i = 0;
  for (; i + 3 < count; i += 4) {
    const by = (<usize>i) << 2;
    const x = f32x4.mul(v128.load(levels + by), readFour(table, phases));
    v128.store(out + by, f32x4.add(v128.load(out + by), x));
    phases = i32x4.add(phases, step);
  }
  let p = phase + i * inc;
  for (; i < count; i++, p += inc) {
    const by = (<usize>i) << 2;
    add(out + by, load<f32>(levels + by) * read(table, p));
  }
  return p;
}

export function addSliding(
  out: usize,
  count: i32,
  table: usize,
  levels: usize,
  phase: i32,
  inc: f64,
  more: f64,
): i32 {
  for (let i = 0; i < count; i++) {
    const by = (<usize>i) << 2;
    add(out + by, load<f32>(levels + by) * read(table, phase));
    phase += <i32>inc;
    inc += more;
  }
  return phase;
}

/** Where the phase of what bends a wave is after `addBent`. */
let bendPhaseAfter: i32 = 0;
export function bendPhase(): i32 {
  return bendPhaseAfter;
}

export function addBent(
  out: usize,
  count: i32,
  table: usize,
  levels: usize,
  sine: usize,
  phase: i32,
  bend: i32,
  inc: f64,
  more: f64,
  bendInc: f64,
  bendMore: f64,
  deep: f64,
  deeper: f64,
): i32 {
  for (let i = 0; i < count; i++) {
    const by = (<usize>i) << 2;
    add(out + by, load<f32>(levels + by) * read(table, phase));
    // Far bends go round more than once: by the lower 32 bits, as whole numbers do.
    phase += <i32>(<i64>(inc + deep * <f64>read(sine, bend)));
    bend += <i32>bendInc;
    inc += more;
    bendInc += bendMore;
    deep += deeper;
  }
  bendPhaseAfter = bend;
  return phase;
}

/** At `cell`: five factors and four values that were, of 64 bits each. Writes or adds what is filtered, at a level. */
export function biquad(
  input: usize,
  out: usize,
  count: i32,
  cell: usize,
  adds: bool,
  level: f64,
): void {
  const b0 = load<f64>(cell);
  const b1 = load<f64>(cell, 8);
  const b2 = load<f64>(cell, 16);
  const a1 = load<f64>(cell, 24);
  const a2 = load<f64>(cell, 32);
  let x1 = load<f64>(cell, 40);
  let x2 = load<f64>(cell, 48);
  let y1 = load<f64>(cell, 56);
  let y2 = load<f64>(cell, 64);
  for (let i = 0; i < count; i++) {
    const by = (<usize>i) << 2;
    const x = <f64>load<f32>(input + by);
    const y = b0 * x + b1 * x1 + b2 * x2 - a2 * y2 - a1 * y1;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    const at = out + by;
    store<f32>(at, <f32>(adds ? <f64>load<f32>(at) + level * y : level * y));
  }
  store<f64>(cell, x1, 40);
  store<f64>(cell, x2, 48);
  store<f64>(cell, y1, 56);
  store<f64>(cell, y2, 64);
}

/** Adds what is made, times its levels and a gain. */
export function addTimes(out: usize, count: i32, x: usize, levels: usize, gain: f32): void {
  const gains = f32x4.splat(gain);
  let i = 0;
  for (; i + 3 < count; i += 4) {
    const by = (<usize>i) << 2;
    const times = f32x4.mul(gains, v128.load(levels + by));
    const more = f32x4.mul(v128.load(x + by), times);
    v128.store(out + by, f32x4.add(v128.load(out + by), more));
  }
  for (; i < count; i++) {
    const by = (<usize>i) << 2;
    add(out + by, load<f32>(x + by) * (gain * load<f32>(levels + by)));
  }
}

/** Four values of a gain on its way. */
function fourGains(gain: f32, more: f32): v128 {
  let gains = f32x4.splat(gain);
  gains = f32x4.replace_lane(gains, 1, gain + more);
  gains = f32x4.replace_lane(gains, 2, gain + 2 * more);
  return f32x4.replace_lane(gains, 3, gain + 3 * more);
}

/** Adds a block of a multiple of four samples, at a gain that moves. */
export function addScaled(out: usize, count: i32, x: usize, gain: f32, more: f32): void {
  let gains = fourGains(gain, more);
  const step = f32x4.splat(4 * more);
  for (let i = 0; i < count; i += 4) {
    const by = (<usize>i) << 2;
    const scaled = f32x4.mul(gains, v128.load(x + by));
    v128.store(out + by, f32x4.add(v128.load(out + by), scaled));
    gains = f32x4.add(gains, step);
  }
}

/** Takes a block of a multiple of four samples through a gain that moves. */
export function scale(out: usize, count: i32, gain: f32, more: f32): void {
  let gains = fourGains(gain, more);
  const step = f32x4.splat(4 * more);
  for (let i = 0; i < count; i += 4) {
    const at = out + ((<usize>i) << 2);
    v128.store(at, f32x4.mul(gains, v128.load(at)));
    gains = f32x4.add(gains, step);
  }
}

/** One delay line of those that feed each other. */
export function delayLine(
  ring: usize,
  mask: i32,
  at: i32,
  from: i32,
  count: i32,
  fall: f32,
  back: f32,
  input: usize,
  sum: usize,
  leaving: usize,
  out: usize,
): void {
  for (let n = 0; n < count; n++) {
    const by = (<usize>n) << 2;
    const goes = load<f32>(input + by) + load<f32>(leaving + by) - back * load<f32>(sum + by);
    store<f32>(ring + ((<usize>((at + n) & mask)) << 2), goes);
    const next = fall * load<f32>(ring + ((<usize>((from + n) & mask)) << 2));
    store<f32>(leaving + by, next);
    add(out + by, next);
  }
}

/**
 * Products of transforms, summed up over the parts: rows of `width` samples each, a multiple of four. What came in
 * begins with row `at` and goes round. Writes real and imaginary parts of the left side, then of the right.
 */
export function multiply(
  out: usize,
  width: i32,
  count: i32,
  at: i32,
  re: usize,
  im: usize,
  leftRe: usize,
  leftIm: usize,
  rightRe: usize,
  rightIm: usize,
): void {
  const row = (<usize>width) << 2;
  for (let k = 0; k < width; k += 4) {
    const by = (<usize>k) << 2;
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    let came = by + row * <usize>at;
    let part = by;
    for (let p = 0; p < count; p++) {
      const x = v128.load(re + came);
      const y = v128.load(im + came);
      const lr = v128.load(leftRe + part);
      const li = v128.load(leftIm + part);
      const rr = v128.load(rightRe + part);
      const ri = v128.load(rightIm + part);
      a = f32x4.add(a, f32x4.sub(f32x4.mul(x, lr), f32x4.mul(y, li)));
      b = f32x4.add(b, f32x4.add(f32x4.mul(x, li), f32x4.mul(y, lr)));
      c = f32x4.add(c, f32x4.sub(f32x4.mul(x, rr), f32x4.mul(y, ri)));
      d = f32x4.add(d, f32x4.add(f32x4.mul(x, ri), f32x4.mul(y, rr)));
      part += row;
      came = at + p + 1 == count ? by : came + row;
    }
    v128.store(out + by, a);
    v128.store(out + by + row, b);
    v128.store(out + by + 2 * row, c);
    v128.store(out + by + 3 * row, d);
  }
}
