import { type Hertz, nth } from "../base";
import { gatedLoudness, kWeighting, type Lufs } from "./loudness";

/** Blocks of 400 ms overlap by three quarters: they are summed up in steps of a quarter. */
const STEP = 0.1;
const STEPS = 4;

/** The state of one filter of two poles. */
interface Stage {
  b: readonly [number, number, number];
  a: readonly [number, number];
  x1: number;
  x2: number;
  y1: number;
  y2: number;
}

/** Measures sound that comes piece by piece: its highest sample, and its loudness as `loudness` does. */
export class LoudnessRun {
  /** The largest size of a sample. */
  peak = 0;
  private readonly stages: Stage[][];
  private readonly step: number;
  private inStep = 0;
  private power = 0;
  private readonly steps: number[] = [];

  constructor(channels: number, rate: Hertz) {
    this.step = Math.round(STEP * rate);
    this.stages = Array.from({ length: channels }, () =>
      kWeighting(rate).map(({ b, a }) => ({ b, a, x1: 0, x2: 0, y1: 0, y2: 0 })),
    );
  }

  /** Takes the next samples, as many of each channel. */
  add(channels: readonly Float32Array[]): void {
    const frames = channels[0]?.length ?? 0;
    for (let i = 0; i < frames; i++) {
      for (let c = 0; c < channels.length; c++) {
        let x = nth(channels, c)[i]!;
        const size = x < 0 ? -x : x;
        if (size > this.peak) this.peak = size;
        for (const stage of nth(this.stages, c)) {
          const { b, a } = stage;
          const y =
            b[0] * x + b[1] * stage.x1 + b[2] * stage.x2 - a[0] * stage.y1 - a[1] * stage.y2;
          stage.x2 = stage.x1;
          stage.x1 = x;
          stage.y2 = stage.y1;
          stage.y1 = y;
          x = y;
        }
        this.power += x * x;
      }
      if (++this.inStep === this.step) {
        this.steps.push(this.power / this.step);
        this.inStep = 0;
        this.power = 0;
      }
    }
  }

  /** Integrated loudness of all so far; −Infinity for silence and for less than a block. */
  get loudness(): Lufs {
    const powers: number[] = [];
    for (let i = STEPS; i <= this.steps.length; i++) {
      let sum = 0;
      for (let k = i - STEPS; k < i; k++) sum += nth(this.steps, k);
      powers.push(sum / STEPS);
    }
    return gatedLoudness(powers);
  }
}
