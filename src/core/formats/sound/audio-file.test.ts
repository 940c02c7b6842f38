import { describe, expect, it } from "vitest";
import { seeded } from "../../base";
import { audioKind } from "./audio-file";
import { FormatError } from "../container/bytes";
import { waveFile } from "./wave";

const text = (value: string) => [...value].map((c) => c.charCodeAt(0));
const padded = (head: number[], length: number) =>
  Uint8Array.from({ length }, (_, i) => head[i] ?? (i * 37) & 0xff);

const FILES: Readonly<Record<string, Uint8Array>> = {
  wav: waveFile([Float32Array.from({ length: 200 }, (_, i) => Math.sin(i / 9))], 44_100),
  flac: padded([...text("fLaC"), 0, 0, 0, 34], 120),
  ogg: padded([...text("OggS"), 0, 2], 120),
  mp3: padded([0xff, 0xfb, 0x90, 0x00], 200),
};

describe("a spoiled sound file", () => {
  it.each(Object.keys(FILES))(
    "of %s is known, or refused with a sentence: 2,000 of each",
    (kind) => {
      const random = seeded(kind.length);
      const whole = FILES[kind]!;
      expect(audioKind(whole)).toBe(kind);
      let refused = 0;
      for (let i = 0; i < 2000; i++) {
        const cut = i % 3 === 0 ? Math.floor(random() * whole.length) : whole.length;
        const spoiled = whole.slice(0, cut);
        for (let k = 0; k < 1 + Math.floor(random() * 6); k++)
          if (spoiled.length > 0)
            spoiled[Math.floor(random() * Math.min(60, spoiled.length))] = Math.floor(
              random() * 256,
            );
        try {
          expect(Object.keys(FILES)).toContain(audioKind(spoiled));
        } catch (error) {
          if (!(error instanceof FormatError)) throw error;
          expect(error.message).toMatch(/^(The|This) .{8,}/);
          refused++;
        }
      }
      expect(refused).toBeGreaterThan(100);
    },
  );
});
