import type { Cents, Hertz, Seconds } from "@/core/base";
import { BLOCK, times } from "./block";
import { MovingFilter } from "./filter";
import { floats, kernels } from "./kernels/kernels";
import { CurveReader } from "./curve-reader";
import { placed } from "./pan";
import { readRecording } from "./recording";
import type { Beginning, VoicePlan } from "./plan";
import { Wave } from "./wave";

/** What voices of one instrument share. */
export interface Shared {
  rate: Hertz;
  /** The time of what is played at sample 0. */
  epoch: Seconds;
  /** Noise, that goes round. */
  air(): Float32Array;
  sample(name: string): Float32Array | undefined;
}

/** While a filter is opened or closed, it is so every so many samples. */
const STEP = 16;

const one = floats(BLOCK);
const other = floats(BLOCK);
const levels = floats(BLOCK);

/** One note that sounds. */
export class Voice {
  readonly id: number;
  readonly held: boolean;
  /** The sample it begins with, and the one it is over before. */
  readonly first: number;
  private over = Infinity;
  /** Whether it is the same on both sides. */
  readonly middle: boolean;
  private readonly time: Seconds;
  private readonly waves: Wave[];
  private readonly level: CurveReader;
  private readonly filter: { by: MovingFilter; hz: CurveReader } | null;
  private readonly formants: readonly { by: MovingFilter; level: number }[] | null;
  private readonly breath: { by: MovingFilter; level: CurveReader } | null;
  private readonly vibrato: { plan: NonNullable<VoicePlan["vibrato"]>; cents: CurveReader } | null;
  private readonly fades: { at: Seconds; tau: Seconds }[] = [];
  private readonly sides: readonly [number, number];
  private readonly recording: Float32Array | null;
  private place = 0;

  /** `now` is the first sample that can still be made: a note asked for too late begins with it. */
  constructor(
    private readonly shared: Shared,
    { id, time, pan, held, plan }: Beginning,
    now: number,
  ) {
    const { rate } = shared;
    this.id = id;
    this.held = held;
    this.time = Math.max(time, now / rate);
    this.first = Math.max(now, Math.ceil(this.time * rate - 1e-6));
    this.waves = plan.waves.map((wave) => new Wave(wave, rate));
    this.level = new CurveReader(plan.level);
    const { filter, formants, breath, vibrato } = plan;
    this.filter = filter
      ? { by: new MovingFilter("lowpass", filter.q, rate), hz: new CurveReader(filter.hz) }
      : null;
    const band = (hz: Hertz, q: number) => {
      const by = new MovingFilter("bandpass", q, rate);
      by.set(hz);
      return by;
    };
    this.formants = formants?.map(([hz, q, level]) => ({ by: band(hz, q), level })) ?? null;
    this.breath = breath
      ? { by: band(breath.hz, breath.q), level: new CurveReader(breath.level) }
      : null;
    this.vibrato = vibrato ? { plan: vibrato, cents: new CurveReader(vibrato.cents) } : null;
    this.recording = plan.sample ? (shared.sample(plan.sample) ?? null) : null;
    // In the middle it needs no panner.
    this.middle = pan === 0;
    this.sides = this.middle ? [1, 1] : placed(pan);
  }

  /** It falls silent from a time on; what was to come later of that kind does not. */
  fade(at: Seconds, tau: Seconds, over: Seconds): void {
    while (this.fades.length > 0 && this.fades.at(-1)!.at >= at) this.fades.pop();
    this.fades.push({ at, tau });
    this.over = over * this.shared.rate;
  }

