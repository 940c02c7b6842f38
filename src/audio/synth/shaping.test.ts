import { describe, expect, it } from "vitest";
import { seeded } from "@/core/base";
import { Bends } from "./bends";
import { PatchSound } from "./patch-sound";
import { compression } from "./compressor";
import { Echoes, type EchoValues } from "./echoes";
import { InsertSound } from "./insert-sound";
import { Lines, lineLengths } from "./feedback-delays";
import { ShelfPair } from "./shelf";

const RATE = 44_100;
const db = (x: number) => 20 * Math.log10(Math.max(x, 1e-12));

type Sides = [Float32Array, Float32Array];

/** Runs blocks of what a function gives through something. */
function through(
  seconds: number,
  of: (i: number) => number,
  run: (left: Float32Array, right: Float32Array, frame: number) => void,
): Sides {
  const blocks = Math.ceil((seconds * RATE) / 128);
  const sides = [0, 1].map(() =>
    Float32Array.from({ length: blocks * 128 }, (_, i) => of(i)),
  ) as Sides;
  for (let k = 0; k < blocks; k++) {
    const [left, right] = sides.map((side) => side.subarray(128 * k, 128 * (k + 1)));
    run(left!, right!, 128 * k);
  }
  return sides;
}

const sine =
  (hz: number, level = 1) =>
  (i: number) =>
    level * Math.sin((2 * Math.PI * hz * i) / RATE);
const peak = (side: Float32Array, from = 0.5, to = 1) =>
  side.subarray(from * RATE, to * RATE).reduce((top, x) => Math.max(top, Math.abs(x)), 0);

describe("shelves", () => {
  it("lift and lower what is beyond them by what is asked, and half of it in dB where they turn", () => {
    const gain = (hz: number, low: number, high: number) => {
      const pair = new ShelfPair({ low: 160, high: 4200 }, RATE);
      return db(peak(through(1, sine(hz), (l, r) => pair.run(l, r, [low, low], [high, high]))[1]));
    };
    expect(gain(20, 12, 0)).toBeCloseTo(12, 1);
    expect(gain(160, 12, 0)).toBeCloseTo(6, 1);
    expect(gain(1500, 12, 0)).toBeCloseTo(0, 0);
    expect(gain(18_000, 0, -9)).toBeCloseTo(-9, 0);
    expect(gain(4200, 0, -9)).toBeCloseTo(-4.5, 1);
    expect(gain(50, 0, -9)).toBeCloseTo(0, 1);
  });
});

