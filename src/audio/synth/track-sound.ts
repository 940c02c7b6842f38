import type { Hertz, Pan, Seconds } from "@/core/base";
import type { Send } from "@/core/sound";
import { BLOCK, type Sides } from "./block";
import { SmoothedValue } from "./smoothed";
import { Hits, type HitCommand, type SendBlocks } from "./hits";
import { InsertSound, type InsertCommand } from "./insert-sound";
import { kernels } from "./kernels/kernels";
import { moved } from "./pan";
import type { VoiceCommand } from "./plan";
import { Voices } from "./voices";

/** What makes sound from commands. */
export type Player = "voices" | "hits";

/** What is said to an instrument. */
export type PlayerCommand = VoiceCommand | HitCommand;

/** How a track goes to the mix and to the room. */
export interface TrackLevels {
  gain: number;
  pan: Pan;
  sends: Readonly<Record<Send, number>>;
}

/** What is said to the thread of a track. */
export type TrackCommand =
  /** An instrument is there from now on, is told something, is there no more. */
  | { type: "make"; id: number; player: Player }
  | { type: "tell"; id: number; command: PlayerCommand }
  | { type: "drop"; id: number }
  | { type: "shape"; command: InsertCommand }
  | { type: "levels"; levels: TrackLevels };

/**
 * All of a track: what it sounds with, what that goes through, its level and pan, and what of it goes to the room.
 * What pads send goes there at the track's level, from the middle.
 */
export class TrackSound {
  private readonly players = new Map<number, Voices | Hits>();
  private readonly inserts: InsertSound;
  private readonly level: SmoothedValue;
  private readonly pan: SmoothedValue;
  private readonly sends: Readonly<Record<Send, SmoothedValue>>;
  private readonly beside: Sides = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
  /** What pads send, before the level of the track. */
  private readonly padSends: SendBlocks = {
    reverb: new Float32Array(BLOCK),
    echo: [new Float32Array(BLOCK), new Float32Array(BLOCK)],
  };

  constructor(
    private readonly rate: Hertz,
    private readonly epoch: Seconds = 0,
  ) {
    this.inserts = new InsertSound(rate);
    this.level = new SmoothedValue(1, rate);
    this.pan = new SmoothedValue(0, rate);
    this.sends = { reverb: new SmoothedValue(0, rate), echo: new SmoothedValue(0, rate) };
  }

  /** Takes a command, when the next sample to be made is `frame`. */
  take(command: TrackCommand, frame: number): void {
    if (command.type === "make") {
      const { rate, epoch } = this;
      this.players.set(
        command.id,
        command.player === "voices" ? new Voices(rate, epoch) : new Hits(rate),
      );
    } else if (command.type === "tell") {
      const player = this.players.get(command.id);
      if (player instanceof Voices) player.take(command.command as VoiceCommand, frame);
      else player?.take(command.command as HitCommand, frame);
    } else if (command.type === "drop") this.players.delete(command.id);
    else if (command.type === "shape") this.inserts.take(command.command);
    else this.set(command.levels);
  }

  private set({ gain, pan, sends }: TrackLevels): void {
    this.level.set(gain);
    this.pan.set(pan);
    this.sends.reverb.set(sends.reverb);
    this.sends.echo.set(sends.echo);
  }

  /** Writes a block whose first sample is `frame` into one that is silent, and adds to what the room gets. */
  run([left, right]: Sides, room: SendBlocks, frame: number): void {
    const { level, pan, sends } = this;
    for (const value of [level, pan, sends.reverb, sends.echo]) value.next();
    let first = true;
    for (const player of this.players.values()) {
      if (player instanceof Hits) this.hit(player, left, right, frame, room);
      else if (first) player.run(left, right, frame);
      else this.add(player, left, right, frame);
      first = false;
    }
    this.inserts.run(left, right, frame);
    this.place(left, right);
    this.send(left, right, room);
  }

  private hit(
    hits: Hits,
    left: Float32Array,
    right: Float32Array,
    frame: number,
    room: SendBlocks,
  ): void {
    const { padSends, level } = this;
    hits.run(left, right, frame, padSends);
    if (!hits.sent) return;
    const to = [room.reverb, ...room.echo];
    [padSends.reverb, ...padSends.echo].forEach((own, k) => {
      level.scale(own);
      kernels.addScaled(to[k]!, own, 1, 0);
      own.fill(0);
    });
  }

  private add(voices: Voices, left: Float32Array, right: Float32Array, frame: number): void {
    const [ownLeft, ownRight] = this.beside;
    ownLeft.fill(0);
    ownRight.fill(0);
    voices.run(ownLeft, ownRight, frame);
    kernels.addScaled(left, ownLeft, 1, 0);
    kernels.addScaled(right, ownRight, 1, 0);
  }

  /** At its level, and where it lies. */
  private place(left: Float32Array, right: Float32Array): void {
    const { level, pan } = this;
    level.scale(left);
    level.scale(right);
    if (pan.rests(0)) return;
    // From where it was to where it is, as the power law has it at both ends.
    const from = moved(pan.from);
    const to = moved(pan.to);
    let [ll, rl, lr, rr] = from;
    const [a, b, c, d] = to.map((x, i) => (x - from[i]!) / BLOCK);
    for (let i = 0; i < BLOCK; i++) {
      const x = left[i]!;
      const y = right[i]!;
      left[i] = ll * x + rl * y;
      right[i] = lr * x + rr * y;
      ll += a!;
      rl += b!;
      lr += c!;
      rr += d!;
    }
  }

  private send(
    left: Float32Array,
    right: Float32Array,
    { reverb, echo: [echoLeft, echoRight] }: SendBlocks,
  ): void {
    const { reverb: toReverb, echo: toEcho } = this.sends;
    for (const side of [left, right]) toReverb.addTo(reverb, side, 0.5);
    toEcho.addTo(echoLeft, left);
    toEcho.addTo(echoRight, right);
  }
}
