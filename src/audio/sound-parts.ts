import type { Send } from "@/core/sound";
import type { PitchBend } from "./instrument";
import type { PadRenderer } from "./pads/render";
import type { PlayerCommand } from "./synth/track-sound";
import type { Port } from "./worklet/port";

/** What a sound is made with: where it is made into sound, what bends it, and what renders pads. */
export interface SoundParts {
  port: Port<PlayerCommand>;
  pitchBend: PitchBend | null;
  render: PadRenderer;
  /** Something is sent to the room by a pad. */
  sends(send: Send): void;
}
