import type { Kernels } from "./loops";
import { plain } from "./plain";

/** What the compiled program offers; see assembly/index.ts. Addresses are in bytes. */
interface Exports {
  memory: WebAssembly.Memory;
  addWave(out: number, n: number, table: number, phase: number, inc: number, level: number): number;
  addWaveBy(
    out: number,
    n: number,
    table: number,
    levels: number,
    phase: number,
    inc: number,
  ): number;
  addSliding(
    out: number,
    n: number,
    table: number,
    levels: number,
    phase: number,
    inc: number,
    more: number,
  ): number;
  /** Five addresses and lengths, two phases, and what they go on by. */
  addBent(...args: number[]): number;
  bendPhase(): number;
  biquad(input: number, out: number, n: number, cell: number, adds: number, level: number): void;
  addTimes(out: number, n: number, x: number, levels: number, gain: number): void;
  addScaled(out: number, n: number, x: number, gain: number, more: number): void;
  scale(out: number, n: number, gain: number, more: number): void;
  /** A ring, its mask and two places in it, a length, two factors, four addresses. */
  delayLine(...args: number[]): void;
  /** Where to, width, count, the first row, six addresses. */
  multiply(...args: number[]): void;
}

/** The compiled loops, and room they reach. */
export interface Compiled {
  kernels: Kernels;
  /** Room for samples, null when there is no more. */
  floats(length: number): Float32Array | null;
  /** Takes room back that `floats` gave; any other is left alone. */
  giveBack(one: Float32Array): void;
}

/** Samples that the loops reach know where they lie: asked for a buffer, they would be slower. */
interface Placed extends Float32Array<ArrayBuffer> {
  place: number;
}
const reached = (one: Float32Array): one is Placed => (one as Placed).place !== undefined;

/** Below this the program keeps what is its own. */
const OWN = 4096;
/** A filter's factors, and with what it keeps besides. */
const FACTORS = 5;
const CELL = 9;

/** Where a filter's factors and what it keeps are handed over. */
interface Cell {
  at: number;
  values: Float64Array;
}

/** The loops of the program; what lies where it does not reach goes through the plain ones. */
function kernelsOf(own: Exports, cell: Cell): Kernels {
  return {
    addWave(out, from, to, table, phase, inc, level) {
      if (!reached(out) || !reached(table))
        return plain.addWave(out, from, to, table, phase, inc, level);
      return own.addWave(out.place + 4 * from, to - from, table.place, phase, inc, level);
    },

    addWaveBy(out, from, to, table, levels, phase, inc) {
      if (!reached(out) || !reached(table) || !reached(levels))
        return plain.addWaveBy(out, from, to, table, levels, phase, inc);
      const begin = levels.place + 4 * from;
      return own.addWaveBy(out.place + 4 * from, to - from, table.place, begin, phase, inc);
    },

    addSliding(out, from, to, table, levels, phase, inc, more) {
      if (!reached(out) || !reached(table) || !reached(levels))
        return plain.addSliding(out, from, to, table, levels, phase, inc, more);
      return own.addSliding(
        out.place + 4 * from,
        to - from,
        table.place,
        levels.place + 4 * from,
        phase,
        inc,
        more,
      );
    },

    addBent(out, from, to, table, levels, sine, state) {
      if (!reached(out) || !reached(table) || !reached(levels) || !reached(sine)) {
        plain.addBent(out, from, to, table, levels, sine, state);
        return;
      }
      state.phase = own.addBent(
        out.place + 4 * from,
        to - from,
        table.place,
        levels.place + 4 * from,
        sine.place,
        state.phase,
        state.bend,
        state.inc,
        state.more,
        state.bendInc,
        state.bendMore,
        state.deep,
        state.deeper,
      );
      state.bend = own.bendPhase();
    },

    biquad(input, out, from, to, values, adds, level) {
      if (!reached(input) || !reached(out)) {
        plain.biquad(input, out, from, to, values, adds, level);
        return;
      }
      for (let i = 0; i < CELL; i++) cell.values[i] = values[i]!;
      const begin = input.place + 4 * from;
      own.biquad(begin, out.place + 4 * from, to - from, cell.at, adds ? 1 : 0, level);
      for (let i = FACTORS; i < CELL; i++) values[i] = cell.values[i]!;
    },

    addTimes(out, from, to, x, levels, gain) {
      if (!reached(out) || !reached(x) || !reached(levels)) {
        plain.addTimes(out, from, to, x, levels, gain);
        return;
      }
      const by = 4 * from;
      own.addTimes(out.place + by, to - from, x.place + by, levels.place + by, gain);
    },

    addScaled(out, x, gain, more) {
      if (reached(out) && reached(x)) own.addScaled(out.place, out.length, x.place, gain, more);
      else plain.addScaled(out, x, gain, more);
    },

    scale(out, gain, more) {
      if (reached(out)) own.scale(out.place, out.length, gain, more);
      else plain.scale(out, gain, more);
    },

    delayLine(values, input, sum, out) {
      const { ring, at, from, leaving, fall, back } = values;
      if (
        !reached(ring) ||
        !reached(leaving) ||
        !reached(input) ||
        !reached(sum) ||
        !reached(out)
      ) {
        plain.delayLine(values, input, sum, out);
        return;
      }
      own.delayLine(
        ring.place,
        ring.length - 1,
        at,
        from,
        input.length,
        fall,
        back,
        input.place,
        sum.place,
        leaving.place,
        out.place,
      );
    },

    multiply(out, at, past, left, right) {
      const all = [out, past.re, past.im, left.re, left.im, right.re, right.im];
      if (!all.every(reached)) {
        plain.multiply(out, at, past, left, right);
        return;
      }
      const [to, ...rest] = all.map((one) => one.place);
      own.multiply(to!, past.width, past.count, at, ...rest);
    },
  };
}

/** Makes the compiled loops; what lies elsewhere goes through the plain ones. Throws where it cannot be had. */
export function compiled(program: BufferSource): Compiled {
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(program), {});
  const own = exports as unknown as Exports;
  const { buffer } = own.memory;
  let next = OWN;
  const room = (length: number, bytes: number): number | null => {
    const from = Math.ceil(next / 16) * 16;
    if (from + length * bytes > buffer.byteLength) return null;
    next = from + length * bytes;
    return from;
  };
  const cellAt = room(CELL, 8)!;

  const kernels = kernelsOf(own, { at: cellAt, values: new Float64Array(buffer, cellAt, CELL) });
  /** What was given back, by its length. */
  const free = new Map<number, Float32Array[]>();
  return {
    kernels,
    floats: (length) => {
      const known = free.get(length)?.pop();
      if (known) return known.fill(0);
      const from = room(length, 4);
      return from === null
        ? null
        : Object.assign(new Float32Array(buffer, from, length), { place: from });
    },
    giveBack: (one) => {
      if (reached(one)) free.set(one.length, [...(free.get(one.length) ?? []), one]);
    },
  };
}
