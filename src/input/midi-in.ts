import { type MidiMessage, MidiStream } from "@/core/perform";

/** Something that speaks MIDI: a device of the machine, or the simulated controller. */
export interface MidiPort {
  /** Stays the same while it is plugged in. */
  id: string;
  name: string;
  simulated: boolean;
  /** Is told of bytes as they come, each portion with its time in ms of the page's clock. Gives a way to stop. */
  listen(listener: (bytes: Iterable<number>, time: number) => void): () => void;
}

/** What is told of the devices. */
export interface MidiSink {
  /** A message of an input that is listened to. */
  message(message: MidiMessage, port: MidiPort, time: number): void;
  /** An input is gone, or no longer listened to: what it holds is to be let go. */
  gone(port: MidiPort): void;
  /** The list of inputs, or what they are doing, changed. */
  changed(): void;
}

/** Which inputs and channels are listened to. */
export interface MidiChoice {
  /** Name of the one input; null for all. */
  input: string | null;
  /** 1–16; 0 for all. */
  channel: number;
}

/** An input shows that it speaks for so long after it did, in ms. */
const ACTIVE_MS = 250;

/** The inputs there are: each with a reader of its own, so that a message in portions is one. */
export class MidiIn {
  private readonly open = new Map<string, { port: MidiPort; stop(): void }>();
  private readonly spoken = new Map<string, number>();
  private choice: MidiChoice = { input: null, channel: 0 };

  constructor(private readonly sink: MidiSink) {}

  get ports(): readonly MidiPort[] {
    return [...this.open.values()].map(({ port }) => port);
  }

  /** Whether an input is listened to. The simulated controller is whatever else is chosen. */
  isHeard(port: MidiPort): boolean {
    return this.choice.input === null || this.choice.input === port.name || port.simulated;
  }

  /** Whether an input spoke a moment ago. */
  isActive(port: MidiPort, now: number): boolean {
    return now - (this.spoken.get(port.id) ?? -Infinity) < ACTIVE_MS;
  }

  choose(choice: MidiChoice): void {
    const before = this.ports.filter((port) => this.isHeard(port));
    const otherChannel = choice.channel !== this.choice.channel;
    this.choice = choice;
    for (const port of before) if (otherChannel || !this.isHeard(port)) this.sink.gone(port);
    this.sink.changed();
  }

  /** Takes an input in; one that is there already stays. */
  plug(port: MidiPort): void {
    if (this.open.has(port.id)) return;
    const stream = new MidiStream();
    const stop = port.listen((bytes, time) => {
      this.spoken.set(port.id, time);
      for (const message of stream.push(bytes)) this.hear(message, port, time);
      this.sink.changed();
    });
    this.open.set(port.id, { port, stop });
    this.sink.changed();
  }

  /** An input is gone: nothing it held goes on. */
  unplug(id: string): void {
    const known = this.open.get(id);
    if (!known) return;
    known.stop();
    this.open.delete(id);
    this.sink.gone(known.port);
    this.sink.changed();
  }

  close(): void {
    for (const id of [...this.open.keys()]) this.unplug(id);
  }

  private hear(message: MidiMessage, port: MidiPort, time: number): void {
    if (!this.isHeard(port)) return;
    const { channel } = this.choice;
    if (channel !== 0 && message.type !== "reset" && message.channel !== channel) return;
    this.sink.message(message, port, time);
  }
}
