import { describe, expect, it } from "vitest";
import { PLAIN_ROOM, roomTime, tempoTable } from "@/core";
import { reverberationTime } from "../listen.test-helper";
import { impulse } from "./impulse";

const RATE = 44_100;
const room = (change: Partial<Parameters<typeof impulse>[0]> = {}) => ({
  rate: RATE,
  decay: 1800,
  size: 40,
  tone: 6000,
  ...change,
});

describe("the answer of a room", () => {
  it("falls by 60 dB in the time asked for, of whatever size and tone", () => {
    // Reverberation time from the decay between −5 and −35 dB of Schroeder's backward integral (ISO 3382-1).
    for (const decay of [100, 300, 800, 1800, 4000, 9000]) {
      for (const [size, tone] of [
        [0, 16_000],
        [40, 6000],
        [100, 500],
      ] as const) {
        for (const side of impulse(room({ decay, size, tone }))) {
          const asked = decay / 1000;
          // A large room answers later than a very short decay is over.
          if (asked < 0.3 && size > 50) continue;
          expect(
            Math.abs(reverberationTime(side, RATE) / asked - 1),
            `${decay} ${size}`,
          ).toBeLessThan(0.1);
        }
      }
    }
  });

  it("has the same power, however long it is, and is another sound on either side", () => {
    for (const decay of [300, 1800, 9000]) {
      const [left, right] = impulse(room({ decay }));
      const power = (side: Float32Array) => side.reduce((sum, x) => sum + x * x, 0);
      expect(power(left)).toBeCloseTo(1, 3);
      expect(power(right)).toBeCloseTo(1, 3);
      let together = 0;
      for (let i = 0; i < left.length; i++) together += left[i]! * right[i]!;
      expect(Math.abs(together)).toBeLessThan(0.2);
    }
  });

  it("answers later the larger it is, and is darker with a lower tone", () => {
    const first = (size: number) => {
      const [left] = impulse(room({ size, decay: 2000 }));
      let power = 0;
      return left.findIndex((x) => (power += x * x) > 0.05) / RATE;
    };
    expect(first(100)).toBeGreaterThan(2 * first(0));
    const edge = (tone: number) => {
      const [left] = impulse(room({ tone }));
      let steps = 0;
      for (let i = 1; i < left.length; i++) steps += (left[i]! - left[i - 1]!) ** 2;
      return steps;
    };
    expect(edge(1000)).toBeLessThan(0.3 * edge(8000));
  });

  it("is the same for the same room", () => {
    expect(impulse(room())).toEqual(impulse(room()));
  });
});

describe("times of the room", () => {
  it("are a note value at the tempo where they have one, else ms", () => {
    const dotted = tempoTable(97).find((row) => row.name === "1/8.")!;
    expect(roomTime(undefined, "echoTime", 97)).toBe(dotted.ms);
    expect(roomTime({ echoValue: "" }, "echoTime", 97)).toBe(PLAIN_ROOM.echoTime);
    expect(roomTime({ echoValue: "", echoTime: 123 }, "echoTime", 97)).toBe(123);
    expect(roomTime({ decayValue: "1/1" }, "decay", 120)).toBeCloseTo(2000, 6);
  });

  it("stay within their range where a note value is too long or too short", () => {
    expect(roomTime({ echoValue: "1/1." }, "echoTime", 20)).toBe(4000);
    expect(roomTime({ decayValue: "1/128" }, "decay", 400)).toBe(100);
  });
});
