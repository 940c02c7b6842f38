import type { Seconds } from "@/core";
import { gainNode } from "./ease";

const epochs = new WeakMap<BaseAudioContext, Seconds>();

/** Says which time of what is played a context begins at: the middle of a piece, where one is rendered in pieces. */
export const setEpoch = (context: BaseAudioContext, seconds: Seconds): void => {
  epochs.set(context, seconds);
};

/** The time of what is played at a context's own beginning. */
export const epochOf = (context: BaseAudioContext): Seconds => epochs.get(context) ?? 0;

/** One silent way to the ear for each context. */
const unheard = new WeakMap<BaseAudioContext, GainNode>();

/** What leads nowhere may stand still: this keeps it going, unheard. */
function keepGoing(context: BaseAudioContext, source: AudioNode): void {
  let way = unheard.get(context);
  if (!way) {
    way = gainNode(context, 0);
    way.connect(context.destination);
    unheard.set(context, way);
  }
  source.connect(way);
}

/**
 * A sine that swings for as long as its context is there, so many rounds ahead at time 0 of what is played: in
 * a context that begins elsewhere it is where it would have been.
 */
export function swing(context: BaseAudioContext, hz: number, ahead = 0): OscillatorNode {
  const angle = 2 * Math.PI * (ahead + hz * epochOf(context));
  const source = context.createOscillator();
  if (angle !== 0) {
    source.setPeriodicWave(
      context.createPeriodicWave(
        new Float32Array([0, Math.sin(angle)]),
        new Float32Array([0, Math.cos(angle)]),
      ),
    );
  }
  source.frequency.value = hz;
  keepGoing(context, source);
  return source;
}
