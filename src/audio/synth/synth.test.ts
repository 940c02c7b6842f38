import FFT from "fft.js";
import { describe, expect, it } from "vitest";
import { pitchHz } from "@/core/pitch";
import { PLAIN_SOUND } from "@/core/sound";
import { DESIGNS } from "../melodic/designs";
import { planOf } from "../melodic/layered";
import { CurveReader, type Curve } from "./curve-reader";
import { MovingFilter } from "./filter";
import type { VoicePlan } from "./plan";
import { Voices } from "./voices";
import { tablesOf, type WaveShape } from "./waves";

const RATE = 44_100;
const N = 32_768;

/** Both sides of what voices make in so many seconds. */
function made(voices: Voices, seconds: number): [Float32Array, Float32Array] {
  const blocks = Math.ceil((seconds * RATE) / 128);
  const sides = [0, 1].map(() => new Float32Array(blocks * 128)) as [Float32Array, Float32Array];
  for (let k = 0; k < blocks; k++) {
    const [left, right] = sides.map((side) => side.subarray(128 * k, 128 * (k + 1)));
    voices.run(left!, right!, 128 * k);
  }
  return sides;
}

const begin = (plan: VoicePlan, more: object = {}) =>
  ({ type: "begin", id: 1, time: 0, pan: 0, held: false, plan, ...more }) as const;

/** One note of a plan. */
function note(plan: VoicePlan, seconds = 1, more: object = {}) {
  const voices = new Voices(RATE);
  voices.take(begin(plan, more));
  return made(voices, seconds)[0];
}

const wave = (shape: WaveShape, hz: Curve, level: Curve = 1): VoicePlan => ({
  waves: [{ shape, hz, level }],
  level: 1,
});

const hann = (i: number) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / N);

/** Strength of one frequency, in a window of Hann. */
function strength(samples: Float32Array, hz: number): number {
  let [re, im] = [0, 0];
  for (let i = 0; i < N; i++) {
    const angle = (2 * Math.PI * hz * i) / RATE;
    re += samples[i]! * hann(i) * Math.cos(angle);
    im += samples[i]! * hann(i) * Math.sin(angle);
  }
  return (4 * Math.hypot(re, im)) / N;
}

/** Strengths of all frequencies up to half of the rate, `RATE / N` apart. */
function spectrum(samples: Float32Array): Float64Array {
  const fft = new FFT(N);
  const out = fft.createComplexArray();
  fft.realTransform(
    out,
    Array.from({ length: N }, (_, i) => samples[i]! * hann(i)),
  );
  return Float64Array.from(
    { length: N / 2 },
    (_, k) => (4 * Math.hypot(out[2 * k]!, out[2 * k + 1]!)) / N,
  );
}

const db = (x: number) => 20 * Math.log10(Math.max(x, 1e-12));

/** Frequency by the zero crossings of a stretch, between samples. */
function crossings(samples: Float32Array, from: number, to: number): number {
  const at: number[] = [];
  for (let i = Math.ceil(from); i < to; i++) {
    const [a, b] = [samples[i - 1]!, samples[i]!];
    if (a < 0 && b >= 0) at.push(i - 1 + a / (a - b));
  }
  return ((at.length - 1) * RATE) / (at.at(-1)! - at[0]!);
}

