import type { Seconds } from "@/core/base";

/**
 * A corner of a line, at a time after the note begins: a step to a value, the end of a straight or of an
 * exponential way to it from the corner before, or the beginning of an approach with a time constant. The same four
 * that the Web Audio specification has (AudioParam's automation methods).
 */
export type Corner =
  | readonly [how: "step" | "straight" | "curved", at: Seconds, value: number]
  | readonly [how: "toward", at: Seconds, value: number, tau: Seconds];

/** A value over the time of a note. A number stands still. */
export type Curve = number | readonly Corner[];

/** Draws near to a value from another with a time constant, on wish a little later. */
export const drawn = (from: number, to: number, tau: Seconds, after: Seconds = 0): Curve => [
  ["step", 0, from],
  ["toward", after, to, tau],
];

/** Rises to a level in a time, and draws near to another with a time constant. */
export const struck = (attack: Seconds, loud: number, holds: number, tau: Seconds): Curve => [
  ["step", 0, 0],
  ["straight", attack, loud],
  ["toward", attack, holds, tau],
];

type Segment = "still" | "straight" | "curved" | "toward";

interface Stretch {
  shape: Segment;
  from: Seconds;
  to: Seconds;
  /** Value at `from`, and the one it leads to. */
  low: number;
  high: number;
  tau: Seconds;
}

const still = (from: Seconds, value: number): Stretch => ({
  shape: "still",
  from,
  to: Infinity,
  low: value,
  high: value,
  tau: 1,
});

/** A line being followed, forward in time. Times are seconds after the note's beginning. */
export class CurveReader {
  private stretches: Stretch[];
  private now = 0;

  constructor(line: Curve) {
    this.stretches = [still(-Infinity, typeof line === "number" ? line : 0)];
    if (typeof line === "number") return;
    for (const [how, at, value, tau = 1] of line) {
      const last = this.stretches.at(-1)!;
      if (how === "step") this.stretches.push(still(at, value));
      else if (how === "toward") {
        const low = valueOf(last, at);
        this.stretches.push({ shape: "toward", from: at, to: Infinity, low, high: value, tau });
      } else {
        const { from, low } = last;
        this.stretches[this.stretches.length - 1] = {
          shape: how,
          from,
          to: at,
          low,
          high: value,
          tau: 1,
        };
        this.stretches.push(still(at, value));
      }
    }
  }

  /** Whether nothing of it moves from now on. */
  get stands(): boolean {
    return this.now === this.stretches.length - 1 && this.stretches[this.now]!.shape === "still";
  }

  /** The value at a time, not before one asked for already. */
  at(time: Seconds): number {
    this.go(time);
    return valueOf(this.stretches[this.now]!, time);
  }

  /** Writes the values of samples `[from, to)`, the first of all of which is at a time. */
  fill(out: Float32Array, from: number, to: number, time: Seconds, step: Seconds): void {
    let i = from;
    while (i < to) {
      const at = time + i * step;
      this.go(at);
      const stretch = this.stretches[this.now]!;
      const next = this.stretches[this.now + 1]?.from ?? Infinity;
      const end =
        next === Infinity ? to : Math.min(to, Math.max(i + 1, ceil((next - time) / step)));
      fillFrom(stretch, out, i, end, at, step);
      i = end;
    }
  }

  /** From a time on it falls to nothing from where it is, whatever was to come. */
  letGo(at: Seconds, tau: Seconds): void {
    const low = this.at(at);
    this.stretches = [{ shape: "toward", from: at, to: Infinity, low, high: 0, tau }];
    this.now = 0;
  }

  private go(time: Seconds): void {
    while (this.now + 1 < this.stretches.length && this.stretches[this.now + 1]!.from <= time)
      this.now++;
  }
}

/** The next whole number, were it not for what rounding adds. */
const ceil = (x: number) => Math.ceil(x - 1e-9);

function valueOf({ shape, from, to, low, high, tau }: Stretch, time: Seconds): number {
  if (shape === "still") return high;
  if (shape === "toward") return high + (low - high) * Math.exp(-Math.max(0, time - from) / tau);
  if (time >= to || to <= from) return high;
  const share = Math.max(0, time - from) / (to - from);
  return shape === "straight" ? low + (high - low) * share : low * (high / low) ** share;
}

/** By what each sample differs from the one before: adding or multiplying is all that is done for each. */
function fillFrom(
  stretch: Stretch,
  out: Float32Array,
  from: number,
  to: number,
  time: Seconds,
  step: Seconds,
): void {
  let value = valueOf(stretch, time);
  const { shape, high, low, tau } = stretch;
  if (shape === "still") {
    out.fill(value, from, to);
    return;
  }
  if (shape === "straight") {
    const more = ((high - low) * step) / (stretch.to - stretch.from);
    for (let i = from; i < to; i++, value += more) out[i] = value;
    return;
  }
  if (shape === "curved") {
    const times = (high / low) ** (step / (stretch.to - stretch.from));
    for (let i = from; i < to; i++, value *= times) out[i] = value;
    return;
  }
  const times = Math.exp(-step / tau);
  let off = value - high;
  for (let i = from; i < to; i++, off *= times) out[i] = high + off;
}
