import { describe, expect, it } from "vitest";
import { numberReader } from "./typed-number";

const frequency = (hz: number) => (hz >= 1000 ? `${(hz / 1000).toFixed(1)} kHz` : `${hz} Hz`);

describe("numbers read as a field shows them", () => {
  it.each<[string, (value: number) => string, number[], string, number | null]>([
    ["plain", String, [1, 127], "64", 64],
    ["with a comma", (v) => `${v} ms`, [0, 500], "12,5", 12.5],
    ["with its unit", (v) => `${v} ms`, [0, 500], "300 ms", 300],
    ["in seconds", (v) => `${v} ms`, [0, 500], "0.3s", 300],
    ["of another unit", (v) => `${v} %`, [0, 100], "300 ms", null],
    ["of two units", frequency, [20, 20000], "1.2 kHz", 1200],
    ["of two units", frequency, [20, 20000], "440 Hz", 440],
    ["of shares shown in hundredths", (v) => `${Math.round(v * 100)} %`, [0, 0.33, 1], "50 %", 0.5],
    ["below nothing", (v) => `${v.toFixed(1)} dB`, [-60, 6], "-12 dB", -12],
    ["of one step", (v) => `${v} ${v === 1 ? "step" : "steps"}`, [1, 64], "1 step", 1],
    ["and words", String, [1, 127], "loud", null],
    ["and a number in words", String, [1, 127], "about 12", null],
  ])("%s", (_, format, examples, text, value) => {
    expect(numberReader(format, examples)(text)).toBe(value);
  });
});
