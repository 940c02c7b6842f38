import type { Send } from "@/core";
import type { Wheel } from "./instrument";
import type { PadRenderer } from "./pads/render";

/** What a sound is made with: what bends it, what renders pads, and where pads send to. */
export interface SoundParts {
  wheel: Wheel | null;
  render: PadRenderer;
  send(send: Send): AudioNode;
}