describe("a line", () => {
  it("steps, goes straight, bends, and draws near, as the automation of the Web Audio specification does", () => {
    const line = new CurveReader([
      ["step", 0, 0],
      ["straight", 0.5, 2],
      ["toward", 0.5, 1, 0.25],
      ["step", 2, 4],
      ["curved", 3, 16],
    ]);
    expect(line.at(-1)).toBe(0);
    expect(line.at(0.25)).toBeCloseTo(1, 9);
    expect(line.at(0.5)).toBeCloseTo(2, 9);
    expect(line.at(0.75)).toBeCloseTo(1 + Math.exp(-1), 9);
    expect(line.at(2)).toBe(4);
    expect(line.at(2.5)).toBeCloseTo(8, 9);
    expect(line.stands).toBe(false);
    expect(line.at(4)).toBe(16);
    expect(line.stands).toBe(true);
  });

  it("fills samples with what it is at their times, over all corners, however they lie in a block", () => {
    const corners: Curve = [
      ["step", 0.0003, 0.2],
      ["straight", 0.00131, 1],
      ["toward", 0.00131, 0.3, 0.0007],
      ["step", 0.0021, 0.1],
      ["curved", 0.0025, 0.8],
    ];
    for (const zero of [0, -0.0004, 0.00012345]) {
      const out = new Float32Array(128);
      new CurveReader(corners).fill(out, 0, 128, zero, 1 / RATE);
      const sought = new CurveReader(corners);
      for (let i = 0; i < 128; i++) expect(out[i]).toBeCloseTo(sought.at(zero + i / RATE), 5);
    }
  });

  it("falls from where it is when it is let go, also in the middle of its rise", () => {
    const line = new CurveReader([
      ["step", 0, 0],
      ["straight", 1, 1],
    ]);
    line.letGo(0.4, 0.1);
    expect(line.at(0.4)).toBeCloseTo(0.4, 9);
    expect(line.at(0.5)).toBeCloseTo(0.4 * Math.exp(-1), 9);
  });
});

describe("waves", () => {
  it("have the harmonics of their shape: Fourier's series of each (common knowledge of the trade)", () => {
    const hz = 220;
    const of = (shape: WaveShape) => {
      const sound = note(wave(shape, hz));
      return (k: number) => strength(sound, k * hz) / strength(sound, hz);
    };
    const [saw, square, triangle] = (["sawtooth", "square", "triangle"] as const).map(of);
    for (const k of [2, 3, 5, 8]) expect(saw!(k)).toBeCloseTo(1 / k, 2);
    for (const k of [3, 5, 9]) expect(square!(k)).toBeCloseTo(1 / k, 2);
    for (const k of [3, 5]) expect(triangle!(k)).toBeCloseTo(1 / k ** 2, 2);
    for (const k of [2, 4]) expect(square!(k)).toBeLessThan(1e-3);
    const own = of([1, 0, 0.5]);
    expect(own(3)).toBeCloseTo(0.5, 2);
    expect(own(2)).toBeLessThan(1e-3);
  });

  it("reach one, and fold nothing down: what is no harmonic of a high saw lies 70 dB below it", () => {
    let peak = 0;
    for (const x of tablesOf("sawtooth").at(30, RATE)) peak = Math.max(peak, Math.abs(x));
    expect(peak).toBeCloseTo(1, 2);
    for (const hz of [1046.5, 2637.02, 4186.01]) {
      const sound = note(wave("sawtooth", hz));
      const top = strength(sound, hz);
      let worst = 0;
      spectrum(sound).forEach((x, k) => {
        const at = (k * RATE) / N;
        const off = Math.abs(at - hz * Math.round(at / hz));
        if (off > 20 && at > 30) worst = Math.max(worst, x);
      });
      expect(db(worst / top), String(hz)).toBeLessThan(-70);
    }
  });

  it("are at their pitch to a thousandth of a semitone from the lowest to the highest note", () => {
    for (const pitch of [21, 45, 69, 96, 108]) {
      const sound = note(wave("sine", pitchHz(pitch)), 2);
      const cents = 1200 * Math.log2(crossings(sound, 100, sound.length) / pitchHz(pitch));
      expect(Math.abs(cents), String(pitch)).toBeLessThan(0.1);
    }
  });

  it("slide to where they are led, and are bent with all others", () => {
    const slid = note(
      wave("sine", [
        ["step", 0, 220],
        ["curved", 0.3, 330],
      ]),
    );
    expect(crossings(slid, 0.5 * RATE, RATE)).toBeCloseTo(330, 1);
    const middle = crossings(slid, 0.14 * RATE, 0.16 * RATE);
    expect(middle).toBeGreaterThan(264);
    expect(middle).toBeLessThan(275);
    const voices = new Voices(RATE);
    voices.take(begin(wave("sine", 220)));
    voices.take({ type: "bend", by: 2 });
    expect(crossings(made(voices, 1)[0], 0.3 * RATE, RATE)).toBeCloseTo(220 * 2 ** (2 / 12), 1);
  });

  it("bent by a sine have the sidebands of frequency modulation (Bessel functions; J. Chowning, JAES 21(7), 1973)", () => {
    // Index 1: 0.765, 0.440 and 0.115 (handbook values of J0, J1, J2).
    const plan: VoicePlan = {
      waves: [{ shape: "sine", hz: 2000, level: 1, fm: { hz: 300, depth: 300 } }],
      level: 1,
    };
    const sound = note(plan);
    expect(strength(sound, 2000)).toBeCloseTo(0.765, 2);
    expect(strength(sound, 2300)).toBeCloseTo(0.44, 2);
    expect(strength(sound, 1700)).toBeCloseTo(0.44, 2);
    expect(strength(sound, 2600)).toBeCloseTo(0.115, 2);
  });
});

