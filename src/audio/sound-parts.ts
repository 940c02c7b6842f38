import type { Send } from "@/core/sound";
import type { Wheel } from "./instrument";
import type { PadRenderer } from "./pads/render";
import type { PlayerOrder } from "./synth/track-sound";
import type { Way } from "./worklet/way";

/** What a sound is made with: where it is made into sound, what bends it, and what renders pads. */
export interface SoundParts {
  way: Way<PlayerOrder>;
  wheel: Wheel | null;
  render: PadRenderer;
  /** Something is sent to the room by a pad. */
  sends(send: Send): void;
}
