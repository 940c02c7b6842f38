import { describe, expect, it } from "vitest";
import { kWeighting, loudness } from "./loudness";

const sine = (hz: number, peak: number, seconds: number, rate = 48_000) =>
  Float32Array.from(
    { length: seconds * rate },
    (_, i) => peak * Math.sin((2 * Math.PI * hz * i) / rate),
  );
const db = (level: number) => 10 ** (level / 20);

describe("loudness", () => {
  it("weights as ITU-R BS.1770-4, Annex 1, Tables 1 and 2 say, at 48 kHz (printed values from memory)", () => {
    const [shelf, high] = kWeighting(48_000);
    const printed = [1.53512485958697, -2.69169618940638, 1.19839281085285];
    shelf.b.forEach((b, i) => expect(b).toBeCloseTo(printed[i]!, 8));
    expect(shelf.a[0]).toBeCloseTo(-1.69065929318241, 8);
    expect(shelf.a[1]).toBeCloseTo(0.73248077421585, 8);
    expect(high.a[0]).toBeCloseTo(-1.99004745483398, 8);
    expect(high.a[1]).toBeCloseTo(0.99007225036621, 8);
  });

  it("of a sine of 997 Hz at full scale in one channel is −3.01 LUFS, at any rate (BS.1770-4)", () => {
    for (const rate of [44_100, 48_000, 96_000]) {
      expect(loudness([sine(997, 1, 3, rate)], rate)).toBeCloseTo(-3.01, 1);
    }
    expect(loudness([sine(997, 1, 3), sine(997, 1, 3)], 48_000)).toBeCloseTo(0, 1);
  });

  it("of 1 kHz in both channels at −23 dBFS is −23 LUFS, and gates what is far quieter (EBU Tech 3341, cases 1 and 3)", () => {
    const tone = (level: number, seconds: number) => sine(1000, db(level), seconds);
    const of = (...parts: Float32Array[]) => {
      const all = Float32Array.from(parts.flatMap((p) => [...p]));
      return loudness([all, all], 48_000);
    };
    // A meter may be a tenth off (EBU Tech 3341).
    expect(Math.abs(of(tone(-23, 4)) + 23)).toBeLessThan(0.1);
    expect(Math.abs(of(tone(-36, 2), tone(-23, 12), tone(-36, 2)) + 23)).toBeLessThan(0.1);
  });

  it("of silence, and of what is shorter than a block, is none", () => {
    expect(loudness([new Float32Array(48_000)], 48_000)).toBe(-Infinity);
    expect(loudness([sine(997, 1, 0.3)], 48_000)).toBe(-Infinity);
  });
});
