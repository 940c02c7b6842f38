import { sectionsOf, timeMap, totalTicks } from "@/core/score";
import { bendLine, playbackEvents, bendSteps } from "@/core/playback";
import { type MidiMessage, midiBytes } from "@/core/perform";
import { DRUM_CHANNEL, FormatError, melodicChannel, readSmf } from "@/core/formats";
import type { MidiPort } from "./midi-in";
import { nth } from "@/core/base";

/** How often the file is looked at for what is due, in ms. */
const WAKE_MS = 4;

/** A message of a file, at a time in ms from its beginning. */
export interface TimedMessage {
  at: number;
  message: MidiMessage;
}

/**
 * The notes and bends of a Standard MIDI File as a device would send them, at the file's tempo, in order.
 * Throws a `FormatError`.
 */
export function fileMessages(bytes: Uint8Array): TimedMessage[] {
  const { project } = readSmf(bytes);
  const end = totalTicks(sectionsOf(project));
  const { secondsAt } = timeMap(project);
  const ms = (tick: number) => secondsAt(tick) * 1000;
  const list: (TimedMessage & { order: number })[] = [];
  const melodic = project.tracks.filter((track) => track.kind === "melody");
  const channelOf = (id: string) => {
    const at = melodic.findIndex((track) => track.id === id);
    return 1 + (at < 0 ? DRUM_CHANNEL : melodicChannel(at));
  };
  for (const { track, start, length, pitch, velocity } of playbackEvents(project, 0, end, {
    loop: false,
  })) {
    const channel = channelOf(track);
    list.push({ at: ms(start), order: 2, message: { type: "on", channel, pitch, velocity } });
    list.push({ at: ms(start + length), order: 0, message: { type: "off", channel, pitch } });
  }
  for (const { id } of melodic) {
    for (const { tick, value } of bendSteps(bendLine(project, id, [0, end], { loop: false }))) {
      list.push({
        at: ms(tick),
        order: 1,
        message: { type: "bend", channel: channelOf(id), value },
      });
    }
  }
  // At one time ends come first, so that a note struck again begins again.
  list.sort((a, b) => a.at - b.at || a.order - b.order);
  return list.map(({ at, message }) => ({ at, message }));
}

/**
 * A small keyboard with pads that is not there: it sends the bytes a real one would, through the same
 * reader, and can play a file into the program as fast as it is meant to be heard.
 */
export class SimulatedController implements MidiPort {
  readonly id = "simulated";
  readonly name = "Simulated controller";
  readonly simulated = true;
  /** 1–16, pads on 10. */
  channel = 1;
  private listener: ((bytes: Iterable<number>, time: number) => void) | null = null;
  private timer: ReturnType<typeof setInterval> | null = null;
  private sounding = new Map<string, MidiMessage>();

  listen(listener: (bytes: Iterable<number>, time: number) => void): () => void {
    this.listener = listener;
    return () => {
      this.stopFile();
      this.listener = null;
    };
  }

  send(message: MidiMessage, time = performance.now()): void {
    this.listener?.(midiBytes(message), time);
  }

  press(
    pitch: number,
    velocity: number,
    { pad = false, time }: { pad?: boolean; time?: number } = {},
  ): void {
    this.send(
      { type: "on", channel: pad ? DRUM_CHANNEL + 1 : this.channel, pitch, velocity },
      time,
    );
  }

  lift(pitch: number, { pad = false, time }: { pad?: boolean; time?: number } = {}): void {
    this.send({ type: "off", channel: pad ? DRUM_CHANNEL + 1 : this.channel, pitch }, time);
  }

  wheel(value: number, time?: number): void {
    this.send({ type: "bend", channel: this.channel, value }, time);
  }

  pedal(down: boolean, time?: number): void {
    this.send({ type: "sustain", channel: this.channel, down }, time);
  }

  get playsFile(): boolean {
    return this.timer !== null;
  }

  /**
   * Plays a file in real time from a time of the page's clock on; its messages carry the times they are
   * meant for. Throws a `FormatError` for what is no MIDI file or has no notes; `done` is told of the end.
   */
  playFile(
    bytes: Uint8Array,
    begin = performance.now(),
    done: () => void = () => undefined,
  ): number {
    const messages = fileMessages(bytes);
    if (messages.length === 0) throw new FormatError("The file holds no notes");
    this.stopFile();
    let next = 0;
    const wake = () => {
      const now = performance.now();
      for (; next < messages.length && begin + nth(messages, next).at <= now; next++) {
        const { at, message } = nth(messages, next);
        if (message.type === "on")
          this.sounding.set(`${message.channel}/${message.pitch}`, message);
        if (message.type === "off") this.sounding.delete(`${message.channel}/${message.pitch}`);
        this.send(message, begin + at);
      }
      if (next < messages.length) return;
      this.stopFile();
      done();
    };
    this.timer = setInterval(wake, WAKE_MS);
    return messages.filter(({ message }) => message.type === "on").length;
  }

  /** Ends the file; what it holds is let go. */
  stopFile(): void {
    if (this.timer) clearInterval(this.timer);
    this.timer = null;
    for (const on of this.sounding.values()) {
      if (on.type === "on") this.send({ type: "off", channel: on.channel, pitch: on.pitch });
    }
    this.sounding.clear();
  }
}
