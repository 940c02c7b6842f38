import { SEND_OFF, type Decibels, type Send } from "@/core";
import { ease, gainNode } from "./ease";
import { levelGain } from "./instrument";

/** How much of something goes to the reverb and to the echo. Each is made when something first goes there. */
export class Sends {
  private readonly made = new Map<Send, GainNode>();

  /** `to` gives where a send leads; `from` is what is sent, or is left out where it is connected by the hit. */
  constructor(
    private readonly context: BaseAudioContext,
    private readonly to: (send: Send) => AudioNode,
    private readonly from?: AudioNode,
  ) {}

  set(send: Send, db: Decibels = SEND_OFF): void {
    let gain = this.made.get(send);
    if (!gain) {
      if (db <= SEND_OFF) return;
      gain = gainNode(this.context, 0);
      this.from?.connect(gain);
      gain.connect(this.to(send));
      this.made.set(send, gain);
    }
    ease(gain.gain, levelGain(db), this.context);
  }

  /** What leads to the room by now. */
  get gains(): Iterable<GainNode> {
    return this.made.values();
  }
}
