import { PLAIN_ROOM, roomTime, type Bpm, type Room } from "@/core";
import { ease, gainNode } from "../ease";
import { roomKey, type Impulse, type RoomRenderer, type RoomSound } from "./impulse";

/** One room passes into another in so many seconds. */
const PASSING = 0.08;

/**
 * The reverb: a delay before it and the answer of a room. Another room is made beside the one that sounds,
 * and one passes into the other.
 */
export class Reverb {
  readonly input: GainNode;
  private readonly before: DelayNode;
  private readonly output: GainNode;
  private now: { node: ConvolverNode; gain: GainNode } | null = null;
  private wanted = "";
  private next: RoomSound | null = null;
  private busy: Promise<void> | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    output: AudioNode,
    private readonly render: RoomRenderer,
  ) {
    this.input = context.createGain();
    this.before = context.createDelay(1);
    this.output = context.createGain();
    this.input.connect(this.before);
    this.output.connect(output);
  }

  update(room: Room | undefined, bpm: Bpm): void {
    const { size, tone } = { ...PLAIN_ROOM, ...room };
    ease(this.before.delayTime, roomTime(room, "preDelay", bpm) / 1000, this.context);
    // A tempo that is dragged makes a room for each hundredth of it otherwise.
    const decay = Math.round(roomTime(room, "decay", bpm));
    const sound = { rate: this.context.sampleRate, decay, size, tone };
    const key = roomKey(sound);
    if (key === this.wanted) return;
    this.wanted = key;
    this.next = sound;
    this.busy ??= this.work();
  }

  /** Resolves when the room asked for last is there. */
  async ready(): Promise<void> {
    await this.busy;
  }

  private async work(): Promise<void> {
    while (this.next) {
      const sound = this.next;
      this.next = null;
      try {
        this.pass(await this.render(sound));
      } catch {
        // The renderer has said so; the room before goes on, and the next change tries again.
        this.wanted = "";
      }
    }
    this.busy = null;
  }

  private pass([left, right]: Impulse): void {
    const { context } = this;
    const buffer = context.createBuffer(2, left.length, context.sampleRate);
    buffer.copyToChannel(left, 0);
    buffer.copyToChannel(right, 1);
    const node = context.createConvolver();
    node.normalize = false;
    node.buffer = buffer;
    const time = context.currentTime;
    const gain = gainNode(context, time === 0 ? 1 : 0);
    this.before.connect(node).connect(gain).connect(this.output);
    const old = this.now;
    this.now = { node, gain };
    if (time > 0) gain.gain.linearRampToValueAtTime(1, time + PASSING);
    if (!old) return;
    old.gain.gain.setValueAtTime(1, time);
    old.gain.gain.linearRampToValueAtTime(0, time + PASSING);
    setTimeout(() => {
      this.before.disconnect(old.node);
      old.gain.disconnect();
    }, 400);
  }

  dispose(): void {
    this.next = null;
    this.input.disconnect();
    this.before.disconnect();
    this.now?.gain.disconnect();
    this.output.disconnect();
  }
}
