import type { Percent } from "@/core/base";
import { curveOf } from "./table";

/** How far the drive goes: what comes in is bent as if this many times louder. */
const PUSH = 8;
/** Level of what is driven, so that driving is not just getting louder. */
const DRIVEN = 0.4;

const bent = curveOf((x) => Math.tanh(PUSH * x));

/** Saturation: what comes in, and as much of it bent as is asked at the beginning and at the end of the block. */
export function drive(side: Float32Array, from: Percent, to: Percent): void {
  let share = from / 100;
  const more = (to - from) / 100 / side.length;
  for (let i = 0; i < side.length; i++, share += more) {
    const x = side[i]!;
    side[i] = (1 - share) * x + share * DRIVEN * bent(x);
  }
}