describe("what a track goes through", () => {
  it("is bit by bit what came in while all is plain, also after something was not", () => {
    const random = seeded(5);
    const noise = Float32Array.from({ length: RATE }, () => random() - 0.5);
    const plain = new InsertSound(RATE);
    const [left] = through(
      0.9,
      (i) => noise[i]!,
      (l, r, f) => plain.run(l, r, f),
    );
    expect(left.every((x, i) => x === noise[i])).toBe(true);
    plain.take({ type: "set", values: { low: 6, high: -3, drive: 30, compress: 50 } });
    for (let k = 0; k < 100; k++) plain.run(new Float32Array(128), new Float32Array(128), k * 128);
    plain.take({ type: "set", values: { low: 0, high: 0, drive: 0, compress: 0 } });
    for (let k = 0; k < 400; k++) plain.run(new Float32Array(128), new Float32Array(128), k * 128);
    const [again] = through(
      0.9,
      (i) => noise[i]!,
      (l, r, f) => plain.run(l, r, f),
    );
    expect(again.every((x, i) => x === noise[i])).toBe(true);
  });

  it("is driven into more harmonics, and pressed as the curve of the compressor says", () => {
    const driven = new InsertSound(RATE);
    driven.take({ type: "set", values: { low: 0, high: 0, drive: 100, compress: 0 } });
    const [left] = through(1, sine(200, 0.9), (l, r, f) => driven.run(l, r, f));
    expect(peak(left)).toBeCloseTo(0.4, 2);

    const pressed = (level: number) => {
      const sound = new InsertSound(RATE);
      sound.take({ type: "set", values: { low: 0, high: 0, drive: 0, compress: 100 } });
      // A square has the same size throughout, which is what is followed.
      const [out] = through(
        1,
        (i) => (i % 100 < 50 ? level : -level),
        (l, r, f) => sound.run(l, r, f),
      );
      return peak(out) / level;
    };
    for (const level of [0.05, 0.2, 0.7])
      expect(db(pressed(level))).toBeCloseTo(db(compression(level)), 0);
    // 30 dB over nothing: four to one beyond the bend, so 18 dB more are 4.5 dB more.
    expect(db(compression(0.8)) - db(compression(0.1))).toBeCloseTo(-0.75 * db(8), 1);
  });

  it("is pressed softly about the bend, as the literature has it", () => {
    // The soft knee of D. Giannoulis, M. Massberg, J. Reiss, “Digital Dynamic Range Compressor Design”, J. Audio Eng. Soc.
    // 60(6), 2012, eq. 4 (from memory), with T −30 dB, R 4, W 12 dB; 9 dB are given back.
    const [threshold, ratio, width] = [-30, 4, 12];
    const known = (x: number) => {
      if (2 * (x - threshold) < -width) return x;
      if (2 * Math.abs(x - threshold) <= width)
        return x + ((1 / ratio - 1) * (x - threshold + width / 2) ** 2) / (2 * width);
      return threshold + (x - threshold) / ratio;
    };
    for (let level = -60; level <= 0; level += 0.5)
      expect(level + db(compression(10 ** (level / 20))), `${level} dB`).toBeCloseTo(
        known(level) + 9,
        9,
      );
  });

  it("is ducked by a hit at once, deeper by a harder one, and back nine tenths of the way after its release", () => {
    const level = (velocity: number, release = 230) => {
      const sound = new InsertSound(RATE);
      sound.take({ type: "duck", time: 0.1, depth: 12, release, velocity });
      return through(
        1,
        () => 1,
        (l, r, f) => sound.run(l, r, f),
      )[0];
    };
    const hard = level(127);
    const at = (side: Float32Array, time: number) => side[Math.round(time * RATE)]!;
    expect(at(hard, 0.0999)).toBe(1);
    const depth = 10 ** (-12 / 20);
    expect(at(hard, 0.1079)).toBeCloseTo(depth, 2);
    expect((at(hard, 0.108 + 0.23) - depth) / (1 - depth)).toBeCloseTo(0.9, 2);
    expect(db(at(level(64), 0.1079))).toBeCloseTo((-12 * 64) / 127, 1);
    // A hit while another is let go of begins from where that is; what was to come of it is forgotten.
    const twice = new InsertSound(RATE);
    for (const time of [0.1, 0.104])
      twice.take({ type: "duck", time, depth: 12, release: 400, velocity: 127 });
    const [both] = through(
      1,
      () => 1,
      (l, r, f) => twice.run(l, r, f),
    );
    expect(at(both, 0.1115)).toBeCloseTo(depth, 2);
    for (let i = 1; i < both.length; i++)
      expect(Math.abs(both[i]! - both[i - 1]!)).toBeLessThan(0.03);
    const stopped = new InsertSound(RATE);
    stopped.take({ type: "duck", time: 0.5, depth: 12, release: 400, velocity: 127 });
    stopped.take({ type: "rest" });
    expect(
      through(
        1,
        () => 1,
        (l, r, f) => stopped.run(l, r, f),
      )[0].every((x) => x === 1),
    ).toBe(true);
  });
});

