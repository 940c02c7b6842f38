import { pitchHz } from "@/core/pitch";
import {
  velocityGain,
  voiced,
  type Instrument,
  type PitchBend,
  type VoicePort,
} from "../instrument";
import { drawn, struck } from "../synth/curve-reader";
import type { Clock } from "../clock";

/** Keys like struck glass: a sine bent by a second one, brighter when played harder, dying away. */
export function glassKeys(clock: Clock, port: VoicePort, pitchBend: PitchBend | null): Instrument {
  const ending = { shortest: 0.05, fade: 0.07, ring: 0.5 };
  return voiced({ clock, port, pitchBend }, ending, ({ pitch, velocity }) => {
    const hz = pitchHz(pitch);
    const loud = 0.46 * velocityGain(velocity);
    const dying = 0.5 + 1.6 * Math.max(0, (96 - pitch) / 96);
    const depth = drawn(hz * (0.4 + 1.5 * (velocity / 127)), hz * 0.08, 0.16);
    return {
      waves: [
        { shape: "sine", hz, level: 1, fm: { hz: hz * 3, depth } },
        { shape: "sine", hz: hz * 4.02, level: drawn(0.16, 0, 0.09) },
      ],
      level: struck(0.002, loud, loud * 0.12, dying),
    };
  });
}
