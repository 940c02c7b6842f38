import { PLAIN_SOUND, type Seconds, type SoundValues } from "@/core";
import { Detour } from "../detour";
import { ease, gainNode, inChannels } from "../ease";
import { swing } from "../epoch";
import { Driver } from "../strip/driver";
import { Shelves } from "../strip/inserts";

/** What full brightness and full body do: cents of the voices' own filters, dB of the shelves. */
const OPENS = 2400;
const SHINE = 9;
const WEIGHT = 12;
/** Where the shelves turn, in Hz. */
const TURN = { low: 320, high: 2200 } as const;
/** Motion: two delays that swing about their middle, a quarter of a round apart. Seconds and Hz. */
const SWING = { middle: 0.009, depth: 0.0035, hz: 0.55, level: 0.7 };
/** Width: what is late is added on one side and taken away on the other, so the sum of both is as it was. */
const LATE: Seconds = 0.013;
const APART = 0.8;
/** Delays have filled after this; heard before, their beginning would be one of the sound. */
const FILLED: Seconds = 0.025;

/**
 * What all notes of a melodic sound go through together, and what can change while they sound. Each part is made
 * when its value is first not plain.
 */
export class Body {
  readonly input: GainNode;
  private readonly toned: GainNode;
  private readonly whole: GainNode;
  private readonly ways: [Detour, Detour];
  private shelves: Shelves | null = null;
  private driver: Driver | null = null;
  private motion: Motion | null = null;
  private width: Width | null = null;
  private cents: ConstantSourceNode | null = null;
  private filters: AudioNode | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly output: AudioNode,
  ) {
    this.input = gainNode(context, 1);
    this.toned = gainNode(context, 1);
    this.whole = gainNode(context, 1);
    this.ways = [
      new Detour(context, this.input, this.toned),
      new Detour(context, this.toned, this.whole),
    ];
    this.whole.connect(output);
  }

  /** Where to it leads what opens and closes the filters of voices, in cents. */
  opens(filters: AudioNode): void {
    this.filters = filters;
    this.cents?.connect(filters);
  }

  update({ brightness, body, motion, drive, width }: SoundValues): void {
    const { context, ways, whole, output } = this;
    if (!this.shelves && (brightness !== PLAIN_SOUND.brightness || body !== PLAIN_SOUND.body)) {
      this.shelves = new Shelves(context, TURN);
      ways[0].through(this.shelves.input, this.shelves.output);
    }
    this.shelves?.set((WEIGHT * body) / 100, (SHINE * brightness) / 100);
    if (!this.driver && drive > 0) {
      this.driver = new Driver(context);
      ways[1].through(this.driver.input, this.driver.output);
    }
    this.driver?.set(drive);
    if (!this.motion && motion > 0) this.motion = new Motion(context, whole, output);
    this.motion?.set(motion);
    if (!this.width && width > 0) this.width = new Width(context, whole, output);
    this.width?.set(width);
    if (!this.cents) {
      if (brightness === 0) return;
      this.cents = context.createConstantSource();
      this.cents.offset.value = 0;
      if (this.filters) this.cents.connect(this.filters);
      this.cents.start();
    }
    ease(this.cents.offset, (OPENS * brightness) / 100, context);
  }

  dispose(): void {
    this.input.disconnect();
    for (const way of this.ways) way.dispose();
    this.toned.disconnect();
    this.whole.disconnect();
    this.shelves?.dispose();
    this.driver?.dispose();
    this.motion?.dispose();
    this.width?.dispose();
    this.cents?.stop();
    this.cents?.disconnect();
  }
}

/** Copies whose pitch swings slowly, one to each side, beside the sound itself. */
class Motion {
  private readonly sources: OscillatorNode[];
  private readonly gain: GainNode;
  private fresh = true;

  constructor(
    private readonly context: BaseAudioContext,
    from: AudioNode,
    to: AudioNode,
  ) {
    const sides = context.createChannelMerger(2);
    this.gain = gainNode(context, 0);
    this.sources = [0, 0.25].map((ahead, side) => {
      const delay = monoDelay(context, SWING.middle);
      const source = swing(context, SWING.hz, ahead);
      source.connect(gainNode(context, SWING.depth)).connect(delay.delayTime);
      source.start();
      from.connect(delay).connect(sides, 0, side);
      return source;
    });
    sides.connect(this.gain).connect(to);
  }

  set(percent: number): void {
    ease(this.gain.gain, (SWING.level * percent) / 100, this.context, this.fresh ? FILLED : 0);
    this.fresh = false;
  }

  dispose(): void {
    for (const source of this.sources) {
      source.stop();
      source.disconnect();
    }
    this.gain.disconnect();
  }
}

/** What comes a little late, apart to both sides. */
class Width {
  private readonly sides: GainNode[];
  private readonly apart: ChannelMergerNode;
  private fresh = true;

  constructor(
    private readonly context: BaseAudioContext,
    from: AudioNode,
    to: AudioNode,
  ) {
    const late = monoDelay(context, LATE);
    this.apart = context.createChannelMerger(2);
    this.sides = [0, 1].map((side) => {
      const gain = gainNode(context, 0);
      late.connect(gain).connect(this.apart, 0, side);
      return gain;
    });
    from.connect(late);
    this.apart.connect(to);
  }

  set(percent: number): void {
    const wait = this.fresh ? FILLED : 0;
    this.sides.forEach((gain, side) =>
      ease(gain.gain, ((side === 0 ? APART : -APART) * percent) / 100, this.context, wait),
    );
    this.fresh = false;
  }

  dispose(): void {
    this.apart.disconnect();
  }
}

/** A short delay of what comes in as one channel. */
function monoDelay(context: BaseAudioContext, seconds: Seconds): DelayNode {
  const delay = context.createDelay(0.05);
  delay.delayTime.value = seconds;
  inChannels(delay, 1);
  return delay;
}