describe("a moving filter", () => {
  it("has its corner where the cookbook has it: 3 dB down without resonance, its Q at the corner with it", () => {
    const gain = (kind: "lowpass" | "bandpass", q: number, corner: number, hz: number) => {
      const filter = new MovingFilter(kind, q, RATE);
      filter.set(corner);
      const sine = Float32Array.from({ length: RATE }, (_, i) =>
        Math.sin((2 * Math.PI * hz * i) / RATE),
      );
      const out = new Float32Array(RATE);
      filter.run(sine, out, 0, RATE);
      let peak = 0;
      for (let i = RATE / 2; i < RATE; i++) peak = Math.max(peak, Math.abs(out[i]!));
      return db(peak);
    };
    expect(gain("lowpass", 20 * Math.log10(Math.SQRT1_2), 1000, 1000)).toBeCloseTo(-3.01, 1);
    expect(gain("lowpass", 9, 1000, 1000)).toBeCloseTo(9, 1);
    expect(gain("lowpass", 0, 1000, 20)).toBeCloseTo(0, 1);
    expect(gain("lowpass", 0, 1000, 8000)).toBeLessThan(-34);
    expect(gain("bandpass", 4, 1000, 1000)).toBeCloseTo(0, 1);
    // Half a bandwidth off, 3 dB down: 1000/4 Hz wide.
    expect(gain("bandpass", 4, 1000, 1000 * (Math.sqrt(1 + 1 / 64) + 1 / 8))).toBeCloseTo(-3, 0);
  });
});

