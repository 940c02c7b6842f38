import type { Hertz, Pan, Seconds } from "@/core/base";
import type { Send } from "@/core/sound";
import { BLOCK, type Sides } from "./block";
import { Eased } from "./eased";
import { Hits, type HitOrder, type SendBlocks } from "./hits";
import { InsertSound, type InsertOrder } from "./insert-sound";
import { kernels } from "./kernels/kernels";
import { moved } from "./pan";
import type { VoiceOrder } from "./plan";
import { Voices } from "./voices";

/** What makes sound from orders. */
export type Player = "voices" | "hits";

/** What is said to an instrument. */
export type PlayerOrder = VoiceOrder | HitOrder;

/** How a track goes to the mix and to the room. */
export interface TrackLevels {
  gain: number;
  pan: Pan;
  sends: Readonly<Record<Send, number>>;
}

/** What is said to the thread of a track. */
export type TrackOrder =
  /** An instrument is there from now on, is told something, is there no more. */
  | { say: "make"; id: number; player: Player }
  | { say: "tell"; id: number; order: PlayerOrder }
  | { say: "drop"; id: number }
  | { say: "shape"; order: InsertOrder }
  | { say: "levels"; levels: TrackLevels };

/**
 * All of a track: what it sounds with, what that goes through, its level and pan, and what of it goes to the room.
 * What pads send goes there at the track's level, from the middle.
 */
export class TrackSound {
  private readonly players = new Map<number, Voices | Hits>();
  private readonly inserts: InsertSound;
  private readonly level: Eased;
  private readonly pan: Eased;
  private readonly sends: Readonly<Record<Send, Eased>>;
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
    this.level = new Eased(1, rate);
    this.pan = new Eased(0, rate);
    this.sends = { reverb: new Eased(0, rate), echo: new Eased(0, rate) };
  }

  /** Takes an order, when the next sample to be made is `frame`. */
  take(order: TrackOrder, frame: number): void {
    if (order.say === "make") {
      const { rate, epoch } = this;
      this.players.set(
        order.id,
        order.player === "voices" ? new Voices(rate, epoch) : new Hits(rate),
      );
    } else if (order.say === "tell") {
      const player = this.players.get(order.id);
      if (player instanceof Voices) player.take(order.order as VoiceOrder, frame);
      else player?.take(order.order as HitOrder, frame);
    } else if (order.say === "drop") this.players.delete(order.id);
    else if (order.say === "shape") this.inserts.take(order.order);
    else this.set(order.levels);
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
      if (player instanceof Hits) this.strike(player, left, right, frame, room);
      else if (first) player.run(left, right, frame);
      else this.add(player, left, right, frame);
      first = false;
    }
    this.inserts.run(left, right, frame);
    this.place(left, right);
    this.send(left, right, room);
  }

  private strike(
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
