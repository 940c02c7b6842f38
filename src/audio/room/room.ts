import type { Bpm, Room as RoomValues, Send } from "@/core";
import { cycleFrames } from "./cycle";
import { Echo } from "./echo";
import { Reverb } from "./reverb";

/** The reverb and the echo that all tracks share. Each is made when something is first sent to it. */
export class Room {
  private made: { reverb: Reverb | null; echo: Echo | null } = { reverb: null, echo: null };
  private values: { room: RoomValues | undefined; bpm: Bpm } = { room: undefined, bpm: 120 };
  /** What the browser adds to each way round a cycle, in samples; null until it is known. */
  private cycle: number | null = null;

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
      if (this.cycle !== null) made.echo?.setCycle(this.cycle);
      made[send]!.update(values.room, values.bpm);
    }
    return made[send]!.input;
  }

  /** Resolves when what was made sounds, and its times are exact. */
  async ready(): Promise<void> {
    await this.made.reverb?.ready();
    if (!this.made.echo) return;
    this.cycle ??= await cycleFrames();
    this.made.echo.setCycle(this.cycle);
  }

  dispose(): void {
    this.made.reverb?.dispose();
    this.made.echo?.dispose();
    this.made = { reverb: null, echo: null };
  }
}
