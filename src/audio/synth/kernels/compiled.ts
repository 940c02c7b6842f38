import type { Kernels } from "./kernels";
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
}

/** The compiled loops, and room they reach. */
export interface Compiled {
  kernels: Kernels;
  /** Room for samples, null when there is no more. */
  floats(length: number): Float32Array | null;
}

/** Below this the program keeps what is its own. */
const OWN = 4096;
/** A filter's factors, and with what it keeps besides. */
const FACTORS = 5;
const CELL = 9;

/** Makes the compiled loops; what lies elsewhere goes through the plain ones. Throws where it cannot be had. */
export function compiled(program: BufferSource): Compiled {
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(program), {});
  const own = exports as unknown as Exports;
  const { buffer } = own.memory;
  let next = OWN;
  const at = (length: number, bytes: number): number | null => {
    const from = Math.ceil(next / 16) * 16;
    if (from + length * bytes > buffer.byteLength) return null;
    next = from + length * bytes;
    return from;
  };
  const cellAt = at(CELL, 8)!;
  const cell = new Float64Array(buffer, cellAt, CELL);

  const reached = (one: Float32Array) => one.buffer === buffer;
  const kernels: Kernels = {
    addWave(out, from, to, table, phase, inc, level) {
      if (!reached(out) || !reached(table))
        return plain.addWave(out, from, to, table, phase, inc, level);
      const { byteOffset } = table;
      return own.addWave(out.byteOffset + 4 * from, to - from, byteOffset, phase, inc, level);
    },

    addWaveBy(out, from, to, table, levels, phase, inc) {
      if (!reached(out) || !reached(table) || !reached(levels))
        return plain.addWaveBy(out, from, to, table, levels, phase, inc);
      const begin = levels.byteOffset + 4 * from;
      const { byteOffset } = table;
      return own.addWaveBy(out.byteOffset + 4 * from, to - from, byteOffset, begin, phase, inc);
    },

    addSliding(out, from, to, table, levels, phase, inc, more) {
      if (!reached(out) || !reached(table) || !reached(levels))
        return plain.addSliding(out, from, to, table, levels, phase, inc, more);
      return own.addSliding(
        out.byteOffset + 4 * from,
        to - from,
        table.byteOffset,
        levels.byteOffset + 4 * from,
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
        out.byteOffset + 4 * from,
        to - from,
        table.byteOffset,
        levels.byteOffset + 4 * from,
        sine.byteOffset,
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
      for (let i = 0; i < CELL; i++) cell[i] = values[i]!;
      const begin = input.byteOffset + 4 * from;
      own.biquad(begin, out.byteOffset + 4 * from, to - from, cellAt, adds ? 1 : 0, level);
      for (let i = FACTORS; i < CELL; i++) values[i] = cell[i]!;
    },
  };
  return {
    kernels,
    floats: (length) => {
      const from = at(length, 4);
      return from === null ? null : new Float32Array(buffer, from, length);
    },
  };
}
