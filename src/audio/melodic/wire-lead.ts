import { pitchHz } from "@/core";
import { coarse } from "../ease";
import { mixedIn, velocityGain, voiced, type Instrument, type Wheel } from "../instrument";

/** A thin, singing lead: two saws a little apart and a pulse an octave up, with a late vibrato. Slides. */
export function wireLead(
  context: BaseAudioContext,
  output: AudioNode,
  wheel: Wheel | null,
): Instrument {
  const ending = { shortest: 0.05, fade: 0.04, ring: 0.3 };
  return voiced(context, output, wheel, ending, (note) => {
    const { time, pitch, velocity, shape } = note;
    const attack = 0.004 * shape.attack;
    const hz = pitchHz(pitch);
    const loud = 0.2 * velocityGain(velocity);
    const filter = context.createBiquadFilter();
    filter.type = "lowpass";
    coarse(filter.frequency, filter.detune);
    filter.Q.value = 3.5;
    filter.frequency.setValueAtTime(Math.min(12_000, hz * 2), time);
    filter.frequency.exponentialRampToValueAtTime(
      Math.min(14_000, hz * (4 + 6 * (velocity / 127))),
      time + 0.05,
    );
    const gain = context.createGain();
    gain.gain.setValueAtTime(0, time);
    gain.gain.linearRampToValueAtTime(loud, time + attack);
    gain.gain.setTargetAtTime(loud * 0.8, time + attack, 0.3);
    const vibrato = context.createOscillator();
    const depth = context.createGain();
    vibrato.frequency.value = 5.2;
    depth.gain.setValueAtTime(0, time);
    depth.gain.setTargetAtTime(14, time + 0.28, 0.2);
    vibrato.connect(depth);
    const sources: OscillatorNode[] = (
      [
        ["sawtooth", 0, -6, 0.5],
        ["sawtooth", 0, 6, 0.5],
        ["square", 12, 0, 0.14],
      ] as const
    ).map((wave) => mixedIn(context, note, filter, wave));
    for (const source of sources) {
      coarse(source.detune);
      depth.connect(source.detune);
    }
    filter.connect(gain);
    return { gain, risen: time + attack, filters: [filter], sources: [...sources, vibrato] };
  });
}
