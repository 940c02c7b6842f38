import type { Bpm, Room as RoomValues } from "@/core";
import { Echo } from "./echo";
import type { RoomRenderer } from "./impulse";
import { Reverb } from "./reverb";

/** What can be sent to. */
export type Send = "reverb" | "echo";

/** The reverb and the echo that all tracks share. Each is made when something is first sent to it. */
export class Room {
  private made: { reverb: Reverb | null; echo: Echo | null } = { reverb: null, echo: null };
  private values: { room: RoomValues | undefined; bpm: Bpm } = { room: undefined, bpm: 120 };

  constructor(
    private readonly context: BaseAudioContext,
    private readonly output: AudioNode,
    private readonly render: RoomRenderer,
  ) {}

  update(room: RoomValues | undefined, bpm: Bpm): void {
    this.values = { room, bpm };
    this.made.reverb?.update(room, bpm);
    this.made.echo?.update(room, bpm);
  }

  /** Where a send goes to. */
  input(send: Send): AudioNode {
    const { context, output, made, values } = this;
    if (!made[send]) {
      if (send === "reverb") made.reverb = new Reverb(context, output, this.render);
      else made.echo = new Echo(context, output);
      made[send]!.update(values.room, values.bpm);
    }
    return made[send]!.input;
  }

  /** Resolves when the reverb is there. */
  async ready(): Promise<void> {
    await this.made.reverb?.ready();
  }

  dispose(): void {
    this.made.reverb?.dispose();
    this.made.echo?.dispose();
    this.made = { reverb: null, echo: null };
  }
}