describe("the body of a sound", () => {
  const plain = { brightness: 0, body: 0, motion: 0, drive: 0, width: 0 };
  const run = (values: Partial<typeof plain>, of = sine(300)) => {
    const body = new PatchSound(RATE, 0);
    body.set({ ...plain, ...values });
    return through(1, of, (l, r, f) => {
      body.next();
      body.run(l, r, f);
    });
  };

  it("leaves plain sound as it is, is wide with its sum as it was, and moves apart to both sides", () => {
    const [left] = run({});
    expect(left.every((x, i) => x === Math.fround(sine(300)(i)))).toBe(true);
    const wide = run({ width: 100 });
    for (let i = RATE / 2; i < RATE; i += 31)
      expect(wide[0][i]! + wide[1][i]!).toBeCloseTo(2 * sine(300)(i), 4);
    expect(Math.abs(wide[0][RATE / 2]! - wide[1][RATE / 2]!)).toBeGreaterThan(0.01);
    const moved = run({ motion: 100 }, sine(900));
    let apart = 0;
    for (let i = RATE / 2; i < RATE; i++)
      apart = Math.max(apart, Math.abs(moved[0][i]! - moved[1][i]!));
    expect(apart).toBeGreaterThan(0.3);
  });

  it("opens the filters of voices by two octaves at the most, and takes values over without a click", () => {
    const body = new PatchSound(RATE, 0);
    body.set({ ...plain, brightness: 100 });
    expect(body.next()).toEqual([2400, 2400]);
    const sound = new PatchSound(RATE, 0);
    const [left] = through(1, sine(110, 0.5), (l, r, f) => {
      if (f === 128 * 100)
        sound.set({ brightness: 60, body: -50, motion: 80, drive: 70, width: 90 });
      sound.next();
      sound.run(l, r, f);
    });
    let jump = 0;
    for (let i = 1; i < left.length; i++) jump = Math.max(jump, Math.abs(left[i]! - left[i - 1]!));
    expect(jump).toBeLessThan(0.12);
  });
});

describe("bends", () => {
  it("follow the curve to its corners and jump between stretches; the hand is added, and let go of", () => {
    const bends = new Bends(RATE);
    const at = (time: number) => bends.next(Math.round((time * RATE) / 128) * 128);
    bends.follow([
      { time: 1, by: 0, jump: true },
      { time: 2, by: 2, jump: false },
      { time: 3, by: -1, jump: true },
    ]);
    expect(at(0.5)).toBe(0);
    expect(at(1.5)).toBeCloseTo(100, 0);
    // Until the jump it stays.
    expect(at(2.5)).toBeCloseTo(200, 6);
    expect(at(3.1)).toBeCloseTo(-100, 6);
    bends.move(1);
    for (let i = 0; i < 40; i++) at(3.2);
    expect(at(3.2)).toBeCloseTo(0, 1);
    bends.rest();
    for (let i = 0; i < 40; i++) at(3.4);
    expect(at(3.4)).toBeCloseTo(100, 1);
  });
});

