import { pitchHz } from "@/core";
import { coarse } from "../ease";
import { mixedIn, velocityGain, voiced, type Instrument, type Wheel } from "../instrument";

/** A round bass: saw and an octave-low square through a filter that closes as it speaks. Slides. */
export function reedBass(
  context: BaseAudioContext,
  output: AudioNode,
  wheel: Wheel | null,
): Instrument {
  const ending = { shortest: 0.04, fade: 0.025, ring: 0.2 };
  return voiced(context, output, wheel, ending, (note) => {
    const { time, pitch, velocity } = note;
    const hz = pitchHz(pitch);
    const loud = 0.42 * velocityGain(velocity);
    const filter = context.createBiquadFilter();
    filter.type = "lowpass";
    coarse(filter.frequency, filter.detune);
    filter.Q.value = 2.5;
    const bright = Math.min(9000, hz * (3 + 7 * (velocity / 127)));
    filter.frequency.setValueAtTime(bright, time);
    filter.frequency.setTargetAtTime(Math.min(bright, hz * 2.6), time, 0.11);
    const gain = context.createGain();
    gain.gain.setValueAtTime(0, time);
    gain.gain.linearRampToValueAtTime(loud, time + 0.003);
    gain.gain.setTargetAtTime(loud * 0.72, time + 0.003, 0.18);
    const sources = (
      [
        ["sawtooth", 0, 0, 0.6],
        ["square", -12, 0, 0.35],
        ["sine", 0, 0, 0.8],
      ] as const
    ).map((wave) => mixedIn(context, note, filter, wave));
    filter.connect(gain);
    return { gain, filters: [filter], sources };
  });
}
