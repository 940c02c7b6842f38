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

/** A thin, singing lead: two saws a little apart and a pulse an octave up, with a late vibrato. Slides. */
export function wireLead(clock: Clock, port: VoicePort, pitchBend: PitchBend | null): Instrument {
  const ending = { shortest: 0.05, fade: 0.04, ring: 0.3 };
  return voiced({ clock, port, pitchBend }, ending, (note) => {
    const { pitch, velocity, shape } = note;
    const attack = 0.004 * shape.attack;
    const hz = pitchHz(pitch);
    const loud = 0.2 * velocityGain(velocity);
    return {
      waves: [
        mixedIn(note, ["sawtooth", 0, -6, 0.5]),
        mixedIn(note, ["sawtooth", 0, 6, 0.5]),
        mixedIn(note, ["square", 12, 0, 0.14]),
      ],
      vibrato: { hz: 5.2, together: false, cents: drawn(0, 14, 0.2, 0.28) },
      filter: {
        q: 3.5,
        hz: [
          ["step", 0, Math.min(12_000, hz * 2)],
          ["curved", 0.05, Math.min(14_000, hz * (4 + 6 * (velocity / 127)))],
        ],
      },
      level: struck(attack, loud, loud * 0.8, 0.3),
    };
  });
}
