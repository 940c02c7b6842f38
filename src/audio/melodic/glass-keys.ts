import { pitchHz } from "@/core";
import { velocityGain, voiced, type Instrument, type Wheel } from "../instrument";

/** Keys like struck glass: a sine bent by a second one, brighter when played harder, dying away. */
export function glassKeys(
  context: BaseAudioContext,
  output: AudioNode,
  wheel: Wheel | null,
): Instrument {
  const ending = { shortest: 0.05, fade: 0.07, ring: 0.5 };
  return voiced(context, output, wheel, ending, ({ time, pitch, velocity }) => {
    const hz = pitchHz(pitch);
    const loud = 0.46 * velocityGain(velocity);
    const dying = 0.5 + 1.6 * Math.max(0, (96 - pitch) / 96);

    const tone = context.createOscillator();
    tone.frequency.value = hz;
    const bend = context.createOscillator();
    bend.frequency.value = hz * 3.0;
    const depth = context.createGain();
    depth.gain.setValueAtTime(hz * (0.4 + 1.5 * (velocity / 127)), time);
    depth.gain.setTargetAtTime(hz * 0.08, time, 0.16);
    bend.connect(depth).connect(tone.frequency);
    const glint = context.createOscillator();
    glint.frequency.value = hz * 4.02;
    const glintGain = context.createGain();
    glintGain.gain.setValueAtTime(0.16, time);
    glintGain.gain.setTargetAtTime(0, time, 0.09);

    const gain = context.createGain();
    gain.gain.setValueAtTime(0, time);
    gain.gain.linearRampToValueAtTime(loud, time + 0.002);
    gain.gain.setTargetAtTime(loud * 0.12, time + 0.002, dying);
    tone.connect(gain);
    glint.connect(glintGain).connect(gain);
    return { gain, sources: [tone, bend, glint] };
  });
}
