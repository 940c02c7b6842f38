import { pitchHz } from "@/core/pitch";
import {
  mixedIn,
  velocityGain,
  voiced,
  type Instrument,
  type PitchBend,
  type VoicePort,
} from "../instrument";
import { drawn, struck } from "../synth/curve-reader";
import type { Clock } from "../clock";

/** A round bass: saw and an octave-low square through a filter that closes as it speaks. Slides. */
export function reedBass(clock: Clock, port: VoicePort, pitchBend: PitchBend | null): Instrument {
  const ending = { shortest: 0.04, fade: 0.025, ring: 0.2 };
  return voiced({ clock, port, pitchBend }, ending, (note) => {
    const { pitch, velocity } = note;
    const hz = pitchHz(pitch);
    const loud = 0.42 * velocityGain(velocity);
    const bright = Math.min(9000, hz * (3 + 7 * (velocity / 127)));
    return {
      waves: [
        mixedIn(note, ["sawtooth", 0, 0, 0.6]),
        mixedIn(note, ["square", -12, 0, 0.35]),
        mixedIn(note, ["sine", 0, 0, 0.8]),
      ],
      filter: { q: 2.5, hz: drawn(bright, Math.min(bright, hz * 2.6), 0.11) },
      level: struck(0.003, loud, loud * 0.72, 0.18),
    };
  });
}
