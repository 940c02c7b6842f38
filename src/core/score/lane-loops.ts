import type { MidiPitch, Ticks } from "../base";
import { stepTicks } from "../time";
import type { Track } from "./model";

/** Loop lengths in ticks of the lanes of a kit that have their own, by pad. */
export const ownLoops = ({ lanes }: Pick<Track, "lanes">): ReadonlyMap<MidiPitch, Ticks> =>
  new Map(
    lanes.flatMap(({ pitch, steps, grid }) => (steps ? [[pitch, steps * stepTicks(grid)]] : [])),
  );
