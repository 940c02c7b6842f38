import type { Wheel } from "./instrument";
import type { PadRenderer } from "./pads/render";
import type { Send } from "./room/room";

/** What a sound is made with: what bends it, what renders pads, and where pads send to. */
export interface SoundParts {
  wheel: Wheel | null;
  render: PadRenderer;
  send(send: Send): AudioNode;
}
