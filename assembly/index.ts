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
