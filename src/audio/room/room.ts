import type { Bpm, Room as RoomValues, Send } from "@/core";
import { Echo } from "./echo";
import { Reverb } from "./reverb";

/** The reverb and the echo that all tracks share. Each is made when something is first sent to it. */
export class Room {
  private made: { reverb: Reverb | null; echo: Echo | null } = { reverb: null, echo: null };
  private values: { room: RoomValues | undefined; bpm: Bpm } = { room: undefined, bpm: 120 };

  constructor(
    private readonly context: BaseAudioContext,
    private readonly output: AudioNode,
    /** Where the echo goes to, if not there too. */
    private readonly echoes: AudioNode = output,
  ) {}

  update(room: RoomValues | undefined, bpm: Bpm): void {
    this.values = { room, bpm };
    this.made.reverb?.update(room, bpm);
    this.made.echo?.update(room, bpm);
  }

  /** Where a send goes to. */
  input(send: Send): AudioNode {
    const { context, output, echoes, made, values } = this;
    if (!made[send]) {
      if (send === "reverb") made.reverb = new Reverb(context, output);
      else made.echo = new Echo(context, echoes);
      made[send]!.update(values.room, values.bpm);
    }
    return made[send]!.input;
  }

  /** Resolves when what was made sounds. */
  async ready(): Promise<void> {
    await Promise.all([this.made.reverb?.ready(), this.made.echo?.ready()]);
  }

  /** See `Instrument`. */
  async arrived(): Promise<void> {
    await this.made.echo?.arrived();
  }

  dispose(): void {
    this.made.reverb?.dispose();
    this.made.echo?.dispose();
    this.made = { reverb: null, echo: null };
  }
}
