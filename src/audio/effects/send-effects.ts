import type { Bpm, Hertz, Milliseconds } from "@/core/base";
import {
  PLAIN_SEND_EFFECTS,
  type SendEffects as RoomValues,
  type Send,
  sendEffectTime,
} from "@/core/sound";
import type { RoomCommand } from "../synth/send-effects-sound";
import type { Port } from "../worklet/port";
import { hallOf } from "./hall";

/** No room follows sooner on the one before: that is passed over first. */
const GONE: Milliseconds = 250;

/**
 * The reverb and the echo that tracks share, as they are to be. Each is made when something is first sent to it.
 * Decay and size make another room, which passes in from the old one; a room that is asked for meanwhile waits.
 */
export class Room {
  private readonly made = new Set<Send>();
  private values: { room: RoomValues | undefined; bpm: Bpm } = { room: undefined, bpm: 120 };
  private hall: { decay: number; size: number } | null = null;
  private passing: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly port: Port<RoomCommand>,
    private readonly rate: Hertz,
  ) {}

  update(room: RoomValues | undefined, bpm: Bpm): void {
    this.values = { room, bpm };
    if (this.made.has("reverb")) this.reverb();
    if (this.made.has("echo")) this.echo();
  }

  /** Something is sent there from now on. */
  need(send: Send): void {
    if (this.made.has(send)) return;
    this.made.add(send);
    if (send === "reverb") this.reverb();
    else this.echo();
  }

  private reverb(): void {
    const { port, rate } = this;
    const { room, bpm } = this.values;
    const { size, tone } = { ...PLAIN_SEND_EFFECTS, ...room };
    const frames = (sendEffectTime(room, "preDelay", bpm) / 1000) * rate;
    port.send({ type: "reverb", frames, tone });
    const decay = sendEffectTime(room, "decay", bpm);
    if (this.passing !== null || (this.hall?.decay === decay && this.hall.size === size)) return;
    const first = this.hall === null;
    this.hall = { decay, size };
    port.send({ type: "hall", values: hallOf({ rate, decay, size }) });
    if (first) return;
    this.passing = setTimeout(() => {
      this.passing = null;
      this.reverb();
    }, GONE);
  }

  private echo(): void {
    const { room, bpm } = this.values;
    const { feedback, echoTone: tone, pingPong } = { ...PLAIN_SEND_EFFECTS, ...room };
    // On whole samples: between them an echo would be duller than what it gives back.
    const frames = Math.round((sendEffectTime(room, "echoTime", bpm) / 1000) * this.rate);
    this.port.send({ type: "echo", values: { frames, feedback: feedback / 100, tone, pingPong } });
  }

  dispose(): void {
    if (this.passing !== null) clearTimeout(this.passing);
  }
}
