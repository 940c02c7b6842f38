import { seeded, nth } from "@/core/base";
import { LoudnessRun } from "@/core/analysis";
import { type WaveOptions, encodeWave, waveAround } from "@/core/formats";
import type { Encoding } from "./encoding";
import { zipped } from "./zipped";

type Side = Float32Array<ArrayBuffer>;

/** What a file is to be: a WAV, or a FLAC. */
export interface SoundFile extends Omit<WaveOptions, "frames" | "channels"> {
  kind: "wav" | "flac";
  dither: boolean;
  /** Everything is multiplied by this. */
  gain: number;
}

/** What was measured of all that was taken in. */
export interface Measured {
  /** The largest sample of any output. */
  peak: number;
  /** Loudness of all outputs together, in LUFS. */
  loudness: number;
  frames: number;
}

interface Output {
  /** Left and right, piece by piece: kept as blobs, which the browser puts aside when they are many. */
  pieces: Blob[];
  run: LoudnessRun;
}

/** The first draw of the noise for each output is its own. */
const DITHER_SEED = 4711;

/** Takes in rendered sound piece by piece, measures it, and makes files of it. */
export class SoundFiles {
  private outputs: Output[] = [];
  private together: LoudnessRun | null = null;
  private frames = 0;

  /** Begins anew, with so many outputs of two channels. */
  begin(count: number, rate: number): void {
    this.outputs = Array.from({ length: count }, () => ({
      pieces: [],
      run: new LoudnessRun(2, rate),
    }));
    this.together = count > 1 ? new LoudnessRun(2, rate) : null;
    this.frames = 0;
  }

  /** Takes the next piece of every output. */
  add(piece: readonly (readonly [Side, Side])[]): void {
    piece.forEach((sides, i) => {
      const { pieces, run } = nth(this.outputs, i);
      run.add(sides);
      pieces.push(new Blob([...sides]));
    });
    this.together?.add([0, 1].map((side) => sum(piece.map((sides) => nth(sides, side)))));
    this.frames += nth(piece, 0)[0].length;
  }

  /** The last so many samples of all outputs that are louder than a level, from the beginning. */
  async lastHeard(level: number): Promise<number> {
    let last = 0;
    for (const { pieces } of this.outputs) {
      let at = this.frames;
      for (let i = pieces.length - 1; i >= 0 && at > last; i--) {
        const [left, right] = await sidesOf(nth(pieces, i));
        at -= left.length;
        let k = left.length - 1;
        while (k >= 0 && Math.abs(left[k]!) <= level && Math.abs(right[k]!) <= level) k--;
        if (k < 0) continue;
        last = Math.max(last, at + k + 1);
        break;
      }
    }
    return last;
  }

  measured(): Measured {
    const peak = Math.max(0, ...this.outputs.map(({ run }) => run.peak));
    const whole = this.together ?? nth(this.outputs, 0).run;
    return { peak, loudness: whole.loudness, frames: this.frames };
  }

  /** Makes the file of an output, of its first so many samples. */
  async file(
    index: number,
    about: SoundFile,
    frames: number,
    onProgress?: (done: number) => void,
  ): Promise<Blob> {
    const { pieces, run } = nth(this.outputs, index);
    const random = about.dither && about.bits !== 32 ? seeded(DITHER_SEED + index) : null;
    const { gain, rate, bits } = about;
    const loudness = run.loudness + 20 * Math.log10(gain);
    const broadcast = about.broadcast && { ...about.broadcast, loudness };
    const encode =
      about.kind === "wav"
        ? waveOf({ ...about, ...(broadcast && { broadcast }), channels: 2, frames }, random)
        : await (
            await import("./flac")
          ).flacOf({ rate, bits: bits === 16 ? 16 : 24, frames }, random);
    let left = frames;
    for (const piece of pieces) {
      if (left <= 0) break;
      const sides = (await sidesOf(piece)).map((side) => {
        const own = side.length > left ? side.slice(0, left) : side;
        if (gain !== 1) for (let i = 0; i < own.length; i++) own[i]! *= gain;
        return own;
      });
      encode.add(sides);
      left -= nth(sides, 0).length;
      onProgress?.(1 - left / frames);
    }
    return encode.done();
  }

  /** Puts files into one, as they are. */
  zip(files: readonly { name: string; body: Blob }[]): Promise<Blob> {
    return zipped(files);
  }
}

function waveOf(options: WaveOptions, random: (() => number) | null): Encoding {
  const { before, after } = waveAround(options);
  const parts: Blob[] = [new Blob([before])];
  return {
    add: (sides) => parts.push(new Blob([encodeWave(sides, options.bits, random)])),
    done: () => new Blob([...parts, after], { type: "audio/wav" }),
  };
}

function sum(list: readonly Side[]): Side {
  const all = nth(list, 0).slice();
  for (const one of list.slice(1)) for (let i = 0; i < all.length; i++) all[i]! += one[i]!;
  return all;
}

async function sidesOf(piece: Blob): Promise<[Side, Side]> {
  const both = new Float32Array(await piece.arrayBuffer());
  return [both.subarray(0, both.length / 2), both.subarray(both.length / 2)];
}
