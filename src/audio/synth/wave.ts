import type { Cents, Hertz, Seconds } from "@/core";
import { BLOCK, times } from "./block";
import { Follower } from "./line";
import type { WavePlan } from "./plan";
import { ROUND, tablesOf, type Wavetables } from "./waves";

/** A round of a wave in parts of a phase: whole numbers of 32 bits, so that it goes round by itself. */
const PHASE = 2 ** 32;
/** The lower bits of a phase lie between two samples of a table. */
const LOWER = Math.log2(PHASE / ROUND);
const BETWEEN = 2 ** LOWER - 1;
const PART = 1 / (BETWEEN + 1);

const levels = new Float32Array(BLOCK);

/** What a table has at a phase, straight between its samples. */
const read = (table: Float32Array, phase: number): number => {
  const k = phase >>> LOWER;
  const a = table[k]!;
  return a + (table[k + 1]! - a) * ((phase & BETWEEN) * PART);
};

/** A wave that sounds. */
export class Wave {
  private readonly tables: Wavetables;
  private readonly hz: Follower;
  private readonly level: Follower;
  private readonly bends: { sine: Float32Array; hz: Follower; depth: Follower } | null;
  private readonly until: Seconds;
  private readonly cents: Cents;
  private readonly turn: number;
  /** Where in the round it is, and where what bends it is. */
  private phase = 0;
  private bendPhase = 0;

  constructor(
    { shape, hz, cents = 0, level, fm, until = Infinity }: WavePlan,
    private readonly rate: Hertz,
  ) {
    this.tables = tablesOf(shape);
    this.hz = new Follower(hz);
    this.level = new Follower(level);
    this.bends = fm
      ? {
          sine: tablesOf("sine").at(0, rate),
          hz: new Follower(fm.hz),
          depth: new Follower(fm.depth),
        }
      : null;
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
    const table = this.tables.at(Math.max(low, high), this.rate);
    if (this.bends) {
      this.level.fill(levels, from, to, zero, step);
      this.addBent(out, table, from, to, [low, high], [begin, end], times(bend));
    } else if (low !== high) {
      this.level.fill(levels, from, to, zero, step);
      this.addSliding(out, table, from, to, low, high);
    } else if (this.level.stands) {
      this.addEven(out, table, from, to, low, this.level.at(begin));
    } else {
      this.level.fill(levels, from, to, zero, step);
      this.addStanding(out, table, from, to, low);
    }
    return true;
  }

  /** One level, one pitch: most waves most of the time. Four samples a turn, since the turns cost as much. */
  private addEven(
    out: Float32Array,
    table: Float32Array,
    from: number,
    to: number,
    hz: Hertz,
    level: number,
  ): void {
    const inc = Math.round(hz * this.turn) | 0;
    let phase = this.phase | 0;
    let i = from;
    for (; i + 3 < to; i += 4) {
      out[i]! += level * read(table, phase);
      phase = (phase + inc) | 0;
      out[i + 1]! += level * read(table, phase);
      phase = (phase + inc) | 0;
      out[i + 2]! += level * read(table, phase);
      phase = (phase + inc) | 0;
      out[i + 3]! += level * read(table, phase);
      phase = (phase + inc) | 0;
    }
    for (; i < to; i++, phase = (phase + inc) | 0) out[i]! += level * read(table, phase);
    this.phase = phase;
  }

  private addStanding(
    out: Float32Array,
    table: Float32Array,
    from: number,
    to: number,
    hz: Hertz,
  ): void {
    const inc = Math.round(hz * this.turn) | 0;
    let phase = this.phase | 0;
    let i = from;
    for (; i + 3 < to; i += 4) {
      out[i]! += levels[i]! * read(table, phase);
      phase = (phase + inc) | 0;
      out[i + 1]! += levels[i + 1]! * read(table, phase);
      phase = (phase + inc) | 0;
      out[i + 2]! += levels[i + 2]! * read(table, phase);
      phase = (phase + inc) | 0;
      out[i + 3]! += levels[i + 3]! * read(table, phase);
      phase = (phase + inc) | 0;
    }
    for (; i < to; i++, phase = (phase + inc) | 0) out[i]! += levels[i]! * read(table, phase);
    this.phase = phase;
  }

  private addSliding(
    out: Float32Array,
    table: Float32Array,
    from: number,
    to: number,
    low: Hertz,
    high: Hertz,
  ): void {
    let inc = low * this.turn;
    const more = ((high - low) * this.turn) / (to - from);
    let phase = this.phase | 0;
    for (let i = from; i < to; i++, inc += more) {
      out[i]! += levels[i]! * read(table, phase);
      phase = (phase + (inc | 0)) | 0;
    }
    this.phase = phase;
  }

  private addBent(
    out: Float32Array,
    table: Float32Array,
    from: number,
    to: number,
    [low, high]: readonly [Hertz, Hertz],
    [begin, end]: readonly [Seconds, Seconds],
    bent: number,
  ): void {
    const { sine, hz, depth } = this.bends!;
    const { turn } = this;
    const count = to - from;
    let inc = low * turn;
    const more = ((high - low) * turn) / count;
    const bendLow = hz.at(begin) * bent;
    const bendHigh = hz.stands ? bendLow : hz.at(end) * bent;
    let bendInc = bendLow * turn;
    const bendMore = ((bendHigh - bendLow) * turn) / count;
    // The depth is in Hz, bent with the pitch.
    let deep = depth.at(begin) * turn * bent;
    const deeper = (depth.at(end) * turn * bent - deep) / count;
    let phase = this.phase | 0;
    let bendPhase = this.bendPhase | 0;
    for (let i = from; i < to; i++) {
      out[i]! += levels[i]! * read(table, phase);
      phase = (phase + ((inc + deep * read(sine, bendPhase)) | 0)) | 0;
      bendPhase = (bendPhase + (bendInc | 0)) | 0;
      inc += more;
      bendInc += bendMore;
      deep += deeper;
    }
    this.phase = phase;
    this.bendPhase = bendPhase;
  }
}