  /**
   * Adds a block to both sides, or to one where all lie in the middle; its first sample is `frame`. Bent, and its
   * filter opened, by so many cents. Tells whether anything is still to come.
   */
  add(
    left: Float32Array,
    right: Float32Array | null,
    frame: number,
    bend: Cents,
    open: readonly [Cents, Cents],
  ): boolean {
    if (this.over <= this.first) return false;
    const from = Math.max(0, this.first - frame);
    if (from >= BLOCK) return true;
    const to = Math.min(BLOCK, Math.ceil(this.over - frame));
    if (to <= from) return false;
    const { rate } = this.shared;
    const step = 1 / rate;
    // The note's own time at the block's first sample.
    const zero = frame / rate - this.time;
    const cents = bend + this.vibratoAt(zero, frame);

    let sound = one;
    sound.fill(0, from, to);
    let alive = false;
    for (const wave of this.waves) alive = wave.add(sound, from, to, zero, step, cents) || alive;
    if (this.recording) alive = this.play(sound, this.recording, from, to, cents) || alive;
    if (this.breath) {
      this.addNoise(sound, from, to, zero, step, frame);
      alive = true;
    }
    if (this.filter) this.filterBlock(sound, from, to, zero, open);
    if (this.formants) {
      other.fill(0, from, to);
      for (const { by, level } of this.formants) by.add(sound, other, from, to, level);
      sound = other;
    }
    this.rise(from, to, zero, step);
    const [toLeft, toRight] = this.sides;
    kernels.addTimes(left, from, to, sound, levels, right === null ? 1 : toLeft);
    if (right !== null) kernels.addTimes(right, from, to, sound, levels, toRight);
    return alive && frame + BLOCK < this.over;
  }

  /** Through its filter, whose corner moves with each block, or more often while it is opened. */
  private filterBlock(
    sound: Float32Array,
    from: number,
    to: number,
    zero: Seconds,
    [low, high]: readonly [Cents, Cents],
  ): void {
    const { by, hz } = this.filter!;
    const corner = hz.at(Math.max(0, zero));
    const step = low === high ? BLOCK : STEP;
    for (let i = from; i < to; i += step) {
      const cents = low + ((high - low) * (i + step)) / BLOCK;
      by.set(corner * times(low === high ? low : cents));
      by.run(sound, sound, i, Math.min(to, i + step));
    }
  }

  private vibratoAt(zero: Seconds, frame: number): Cents {
    if (!this.vibrato) return 0;
    const { hz, together } = this.vibrato.plan;
    const { rate, epoch } = this.shared;
    const at = Math.max(0, zero);
    const swung = together ? epoch + frame / rate : at;
    return this.vibrato.cents.at(at) * Math.sin(2 * Math.PI * hz * swung);
  }

  /** The note's level, and how it is let go. */
  private rise(from: number, to: number, zero: Seconds, step: Seconds): void {
    let i = from;
    const [next] = this.fades;
    if (next && zero + to * step > next.at - this.time) {
      const at = Math.max(0, next.at - this.time);
      const end = Math.min(to, Math.max(i, Math.ceil((at - zero) / step - 1e-6)));
      this.level.fill(levels, i, end, zero, step);
      this.level.letGo(at, next.tau);
      this.fades.shift();
      i = end;
    }
    this.level.fill(levels, i, to, zero, step);
  }

  private play(
    out: Float32Array,
    recording: Float32Array,
    from: number,
    to: number,
    cents: Cents,
  ): boolean {
    const speed = times(cents);
    const count = readRecording(recording, other, from, to, this.place, speed);
    for (let i = from; i < from + count; i++) out[i]! += other[i]!;
    this.place += count * speed;
    return count === to - from;
  }

  private addNoise(
    out: Float32Array,
    from: number,
    to: number,
    zero: Seconds,
    step: Seconds,
    frame: number,
  ): void {
    const { by, level } = this.breath!;
    const air = this.shared.air();
    let at = (frame + from - this.first) % air.length;
    for (let i = from; i < to; i++) {
      other[i] = air[at]!;
      if (++at === air.length) at = 0;
    }
    by.run(other, other, from, to);
    level.fill(levels, from, to, zero, step);
    for (let i = from; i < to; i++) out[i]! += other[i]! * levels[i]!;
  }
}
