import type { Bpm, Ticks } from "../../base";
import { PPQ } from "../../time";

/** What a tick of a file is: one of the two is null. */
export interface SmfDivision {
  ticksPerQuarter: number | null;
  /** With SMPTE time. */
  ticksPerSecond: number | null;
}

/** How ticks of a file become those of a project: so many times, divided by so many. */
export interface SmfScale {
  times: number;
  over: number;
}

/** Times in a file counted in quarters, or in SMPTE frames, which the first tempo turns into quarters. */
export const scaleOf = (file: SmfDivision, tempo: Bpm): SmfScale =>
  file.ticksPerQuarter
    ? { times: PPQ, over: file.ticksPerQuarter }
    : { times: (tempo / 60) * PPQ, over: file.ticksPerSecond! };

/** A time of a file in ticks of a project, not rounded. */
export const scaled = ({ times, over }: SmfScale, tick: Ticks): number => (tick * times) / over;
