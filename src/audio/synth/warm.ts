import type { Hertz } from "@/core/base";
import { BLOCK } from "./block";
import { Voices } from "./voices";
import { tablesOf, type WaveShape } from "./waves";

const SHAPES: readonly WaveShape[] = ["sawtooth", "square", "triangle"];
const BLOCKS = 8;

/**
 * Plays a few notes unheard. What is run for the first time is slow until the engine of the browser has seen it some
 * times: without this, the first chord of all would be late by a block or two.
 */
export function warmUp(rate: Hertz): void {
  const voices = new Voices(rate);
  SHAPES.forEach((shape, i) => {
    tablesOf(shape);
    const wave = { shape, hz: 110 * 2 ** i, level: 0.1 } as const;
    const fm = { hz: 220, depth: 100 };
    voices.take({
      ...{ type: "begin", id: i, time: 0, pan: i - 1, held: false },
      plan: {
        waves: [wave, { ...wave, level: [["toward", 0, 0, 1]] }, { ...wave, shape: "sine", fm }],
        filter: { q: 1, hz: [["toward", 0, 900, 1]] },
        level: [
          ["step", 0, 0],
          ["straight", 0.01, 1],
          ["toward", 0.01, 0.5, 0.2],
        ],
      },
    });
  });
  const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
  for (let k = 0; k < BLOCKS; k++) voices.run(left, right, BLOCK * k);
}