describe("a voice", () => {
  const plan = wave("sine", 441);

  it("begins on its sample, before which all is silent, and is let go of from its time on", () => {
    const voices = new Voices(RATE);
    voices.take(begin({ ...plan, level: 0.5 }, { time: 1000 / RATE }));
    voices.take({ type: "fade", id: 1, at: 0.5, tau: 0.05, over: 0.9 });
    const [left] = made(voices, 1);
    expect(left.findIndex((x) => x !== 0)).toBe(1001);
    const peak = (from: number) =>
      left.subarray(from * RATE, (from + 0.01) * RATE).reduce((top, x) => Math.max(top, x), 0);
    expect(peak(0.48)).toBeCloseTo(0.5, 2);
    expect(peak(0.55) / peak(0.48)).toBeCloseTo(Math.exp(-1), 1);
    expect(left.subarray(Math.ceil(0.9 * RATE)).every((x) => x === 0)).toBe(true);
    expect(voices.sounding).toBe(0);
  });

  it("asked for too late begins with the next block, from its own beginning", () => {
    const voices = new Voices(RATE);
    made(voices, 0.1);
    const frame = Math.ceil((0.1 * RATE) / 128) * 128;
    voices.take(begin(plan, { time: 0.02 }));
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    voices.run(left, right, frame);
    expect(left[0]).toBe(0);
    expect(left[1]).toBeCloseTo(Math.sin((2 * Math.PI * 441) / RATE), 4);
  });

  it("lies where it is put, of one power, and in the middle as it is", () => {
    const at = (pan: number) => {
      const voices = new Voices(RATE);
      voices.take(begin(plan, { pan }));
      const [left, right] = made(voices, 0.1);
      const power = (side: Float32Array) => side.reduce((sum, x) => sum + x * x, 0);
      return [power(left), power(right)] as const;
    };
    const [whole] = at(0);
    expect(at(0)[1]).toBe(whole);
    for (const pan of [-1, -0.4, 0.7]) expect((at(pan)[0] + at(pan)[1]) / whole).toBeCloseTo(1, 4);
    expect(at(-1)[1] / whole).toBeLessThan(1e-9);
  });

  it("in the middle is shaped as it is elsewhere: one beside it that is silent changes nothing", () => {
    const of = (pan: number) => {
      const voices = new Voices(RATE);
      voices.take({
        type: "patch",
        values: { brightness: 40, body: 30, motion: 50, drive: 30, width: 60 },
      });
      voices.take(begin(plan));
      voices.take(begin({ ...plan, level: 0 }, { id: 2, pan, time: 0.1 }));
      voices.take({ type: "fade", id: 2, at: 0.2, tau: 0.01, over: 0.3 });
      return made(voices, 0.5);
    };
    of(0).forEach((side, i) => expect(side).toEqual(of(0.5)[i]));
  });

  it("gives way to silence but for what a hand holds", () => {
    const voices = new Voices(RATE);
    voices.take(begin(plan));
    voices.take(begin(plan, { id: 2, held: true }));
    voices.take(begin(plan, { id: 3, time: 0.5 }));
    made(voices, 0.1);
    voices.take({ type: "silence", at: 0, spareHeld: true });
    const block = () => voices.run(new Float32Array(128), new Float32Array(128), frame);
    let frame = Math.ceil((0.1 * RATE) / 128) * 128;
    for (; frame < 0.2 * RATE; frame += 128) block();
    expect(voices.sounding).toBe(1);
    voices.take({ type: "silence", at: 0, spareHeld: false });
    for (; frame < 0.3 * RATE; frame += 128) block();
    expect(voices.sounding).toBe(0);
  });

  it("plays a recording that was handed over once, at its speed when bent", () => {
    const voices = new Voices(RATE);
    const samples = Float32Array.from({ length: 1000 }, (_, i) => i / 1000);
    voices.take({ type: "sample", name: "rope", samples });
    voices.take(begin({ waves: [], sample: "rope", level: 1 }));
    voices.take(begin({ waves: [], sample: "unknown", level: 1 }, { id: 2 }));
    const [left] = made(voices, 0.1);
    expect(left[500]).toBeCloseTo(0.5, 6);
    expect(left[1001]).toBe(0);
    expect(voices.sounding).toBe(0);
  });

  it("of every design is finite, not beyond full level, and falls silent when it is over", () => {
    for (const { id, design } of DESIGNS) {
      for (const pitch of [0, 36, 60, 96, 127]) {
        const strike = { time: 0, pitch, velocity: 127, pan: 0, tune: 0, shape: PLAIN_SOUND };
        const voices = new Voices(RATE);
        voices.take(begin(planOf(design, strike)));
        voices.take({ type: "fade", id: 1, at: 0.2, tau: 0.02, over: 0.4 });
        const [left] = made(voices, 0.5);
        let peak = 0;
        for (const x of left) peak = Math.max(peak, Math.abs(x));
        expect(Number.isFinite(peak), `${id} ${pitch}`).toBe(true);
        expect(peak, `${id} ${pitch}`).toBeLessThan(1.5);
        expect(left.subarray(0.41 * RATE).every((x) => x === 0)).toBe(true);
      }
    }
  });

  it("is the same whether it is made from the beginning or from the middle of what is played", () => {
    const { design } = DESIGNS.find(({ id }) => id === "sail-strings")!;
    const strike = { time: 0, pitch: 60, velocity: 90, pan: 0, tune: 0, shape: PLAIN_SOUND };
    const plan = planOf(design, strike);
    const whole = new Voices(RATE);
    whole.take(begin(plan, { time: (128 * 400) / RATE }));
    const [long] = made(whole, 2);
    const later = new Voices(RATE, (128 * 300) / RATE);
    later.take(begin(plan, { time: (128 * 100) / RATE }));
    const [short] = made(later, 1);
    for (let i = 0; i < short.length; i += 97)
      expect(short[i]).toBeCloseTo(long[i + 128 * 300]!, 4);
  });
});
