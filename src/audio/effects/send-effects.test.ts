import { describe, expect, it } from "vitest";
import { tempoTable } from "@/core/time";
import { PLAIN_SEND_EFFECTS, sendEffectTime } from "@/core/sound";
import { burst } from "./burst";

const RATE = 44_100;
const room = (change: Partial<Parameters<typeof burst>[0]> = {}) => ({
  rate: RATE,
  decay: 1800,
  size: 40,
  ...change,
});
const power = (side: Float32Array) => side.reduce((sum, x) => sum + x * x, 0);

describe("what a room answers at first", () => {
  it("has the same power whatever the room, and is another sound on either side", () => {
    for (const decay of [100, 1800, 9000]) {
      for (const size of [0, 40, 100]) {
        const [left, right] = burst(room({ decay, size }));
        expect(power(left)).toBeCloseTo(1, 3);
        expect(power(right)).toBeCloseTo(1, 3);
        let together = 0;
        for (let i = 0; i < left.length; i++) together += left[i]! * right[i]!;
        expect(Math.abs(together)).toBeLessThan(0.35);
      }
    }
  });

  it("comes later the larger it is, falls as the room does, and is the same for the same room", () => {
    const half = (size: number, decay = 2000) => {
      const [left] = burst(room({ size, decay }));
      let sum = 0;
      return left.findIndex((x) => (sum += x * x) > 0.5) / RATE;
    };
    expect(half(100)).toBeGreaterThan(1.8 * half(0));
    expect(half(40, 150)).toBeLessThan(0.9 * half(40, 4000));
    expect(burst(room())).toEqual(burst(room()));
  });
});

describe("times of the room", () => {
  it("are a note value at the tempo where they have one, else ms", () => {
    const dotted = tempoTable(97).find((row) => row.name === "1/8.")!;
    expect(sendEffectTime(undefined, "echoTime", 97)).toBe(dotted.ms);
    expect(sendEffectTime({ echoValue: "" }, "echoTime", 97)).toBe(PLAIN_SEND_EFFECTS.echoTime);
    expect(sendEffectTime({ echoValue: "", echoTime: 123 }, "echoTime", 97)).toBe(123);
    expect(sendEffectTime({ decayValue: "1/1" }, "decay", 120)).toBeCloseTo(2000, 6);
  });

  it("stay within their range where a note value is too long or too short", () => {
    expect(sendEffectTime({ echoValue: "1/1." }, "echoTime", 20)).toBe(4000);
    expect(sendEffectTime({ decayValue: "1/128" }, "decay", 400)).toBe(100);
  });
});
