import type { Cents, Hertz, Seconds } from "@/core/base";
import { BLOCK, times } from "./block";
import { floats, kernels } from "./kernels/kernels";
import type { Bending } from "./kernels/loops";
import { PHASE } from "./kernels/plain";
import { CurveReader } from "./curve-reader";
import type { WavePlan } from "./plan";
import { tablesOf, type Wavetables } from "./waves";

const levels = floats(BLOCK);

/** A wave that sounds. */
export class Wave {
  private readonly tables: Wavetables;
  private readonly hz: CurveReader;
  private readonly level: CurveReader;
  private readonly bends: {
    sine: Float32Array;
    hz: CurveReader;
    depth: CurveReader;
    state: Bending;
  } | null;
  private readonly until: Seconds;
  private readonly cents: Cents;
  private readonly turn: number;
  /** Where in the round it is. */
  private phase = 0;
  /** Its pitch as it was in the last block, the table for that, and by how much it goes on each sample. */
  private last: Hertz = NaN;
  private table: Float32Array;
  private inc = 0;

  constructor(
    { shape, hz, cents = 0, level, fm, until = Infinity }: WavePlan,
    private readonly rate: Hertz,
  ) {
    this.tables = tablesOf(shape);
    this.hz = new CurveReader(hz);
    this.level = new CurveReader(level);
    this.bends = fm
      ? {
          sine: tablesOf("sine").at(0, rate),
          hz: new CurveReader(fm.hz),
          depth: new CurveReader(fm.depth),
          state: {
            ...{ phase: 0, bend: 0, inc: 0, more: 0 },
            ...{ bendInc: 0, bendMore: 0, deep: 0, deeper: 0 },
          },
        }
      : null;
    this.table = this.tables.at(0, rate);
    this.until = until;
    this.cents = cents;
    this.turn = PHASE / rate;
  }

  /**
   * Adds samples `[from, to)` of a block whose first is at a time of the note's own, so many seconds apart; bent by
   * so many cents. Tells whether more are to come.
   */
  add(
    out: Float32Array,
    from: number,
    to: number,
    zero: Seconds,
    step: Seconds,
    bend: Cents,
  ): boolean {
    const begin = zero + from * step;
    if (begin >= this.until) return false;
    const end = zero + to * step;
    const bent = times(this.cents + bend);
    const low = this.hz.at(begin) * bent;
    const high = this.hz.stands ? low : this.hz.at(end) * bent;
    const top = Math.max(low, high);
    if (top !== this.last) {
      this.last = top;
      this.table = this.tables.at(top, this.rate);
      this.inc = Math.round(top * this.turn) | 0;
    }
    const { table, inc, phase } = this;
    const even = low === high;
    if (!this.bends && even && this.level.stands) {
      const level = this.level.at(begin);
      this.phase = kernels.addWave(out, from, to, table, phase, inc, level);
      return true;
    }
    this.level.fill(levels, from, to, zero, step);
    if (this.bends) this.addBent(out, from, to, [low, high], [begin, end], times(bend));
    else if (even) this.phase = kernels.addWaveBy(out, from, to, table, levels, phase, inc);
    else {
      const more = ((high - low) * this.turn) / (to - from);
      const begins = low * this.turn;
      this.phase = kernels.addSliding(out, from, to, table, levels, phase, begins, more);
    }
    return true;
  }

  private addBent(
    out: Float32Array,
    from: number,
    to: number,
    [low, high]: readonly [Hertz, Hertz],
    [begin, end]: readonly [Seconds, Seconds],
    bent: number,
  ): void {
    const { sine, hz, depth, state } = this.bends!;
    const { turn } = this;
    const count = to - from;
    state.inc = low * turn;
    state.more = ((high - low) * turn) / count;
    const bendLow = hz.at(begin) * bent;
    const bendHigh = hz.stands ? bendLow : hz.at(end) * bent;
    state.bendInc = bendLow * turn;
    state.bendMore = ((bendHigh - bendLow) * turn) / count;
    // The depth is in Hz, bent with the pitch.
    state.deep = depth.at(begin) * turn * bent;
    state.deeper = (depth.at(end) * turn * bent - state.deep) / count;
    kernels.addBent(out, from, to, this.table, levels, sine, state);
  }
}
