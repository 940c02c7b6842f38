/** Percussion is channel 10 in General MIDI 1; counted from 0 here. */
export const DRUM_CHANNEL = 9;

/** Melodic channels of one port: all but the drums'. */
export const MELODIC_CHANNELS = 15;

/** The channel of the n-th melodic track, both from 0: all in turn but the drums'. */
export function melodicChannel(at: number): number {
  const own = at % MELODIC_CHANNELS;
  return own < DRUM_CHANNEL ? own : own + 1;
}
