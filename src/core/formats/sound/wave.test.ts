import { WaveFile } from "wavefile";
import { describe, expect, it } from "vitest";
import { seeded } from "../../base";
import { audioKind } from "./audio-file";
import { encodeWave, waveAround, type WaveBits, type WaveOptions } from "./wave";

const FRAMES = 1001;
const sides = [0, 1].map((side) =>
  Float32Array.from({ length: FRAMES }, (_, i) => 0.8 * Math.sin((i + 40 * side) / 17)),
);
const made = (options: Partial<WaveOptions>, channels = sides) => {
  const whole = { rate: 48_000, channels: 2, bits: 24 as WaveBits, frames: FRAMES, ...options };
  const { before, after } = waveAround(whole);
  const body = encodeWave(channels, whole.bits, seeded(1));
  return new Uint8Array([...before, ...body, ...after]);
};

describe("a WAV file", () => {
  it("is read by another program, chunk by chunk, in each format and at each rate", () => {
    for (const bits of [16, 24, 32] as const) {
      for (const rate of [44_100, 48_000, 96_000]) {
        const bytes = made({ bits, rate });
        const file = new WaveFile(bytes) as unknown as {
          fmt: Record<string, number>;
          fact: { dwSampleLength: number };
          chunkSize: number;
          data: { chunkSize: number };
          getSamples(interleaved: boolean, type: typeof Float64Array): Float64Array[];
        };
        expect(file.chunkSize).toBe(bytes.length - 8);
        expect(file.fmt).toMatchObject({
          audioFormat: bits === 32 ? 3 : 1,
          numChannels: 2,
          sampleRate: rate,
          byteRate: (rate * 2 * bits) / 8,
          blockAlign: (2 * bits) / 8,
          bitsPerSample: bits,
        });
        expect(file.data.chunkSize).toBe((FRAMES * 2 * bits) / 8);
        if (bits === 32) expect(file.fact.dwSampleLength).toBe(FRAMES);
        const scale = bits === 32 ? 1 : 2 ** (bits - 1);
        file.getSamples(false, Float64Array).forEach((samples, c) => {
          expect(samples.length).toBe(FRAMES);
          samples.forEach((value, i) => {
            // A step of rounding, and one of dither to either side.
            expect(Math.abs(value / scale - sides[c]![i]!)).toBeLessThan(
              bits === 32 ? 1e-7 : 1.5001 / scale,
            );
          });
        });
        expect(audioKind(bytes)).toBe("wav");
      }
    }
  });

  it("says who made it and how loud it is, by EBU Tech 3285, and where it loops", () => {
    const bytes = made({
      broadcast: {
        description: "Slack Water – mix",
        originator: "Hailstep",
        date: new Date(2026, 10, 26, 7, 5, 9),
        reference: 2 ** 33 + 5,
        loudness: -14.27,
      },
      loop: [0, FRAMES],
    });
    const file = new WaveFile(bytes) as unknown as {
      bext: Record<string, unknown>;
      smpl: Record<string, unknown>;
    };
    expect(file.bext).toMatchObject({
      description: expect.stringMatching(/^Slack Water  mix\0/) as string,
      originator: expect.stringMatching(/^Hailstep\0/) as string,
      originationDate: "2026-11-26",
      originationTime: "07:05:09",
      timeReference: [5, 2],
      version: 2,
      loudnessValue: -1427 & 0xffff,
    });
    expect(file.smpl).toMatchObject({
      dwSamplePeriod: 20_833,
      dwMIDIUnityNote: 60,
      dwNumSampleLoops: 1,
      loops: [expect.objectContaining({ dwStart: 0, dwEnd: FRAMES - 1 }) as object],
    });
    // Every chunk begins on an even byte.
    const odd = made({ channels: 1, bits: 24, loop: [0, 9] }, [sides[0]!]);
    expect((new WaveFile(odd) as unknown as { smpl: { chunkId: string } }).smpl.chunkId).toBe(
      "smpl",
    );
  });

  it("is refused where it would be larger than sizes of 32 bits can say", () => {
    expect(() => waveAround({ rate: 96_000, channels: 2, bits: 32, frames: 600_000_000 })).toThrow(
      /holds at most 4 GB; this would be 4.5/,
    );
  });

  it("holds what is beyond full scale to it", () => {
    const loud = Float32Array.from([2, -2, 1, -1]);
    const bytes = encodeWave([loud], 16, null);
    expect([...new Int16Array(bytes.buffer)]).toEqual([32_767, -32_768, 32_767, -32_768]);
  });

  it("has dither that makes the mean of a soft tone right, and its error unlike the tone", () => {
    // A third of a step: rounded alone it would be silence.
    const third = new Float32Array(200_000).fill(1 / 3 / 32_768);
    const plain = new Int16Array(encodeWave([third], 16, null).buffer);
    expect(plain.every((value) => value === 0)).toBe(true);
    const dithered = new Int16Array(encodeWave([third], 16, seeded(5)).buffer);
    const mean = dithered.reduce((sum, value) => sum + value, 0) / dithered.length;
    expect(mean).toBeCloseTo(1 / 3, 2);
    // Triangular dither: the error's power is a quarter of a step squared, whatever the level.
    for (const level of [0, 0.25, 0.5]) {
      const flat = new Float32Array(200_000).fill(level / 32_768);
      const own = new Int16Array(encodeWave([flat], 16, seeded(9)).buffer);
      const power = own.reduce((sum, value) => sum + (value - level) ** 2, 0) / own.length;
      expect(power).toBeCloseTo(0.25, 2);
    }
  });
});
