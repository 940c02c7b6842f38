import { type Bpm, type Seconds, type Ticks, firstIndex, nth } from "../base";
import { msPerTick } from "../time";
import type { Project } from "./model";
import { arrangementOf, type ArrangementOptions } from "./sections";

/** From a tick of playing on, this tempo holds; `seconds` after playing began. */
interface Stretch {
  tick: Ticks;
  seconds: Seconds;
  bpm: Bpm;
}

/** Ticks and seconds since playing began, each from the other, through the tempos of the sections. */
export interface TimeMap {
  /** Length of one pass. */
  seconds: Seconds;
  secondsAt(tick: Ticks): Seconds;
  tickAt(seconds: Seconds): Ticks;
  /** Seconds of one tick where it lies. */
  tickSeconds(tick: Ticks): Seconds;
}

/** The times of what is played, starting over at its end. Before its beginning the first tempo holds. */
export function timeMap(project: Project, options: ArrangementOptions = {}): TimeMap {
  const { sections, from, length } = arrangementOf(project, options);
  const stretches: Stretch[] = [];
  let seconds = 0;
  for (const { at, length: ticks, entry } of sections) {
    const [begin, end] = [Math.max(at, from), Math.min(at + ticks, from + length)];
    if (end <= begin) continue;
    const bpm = entry?.tempo ?? project.tempo;
    if (stretches.at(-1)?.bpm !== bpm) stretches.push({ tick: begin - from, seconds, bpm });
    seconds += ((end - begin) * msPerTick(bpm)) / 1000;
  }
  if (stretches.length === 0) stretches.push({ tick: 0, seconds: 0, bpm: project.tempo });
  const found = (value: number, of: (stretch: Stretch) => number) =>
    nth(
      stretches,
      Math.max(0, firstIndex(stretches.length, (i) => of(nth(stretches, i)) <= value) - 1),
    );
  const each = ({ bpm }: Stretch) => msPerTick(bpm) / 1000;
  const passOf = (value: number, whole: number) =>
    whole > 0 ? Math.max(0, Math.floor(value / whole)) : 0;
  return {
    seconds,
    secondsAt(tick) {
      const pass = passOf(tick, length);
      const inside = tick - pass * length;
      const stretch = found(inside, (stretch) => stretch.tick);
      return pass * seconds + stretch.seconds + (inside - stretch.tick) * each(stretch);
    },
    tickAt(time) {
      const pass = passOf(time, seconds);
      const inside = time - pass * seconds;
      const stretch = found(inside, (stretch) => stretch.seconds);
      return pass * length + stretch.tick + (inside - stretch.seconds) / each(stretch);
    },
    tickSeconds(tick) {
      return each(found(tick - passOf(tick, length) * length, (stretch) => stretch.tick));
    },
  };
}
