import { describe, expect, it } from "vitest";
import { seeded } from "../base";
import { tappedTempo } from "./tap-tempo";

/** Beats at a tempo, with normal noise of so many ms. */
function taps(bpm: number, count: number, jitter = 0, seed = 1): number[] {
  const random = seeded(seed);
  const normal = () =>
    Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random()) * jitter;
  return Array.from({ length: count }, (_, i) => 1000 + (i * 60_000) / bpm + normal());
}
/** Share of seeds within so many per cent of the tempo. */
function within(percent: number, make: (seed: number) => [number, number[]]): number {
  const seeds = Array.from({ length: 1000 }, (_, i) => i + 1);
  const good = seeds.filter((seed) => {
    const [bpm, times] = make(seed);
    return Math.abs(tappedTempo(times)!.bpm / bpm - 1) <= percent / 100;
  });
  return good.length / seeds.length;
}
const anyTempo = (seed: number) => 60 + ((seed * 37) % 120);

describe("tapped tempo", () => {
  it("is there from the second tap on, and exact for exact taps", () => {
    expect(tappedTempo([])).toBeNull();
    expect(tappedTempo([5])).toBeNull();
    expect(tappedTempo([5, 5])).toBeNull();
    for (let bpm = 20; bpm <= 400; bpm++) {
      expect(tappedTempo(taps(bpm, 2))).toEqual({ bpm, taps: 2 });
      expect(tappedTempo(taps(bpm, 40))).toEqual({ bpm, taps: 24 });
    }
  });

  it("stays within what a project may have", () => {
    expect(tappedTempo([0, 10_000])!.bpm).toBe(20);
    expect(tappedTempo([0, 10])!.bpm).toBe(400);
  });

  it("averages the unevenness of hands: eight taps of 15 ms within 2 %", () => {
    expect(
      within(2, (seed) => [anyTempo(seed), taps(anyTempo(seed), 8, 15, seed)]),
    ).toBeGreaterThan(0.97);
  });

  it("is not wrecked by one tap left out, one too many, or one far off", () => {
    const spoiled: Record<string, (times: number[], at: number) => number[]> = {
      "left out": (times, at) => times.filter((_, i) => i !== at),
      "too many": (times, at) =>
        [...times, (times[at]! + times[at - 1]!) / 2].sort((a, b) => a - b),
      "far off": (times, at) =>
        times.map((time, i) => (i === at ? time + 0.45 * (times[1]! - times[0]!) : time)),
    };
    for (const [what, spoil] of Object.entries(spoiled)) {
      const share = within(2, (seed) => {
        const bpm = anyTempo(seed);
        return [bpm, spoil(taps(bpm, 10, 8, seed), 2 + (seed % 7))];
      });
      expect(share, what).toBeGreaterThan(0.97);
    }
  });

  it("follows a hand that went on to another tempo", () => {
    const slow = taps(80, 12);
    const from = slow.at(-1)!;
    const fast = taps(120, 30).map((time) => time - 1000 + from + 500);
    expect(tappedTempo([...slow, ...fast])!.bpm).toBe(120);
  });
});
