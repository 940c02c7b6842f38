import { FLACDecoder } from "@wasm-audio-decoders/flac";
import { unzipSync } from "fflate";
import { WaveFile } from "wavefile";
import { describe, expect, it } from "vitest";
import { SoundFiles, type SoundFile } from "./sound-files";

const RATE = 44_100;
const FRAMES = 50_000;
const tone = (hz: number, level: number) =>
  Float32Array.from({ length: FRAMES }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / RATE));
const outputs = [
  [tone(220, 0.5), tone(330, 0.25)],
  [tone(440, 0.1), tone(550, 0.2)],
] as const;
const about: SoundFile = { kind: "wav", rate: RATE, bits: 24, dither: false, gain: 1 };

function taken() {
  const files = new SoundFiles();
  files.begin(2, RATE);
  for (let at = 0; at < FRAMES; at += 7000) {
    files.add(outputs.map(([l, r]) => [l.slice(at, at + 7000), r.slice(at, at + 7000)] as const));
  }
  return files;
}
const bytesOf = async (blob: Blob) => new Uint8Array(await blob.arrayBuffer());

describe("sound taken in by pieces", () => {
  it("is one WAV for each output, louder or softer as asked, cut where asked", async () => {
    const files = taken();
    expect(files.measured()).toMatchObject({ frames: FRAMES });
    expect(files.measured().peak).toBeCloseTo(0.5, 4);
    const blob = await files.file(1, { ...about, gain: 2 }, 40_000);
    const wave = new WaveFile(await bytesOf(blob)) as unknown as {
      getSamples(interleaved: boolean, type: typeof Float64Array): Float64Array[];
    };
    const [left] = wave.getSamples(false, Float64Array);
    expect(left!.length).toBe(40_000);
    for (const i of [0, 6999, 7000, 20_000, 39_999])
      expect(left![i]! / 2 ** 23).toBeCloseTo(2 * outputs[1][0][i]!, 6);
    // Taken a second time it is the same.
    expect(await bytesOf(await files.file(1, { ...about, gain: 2 }, 40_000))).toEqual(
      await bytesOf(blob),
    );
  });

  it("is the same as FLAC, read by another decoder, with its length and checksum in its head", async () => {
    const files = taken();
    for (const bits of [16, 24] as const) {
      const blob = await files.file(0, { ...about, kind: "flac", bits }, FRAMES);
      const bytes = await bytesOf(blob);
      // STREAMINFO of RFC 9639, 8.2: sizes of blocks, rate, channels, bits, samples, MD5.
      const view = new DataView(bytes.buffer, 8);
      expect(view.getUint16(0)).toBe(4096);
      expect((view.getUint32(10) >>> 12).toString()).toBe(String(RATE));
      expect(((view.getUint16(12) >> 4) & 0x1f) + 1).toBe(bits);
      expect(view.getUint32(14)).toBe(FRAMES);
      expect(bytes.subarray(26, 42).some((byte) => byte !== 0)).toBe(true);
      const decoder = new FLACDecoder();
      await decoder.ready;
      const { channelData, samplesDecoded, errors } = await decoder.decodeFile(bytes);
      decoder.free();
      expect(errors).toEqual([]);
      expect(samplesDecoded).toBe(FRAMES);
      channelData.forEach((samples, c) => {
        const wrong = samples.findIndex(
          (value, i) => Math.abs(value - outputs[0][c]![i]!) > 1.1 / 2 ** (bits - 1),
        );
        expect(wrong).toBe(-1);
      });
    }
  });

  it("ends where the last of it is louder than a level", async () => {
    const files = new SoundFiles();
    files.begin(1, RATE);
    const silent = () => new Float32Array(5000);
    const last = silent();
    last[1234] = -0.001;
    files.add([[silent(), last]]);
    files.add([[silent(), silent()]]);
    expect(await files.lastHeard(0.0001)).toBe(1235);
    expect(await files.lastHeard(0.01)).toBe(0);
  });

  it("goes into one zip, read by another program", async () => {
    const files = taken();
    const body = await files.file(0, about, FRAMES);
    const zip = await files.zip([
      { name: "Slack Water/1 Bass.wav", body },
      { name: "Slack Water/2 Drums.wav", body: new Blob([]) },
    ]);
    const entries = unzipSync(await bytesOf(zip));
    expect(Object.keys(entries)).toEqual(["Slack Water/1 Bass.wav", "Slack Water/2 Drums.wav"]);
    expect(entries["Slack Water/1 Bass.wav"]).toEqual(await bytesOf(body));
  });
});