describe("echoes", () => {
  const heard = (values: Partial<EchoValues>, seconds = 1, later?: Partial<EchoValues>) => {
    const plain = { frames: 5000, feedback: 0.5, tone: RATE / 2, pingPong: false };
    const echoes = new Echoes(4, RATE);
    echoes.take({ type: "echo", values: { ...plain, ...values } });
    const blocks = Math.ceil((seconds * RATE) / 128);
    const sides: Sides = [new Float32Array(blocks * 128), new Float32Array(blocks * 128)];
    for (let k = 0; k < blocks; k++) {
      const click = new Float32Array(128);
      if (k === 0) click[7] = 1;
      if (later && k === 50)
        echoes.take({ type: "echo", values: { ...plain, ...values, ...later } });
      const out = sides.map((side) => side.subarray(128 * k, 128 * (k + 1))) as Sides;
      echoes.run([click, new Float32Array(128)], out);
    }
    return sides.map((side) =>
      [...side].flatMap((x, i) => (Math.abs(x) > 0.01 ? [[i, Number(x.toFixed(3))] as const] : [])),
    );
  };

  it("come back on the sample, softer each time, on their own side, however short they are", () => {
    const [left, right] = heard({});
    expect(left!.slice(0, 3)).toEqual([
      [5007, 1],
      [10_007, expect.closeTo(0.5, 2)],
      [15_007, expect.closeTo(0.25, 2)],
    ]);
    expect(right).toEqual([]);
    const [short] = heard({ frames: 60, feedback: 0.9 }, 0.02);
    expect(short!.filter(([, x]) => x > 0.5).map(([at]) => at)).toEqual([
      67, 127, 187, 247, 307, 367, 427,
    ]);
  });

  it("take turns between the sides, from the middle, beginning on the left", () => {
    const [left, right] = heard({ pingPong: true });
    expect(left!.map(([at]) => at).slice(0, 2)).toEqual([5007, 15_007]);
    expect(right!.map(([at]) => at).slice(0, 2)).toEqual([10_007, 20_007]);
    expect(left![0]![1]).toBe(0.5);
  });

  it("are duller each time, and take another time over without losing what is on its way", () => {
    const [dull] = heard({ tone: 2000 });
    const second = dull!.filter(([at]) => at > 6000 && at < 11_000);
    expect(Math.max(...second.map(([, x]) => x))).toBeLessThan(0.2);
    const [moved] = heard({}, 1, { frames: 9000 });
    const at = moved!.map(([place]) => place);
    // Sent before the change, heard at the old time or the new one.
    expect(at.filter((x) => x > 5000 && x < 9200).length).toBeGreaterThan(0);
    expect(moved!.every(([, x]) => Number.isFinite(x) && Math.abs(x) <= 1)).toBe(true);
  });
});

describe("the lines of a room", () => {
  it("fall by 60 dB in the time asked for (Schroeder's backward integration, ISO 3382: from −5 to −35 dB)", () => {
    for (const [decay, size] of [
      [0.8, 0],
      [1.8, 40],
      [4, 100],
    ] as const) {
      const lengths = lineLengths(size, RATE);
      const lines = new Lines(
        lengths,
        lengths.map((length) => 10 ** ((-3 * length) / RATE / decay)),
      );
      const blocks = Math.ceil((1.2 * decay * RATE) / 128);
      const heard = new Float64Array(blocks * 128);
      for (let k = 0; k < blocks; k++) {
        const input = new Float32Array(128);
        if (k === 0) input[0] = 1;
        const out: Sides = [new Float32Array(128), new Float32Array(128)];
        lines.run([input, input], out);
        out[0].forEach((x, i) => (heard[128 * k + i] = x * x));
      }
      for (let i = heard.length - 2; i >= 0; i--) heard[i]! += heard[i + 1]!;
      const first = (level: number) =>
        heard.findIndex((x) => 10 * Math.log10(x / heard[0]!) < level) / RATE;
      const t60 = 2 * (first(-35) - first(-5));
      expect(t60 / decay, `${decay} ${size}`).toBeGreaterThan(0.9);
      expect(t60 / decay, `${decay} ${size}`).toBeLessThan(1.1);
    }
  });

  it("give back a click first after their own lengths, less a block, each on its side", () => {
    const lengths = [300, 421, 557, 640];
    const lines = new Lines(lengths, [0.5, 0.5, 0.5, 0.5]);
    const heard: number[][] = [[], []];
    for (let k = 0; k < 5; k++) {
      const click = new Float32Array(128);
      if (k === 0) click[3] = 1;
      const out: Sides = [new Float32Array(128), new Float32Array(128)];
      lines.run([click, new Float32Array(128)], out);
      out.forEach((side, i) =>
        side.forEach((x, n) => Math.abs(x) > 0.4 && heard[i]!.push(128 * k + n)),
      );
    }
    // The click was on the left: only lines of the left had it.
    expect(heard[0]!.slice(0, 2)).toEqual([300 + 3 - 128, 557 + 3 - 128]);
  });
});
