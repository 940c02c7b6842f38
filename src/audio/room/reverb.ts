import { PLAIN_ROOM, roomTime, type Bpm, type Milliseconds, type Room, type Seconds } from "@/core";
import { ease, gainNode, inChannels } from "../ease";
import { Hall } from "./hall";

/** One room passes into another in so many seconds. */
const PASSING: Seconds = 0.06;
/** So long after, what was before is let go. */
const GONE: Milliseconds = 250;

/**
 * The reverb: a delay before it, and a hall. Another hall is made beside the one that sounds, and one passes
 * into the other; a slider makes one at a time.
 */
export class Reverb {
  readonly input: GainNode;
  private readonly before: DelayNode;
  private readonly output: GainNode;
  private now: { hall: Hall; gain: GainNode; decay: number; size: number } | null = null;
  private passing: ReturnType<typeof setTimeout> | null = null;
  private wanted: { room: Room | undefined; bpm: Bpm } | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    output: AudioNode,
  ) {
    this.input = context.createGain();
    // A room hears both sides as one.
    inChannels(this.input, 1);
    this.before = context.createDelay(1);
    this.output = context.createGain();
    this.input.connect(this.before);
    this.output.connect(output);
  }

  /** Resolves when it sounds. */
  async ready(): Promise<void> {
    await this.now?.hall.ready();
  }

  update(room: Room | undefined, bpm: Bpm): void {
    const { size, tone } = { ...PLAIN_ROOM, ...room };
    const decay = roomTime(room, "decay", bpm);
    ease(this.before.delayTime, roomTime(room, "preDelay", bpm) / 1000, this.context);
    if (this.now?.decay === decay && this.now.size === size) {
      this.now.hall.setTone(tone);
      return;
    }
    if (this.passing !== null) {
      this.wanted = { room, bpm };
      return;
    }
    this.pass(decay, size, tone);
  }

  private pass(decay: Milliseconds, size: number, tone: number): void {
    const { context, now: old } = this;
    const hall = new Hall(context, { rate: context.sampleRate, decay, size });
    hall.setTone(tone);
    const time = context.currentTime;
    const gain = gainNode(context, old ? 0 : 1);
    this.before.connect(hall.input);
    hall.output.connect(gain).connect(this.output);
    this.now = { hall, gain, decay, size };
    if (!old) return;
    gain.gain.setValueAtTime(0, time);
    gain.gain.linearRampToValueAtTime(1, time + PASSING);
    old.gain.gain.setValueAtTime(1, time);
    old.gain.gain.linearRampToValueAtTime(0, time + PASSING);
    this.passing = setTimeout(() => {
      this.passing = null;
      this.before.disconnect(old.hall.input);
      old.gain.disconnect();
      old.hall.dispose();
      const { wanted } = this;
      this.wanted = null;
      if (wanted) this.update(wanted.room, wanted.bpm);
    }, GONE);
  }

  dispose(): void {
    if (this.passing !== null) clearTimeout(this.passing);
    this.input.disconnect();
    this.before.disconnect();
    this.now?.gain.disconnect();
    this.now?.hall.dispose();
    this.output.disconnect();
  }
}
