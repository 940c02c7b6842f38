import type { MidiPitch } from "@/core/base";
import { pitchHz } from "@/core/pitch";
import { noise, render } from "../dsp";
import {
  velocityGain,
  voiced,
  type Instrument,
  type PitchBend,
  type VoicePort,
} from "../instrument";
import type { Clock } from "../clock";

/**
 * A plucked string by the method of Karplus and Strong ("Digital Synthesis of Plucked-String and
 * Drum Timbres", Computer Music Journal 7(2), 1983): noise in a delay line whose loop averages
 * neighbours. A first-order all-pass tunes it between whole samples (Jaffe and Smith, same issue).
 */
export function pluckedString(rate: number, pitch: MidiPitch): Float32Array<ArrayBuffer> {
  const period = rate / pitchHz(pitch);
  // The averaging delays by half a sample; the all-pass makes up the fraction that is left.
  let whole = Math.floor(period - 0.5);
  let fraction = period - 0.5 - whole;
  if (fraction < 0.1) {
    whole -= 1;
    fraction += 1;
  }
  const c = (1 - fraction) / (1 + fraction);
  const pick = noise(71 + pitch);
  const line = Float32Array.from({ length: Math.max(2, whole) }, pick);
  // A soft pick: the noise is smoothed once before it runs.
  for (let i = 1; i < line.length; i++) line[i] = 0.55 * line[i]! + 0.45 * line[i - 1]!;
  const ring = Math.min(2.4, 90 / pitchHz(pitch) + 0.7);
  const loss = 0.001 ** (period / rate / (ring * 1.6));
  let [at, before, allIn, allOut] = [0, 0, 0, 0];
  return render(rate, ring, 0.8, () => {
    const now = line[at]!;
    const average = loss * 0.5 * (now + before);
    before = now;
    allOut = c * average + allIn - c * allOut;
    allIn = average;
    line[at] = allOut;
    at = (at + 1) % line.length;
    return now;
  });
}

/** A plucked rope-thick string. Strings are made when first played and kept. */
export function ropePluck(clock: Clock, port: VoicePort, pitchBend: PitchBend | null): Instrument {
  const strings = new Map<MidiPitch, Float32Array>();
  const stringOf = (pitch: MidiPitch) => {
    let samples = strings.get(pitch);
    if (!samples) strings.set(pitch, (samples = pluckedString(clock.sampleRate, pitch)));
    return samples;
  };
  const ending = { shortest: 0.05, fade: 0.06, ring: 0.5 };
  return voiced({ clock, port, pitchBend }, ending, ({ pitch, velocity }) => ({
    waves: [],
    sample: String(pitch),
    recording: stringOf(pitch),
    filter: { q: 1, hz: 1200 + 9000 * (velocity / 127) ** 2 },
    level: 1.15 * velocityGain(velocity),
  }));
}
