import { PLAIN_SOUND, type Seconds, type SoundValues } from "@/core";
import { Detour } from "../detour";
import { ease, gainNode } from "../ease";
import { Driver } from "../strip/driver";
import { shelf } from "../strip/inserts";

/** What full brightness and full body do: cents of the voices' own filters, dB of the shelves. */
const OPENS = 2400;
const SHINE = 9;
const WEIGHT = 12;
/** Where the shelves turn, in Hz. */
const BRIGHT_FROM = 2200;
const BODY_TO = 320;
/** Motion: two delays that swing about their middle, a quarter of a round apart. Seconds and Hz. */
const SWING = { middle: 0.009, depth: 0.0035, hz: 0.55, level: 0.7 };
/** Width: what is late is added on one side and taken away on the other, so the sum of both is as it was. */
const LATE = 0.013;
/** Delays have filled after this. */
const FILLED: Seconds = 0.025;

/**
 * What all notes of a melodic sound go through together, and what can change while they sound. Nothing is made
 * until a value is not plain.
 */
export class Body {
  readonly input: GainNode;
  private readonly way: Detour;
  private parts: Parts | null = null;
  private cents: ConstantSourceNode | null = null;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly output: AudioNode,
  ) {
    this.input = gainNode(context, 1);
    this.way = new Detour(context, this.input, output);
  }

  /** Opens and closes the filters of voices: for their `detune`. Null while they are as they are. */
  get opening(): AudioNode | null {
    return this.cents;
  }

  update(values: SoundValues): void {
    const { context } = this;
    const plain = (["brightness", "body", "motion", "drive", "width"] as const).every(
      (control) => values[control] === PLAIN_SOUND[control],
    );
    if (!this.parts) {
      if (plain) return;
      this.parts = new Parts(context);
      this.way.through(this.parts.input, this.parts.output);
      this.parts.update(values, FILLED);
    } else this.parts.update(values);
    if (!this.cents) {
      if (values.brightness === 0) return;
      this.cents = context.createConstantSource();
      this.cents.offset.value = 0;
      this.cents.start();
    }
    ease(this.cents.offset, (OPENS * values.brightness) / 100, context);
  }

  dispose(): void {
    this.input.disconnect();
    this.way.dispose();
    this.parts?.dispose();
    this.cents?.stop();
    this.cents?.disconnect();
  }
}

class Parts {
  readonly input: BiquadFilterNode;
  readonly output: GainNode;
  private readonly high: BiquadFilterNode;
  private readonly driver: Driver;
  private readonly swung: GainNode;
  private readonly wide: GainNode[];
  private readonly sources: OscillatorNode[];
  private readonly nodes: AudioNode[];

  constructor(private readonly context: BaseAudioContext) {
    this.input = shelf(context, "lowshelf", BODY_TO);
    this.high = shelf(context, "highshelf", BRIGHT_FROM);
    this.input.connect(this.high);
    this.driver = new Driver(context, this.high);
    const sum = this.driver.output;
    this.output = gainNode(context, 1);
    sum.connect(this.output);

    const sides = context.createChannelMerger(2);
    this.swung = gainNode(context, 0);
    this.sources = [0, 0.25].map((ahead, side) => {
      const delay = context.createDelay(0.05);
      delay.delayTime.value = SWING.middle;
      const swing = context.createOscillator();
      swing.setPeriodicWave(sineFrom(context, ahead));
      swing.frequency.value = SWING.hz;
      const depth = gainNode(context, SWING.depth);
      swing.connect(depth).connect(delay.delayTime);
      swing.start();
      mono(delay);
      sum.connect(delay).connect(sides, 0, side);
      return swing;
    });
    sides.connect(this.swung).connect(this.output);

    const late = context.createDelay(0.05);
    late.delayTime.value = LATE;
    mono(late);
    const apart = context.createChannelMerger(2);
    this.wide = [gainNode(context, 0), gainNode(context, 0)];
    sum.connect(late);
    this.wide.forEach((gain, side) => late.connect(gain).connect(apart, 0, side));
    apart.connect(this.output);
    this.nodes = [this.input, this.high, sides, this.swung, late, apart, this.output, ...this.wide];
  }

  /** `wait`: so long the delays are left to fill, or their beginning would be heard as one of the sound. */
  update({ brightness, body, motion, drive, width }: SoundValues, wait: Seconds = 0): void {
    ease(this.input.gain, (WEIGHT * body) / 100, this.context);
    ease(this.high.gain, (SHINE * brightness) / 100, this.context);
    this.driver.set(drive);
    ease(this.swung.gain, (SWING.level * motion) / 100, this.context, wait);
    this.wide.forEach((gain, side) =>
      ease(gain.gain, (side === 0 ? 0.8 : -0.8) * (width / 100), this.context, wait),
    );
  }

  dispose(): void {
    for (const source of this.sources) {
      source.stop();
      source.disconnect();
    }
    for (const node of this.nodes) node.disconnect();
    this.driver.dispose();
  }
}

/** A node that takes what comes in as one channel. */
function mono(node: AudioNode): void {
  node.channelCount = 1;
  node.channelCountMode = "explicit";
}

/** A sine that is so many rounds ahead. */
function sineFrom(context: BaseAudioContext, ahead: number): PeriodicWave {
  const angle = 2 * Math.PI * ahead;
  return context.createPeriodicWave(
    new Float32Array([0, Math.sin(angle)]),
    new Float32Array([0, Math.cos(angle)]),
  );
}
