import type { Hertz, Seconds } from "@/core/base";
import { BLOCK, type Sides } from "./block";
import { Echoes, type EchoCommand } from "./echoes";
import type { SendBlocks } from "./hits";
import { floats, giveBack, kernels } from "./kernels/kernels";
import { ReverbSound, type ReverbCommand } from "./reverb-sound";

/** What is said to the thread of a room. */
export type RoomCommand = ReverbCommand | EchoCommand;

/** The longest echo, with a little more. */
const LONGEST: Seconds = 4.1;

/** A reverb and an echo that tracks send to. Each is there from the first command that is for it. */
export class RoomSound {
  /** What is sent there in this block. */
  readonly sends: SendBlocks = {
    reverb: floats(BLOCK),
    echo: [floats(BLOCK), floats(BLOCK)],
  };
  private reverb: ReverbSound | null = null;
  private echo: Echoes | null = null;
  private readonly echoed: Sides = [new Float32Array(BLOCK), new Float32Array(BLOCK)];

  constructor(private readonly rate: Hertz) {}

  take(command: RoomCommand): void {
    if (command.type === "echo") (this.echo ??= new Echoes(LONGEST, this.rate)).take(command);
    else (this.reverb ??= new ReverbSound(this.rate)).take(command);
  }

  /** Adds what the room makes of what was sent in this block, and forgets that. */
  run(reverbTo: Sides | null, echoTo: Sides | null): void {
    const { sends, echoed } = this;
    if (this.reverb && reverbTo) this.reverb.run(sends.reverb, reverbTo);
    if (this.echo && echoTo) {
      this.echo.run(sends.echo, echoed);
      echoTo.forEach((out, side) => kernels.addScaled(out, echoed[side]!, 1, 0));
    }
    for (const block of [sends.reverb, ...sends.echo]) block.fill(0);
  }

  dispose(): void {
    this.reverb?.dispose();
    giveBack(this.sends.reverb, ...this.sends.echo);
  }
}
