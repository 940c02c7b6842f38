import type { MidiPitch, Ticks, Velocity } from "../../base";
import type { Grid, Metre } from "../../time";

/** A lane to make hits for. */
export interface DrumLane {
  pitch: MidiPitch;
  grid: Grid;
  /** Loop length of the lane in ticks, where it has its own; null for the bars asked for. */
  period: Ticks | null;
}

/** What drum ideas are generated with. Shares are in percent, 0–100; velocities 1–127. */
export interface DrumIdeaOptions {
  lanes: readonly DrumLane[];
  metre: Metre;
  bars: number;
  /** Share of the cells that hold a hit, 0–100 %; in a style that of kick and backbeat, others have theirs by their role. */
  density: number;
  /** 0 on the strong beats, 100 beside them. */
  syncopation: number;
  /** 0 where chance puts them, 100 as evenly as they can lie. */
  spread: number;
  /** How often the first bar returns, 0–100 %. */
  repetition: number;
  softest: Velocity;
  loudest: Velocity;
  count: number;
  seed: number;
  /** A way of playing, by its id; an empty one for hits as the first version chose them. */
  style: string;
  /** Beats at the end that are a fill over the pads there are; 0 for none. */
  fill: number;
}
