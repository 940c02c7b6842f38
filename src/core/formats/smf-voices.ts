import { thinned, wheelCurve } from "../play/bend";
import { LIMITS, type BendPoint, type Note } from "../score/model";
import type { Decibels, MidiPitch, Pan, Ticks, Velocity } from "../units";
import type { SmfEvent } from "./smf-events";
import { isOwnText } from "./smf-head";
import type { Losses } from "./smf-losses";
import { DRUM_CHANNEL, levelToVolume, volumeToLevel } from "./smf-write";

/** What plays on one channel of one track chunk. */
export interface Voice {
  /** From 0 over all ports, 16 to each. */
  channel: number;
  /** The track chunk's name. */
  name: string;
  /** The name that was given to this channel alone. */
  own: string;
  notes: Note[];
  /** What its wheel said. */
  wheel: BendPoint[];
  /** Where its last note ends, in ticks of the project. */
  end: Ticks;
  /** Null where the file names none. */
  program: Setting<number | null>;
  level: Setting<Decibels>;
  pan: Setting<Pan>;
}

/**
 * A value that a file sets now and then: what is in force just now, and how many notes began at each.
 * The one most notes begin at is the track's: a fade-out at the end says nothing of how loud it is.
 */
class Setting<T> {
  private readonly counted: Map<T, number>;
  /** Notes that began since it last changed. */
  private run = 0;
  /** `before` hands on what was counted. */
  constructor(
    private value: T,
    before: Setting<T> | null = null,
  ) {
    this.counted = before?.counts() ?? new Map<T, number>();
  }

  get now(): T {
    return this.value;
  }
  set now(value: T) {
    this.counts();
    this.value = value;
  }

  /** Whether a note began at any value of it. */
  get used(): boolean {
    return this.run > 0 || this.counted.size > 0;
  }

  noteBegins(): void {
    this.run++;
  }

  private counts(): Map<T, number> {
    if (this.run > 0) this.counted.set(this.value, (this.counted.get(this.value) ?? 0) + this.run);
    this.run = 0;
    return this.counted;
  }

  get usual(): T {
    let best = { value: this.value, count: 0 };
    for (const [value, count] of this.counts()) if (count > best.count) best = { value, count };
    return best.value;
  }

  get changes(): boolean {
    return this.counts().size > 1;
  }
}

/** Whether a channel is that of the drums, on its port. */
export const isDrumChannel = (channel: number): boolean => channel % 16 === DRUM_CHANNEL;

/** Notes of one key that have begun, in order; those before `first` have ended. A note has no length until then. */
interface Begun {
  list: { note: Note | null; voice: Voice }[];
  first: number;
}

/**
 * Reads the notes of one track chunk, a voice for each channel, and of a melodic channel that goes from one
 * program to another for each of them; `end` is where the chunk ends. With `pedal`, notes are held for as long
 * as the sustain pedal (controller 64) is down.
 */
export function readVoices(
  events: readonly SmfEvent[],
  toTick: (tick: Ticks) => number,
  end: Ticks,
  lost: Losses,
  pedal = false,
): Voice[] {
  /** All voices, and the one that each channel plays just now. */
  const all: Voice[] = [];
  const voices: (Voice | undefined)[] = [];
  /** Channels whose pedal is down, with the keys that were let go of meanwhile. */
  const held = new Map<number, number[]>();
  let chunkName = "";
  const names = new Map<number, string>();
  /** The exact level that `writeSmf` adds as a text, since volumes are coarse and end at +4 dB. */
  let exact: Decibels | null = null;
  const open: (Begun | undefined)[] = [];
  const voiceOf = (channel: number): Voice => {
    let voice = voices[channel];
    if (!voice) {
      voice = {
        channel,
        name: "",
        own: names.get(channel) ?? "",
        notes: [],
        wheel: [],
        end: 0,
        program: new Setting<number | null>(null),
        level: new Setting<Decibels>(0),
        pan: new Setting<Pan>(0),
      };
      voices[channel] = voice;
      all.push(voice);
    }
    voice.name ||= chunkName;
    return voice;
  };
  /** The voice of a channel with another program: what it has played stays with the one before. */
  const changeProgram = (channel: number, program: number): void => {
    const voice = voiceOf(channel);
    if (!voice.program.used || voice.program.now === program || isDrumChannel(channel)) {
      voice.program.now = program;
      return;
    }
    let other = all.find((one) => one.channel === channel && one.program.now === program);
    if (!other) {
      other = { ...voice, notes: [], end: 0, program: new Setting<number | null>(program) };
      other.wheel = [...voice.wheel];
      all.push(other);
    }
    other.level = new Setting(voice.level.now, other.level === voice.level ? null : other.level);
    other.pan = new Setting(voice.pan.now, other.pan === voice.pan ? null : other.pan);
    voices[channel] = other;
  };
  const close = (channel: number, pitch: MidiPitch, tick: Ticks): boolean => {
    const begun = open[channel * 128 + pitch];
    const on = begun?.list[begun.first];
    if (!on) return false;
    begun!.first++;
    const { voice, note } = on;
    if (!note) return true;
    const length = tick - note.start;
    if (length < 1) lost.add("note", "of no length, kept one tick long");
    note.length = Math.max(1, length);
    voice.end = Math.max(voice.end, note.start + note.length);
    return true;
  };
  /** A note begins; null where the voice holds no more. */
  const begin = (voice: Voice, tick: Ticks, pitch: MidiPitch, velocity: Velocity): Note | null => {
    const { notes, program, level, pan } = voice;
    program.noteBegins();
    level.noteBegins();
    pan.noteBegins();
    if (notes.length >= LIMITS.notesPerPart) {
      lost.add("note", `beyond the ${LIMITS.notesPerPart} that a part holds`);
      return null;
    }
    const id = `m${notes.length + 1}`;
    const note = { id, start: tick, length: 1, pitch, velocity, pan: 0, tune: 0, slide: false };
    notes.push(note);
    return note;
  };

  /** Whether a key is down that was not let go of under the pedal. */
  const sounds = (channel: number, pitch: MidiPitch): boolean => {
    const begun = open[channel * 128 + pitch];
    const down = held.get(channel)?.filter((one) => one === pitch).length ?? 0;
    return begun !== undefined && begun.list.length - begun.first > down;
  };
  const press = (channel: number, down: boolean, tick: Ticks): void => {
    if (down && !held.has(channel)) held.set(channel, []);
    if (down) return;
    for (const pitch of held.get(channel) ?? []) close(channel, pitch, tick);
    held.delete(channel);
  };

  for (const event of events) {
    const tick = Math.round(toTick(event.tick));
    switch (event.type) {
      case "name":
        if (event.channel === undefined) chunkName ||= event.text.trim();
        else names.set(event.channel, names.get(event.channel) || event.text.trim());
        break;
      case "on": {
        const key = event.channel * 128 + event.pitch;
        const down = held.get(event.channel);
        // Struck again under the pedal, what rang on ends.
        if (down?.includes(event.pitch)) {
          close(event.channel, event.pitch, tick);
          down.splice(down.indexOf(event.pitch), 1);
        }
        const begun = open[key];
        const voice = voiceOf(event.channel);
        const on = { note: begin(voice, tick, event.pitch, event.velocity), voice };
        if (begun) begun.list.push(on);
        else open[key] = { list: [on], first: 0 };
        break;
      }
      case "off":
        if (held.has(event.channel) && sounds(event.channel, event.pitch)) {
          held.get(event.channel)!.push(event.pitch);
        } else if (!close(event.channel, event.pitch, tick))
          lost.add("note end", "without a beginning");
        break;
      case "program":
        changeProgram(event.channel, event.program);
        break;
      case "bend":
        voiceOf(event.channel);
        for (const voice of all)
          if (voice.channel === event.channel) voice.wheel.push({ tick, value: event.value });
        break;
      case "control":
        if (event.control === 7) {
          const fits = exact !== null && levelToVolume(exact) === event.value;
          voiceOf(event.channel).level.now = fits ? exact! : volumeToLevel(event.value);
        } else if (event.control === 10) voiceOf(event.channel).pan.now = panOf(event.value);
        else if (event.control === 64 && pedal) press(event.channel, event.value >= 64, tick);
        else lost.add("controller change");
        break;
      case "text":
        if (!isOwnText(event.text)) lost.add("text");
        else exact = readLevel(event.text) ?? exact;
        break;
      case "other":
        lost.add(event.what);
        break;
    }
  }
  for (const channel of held.keys()) press(channel, false, end);
  open.forEach((begun, key) => {
    while (begun && begun.first < begun.list.length) {
      close(Math.floor(key / 128), key % 128, end);
      lost.add("note", "without an end, held to the end of their track");
    }
  });
  return all;
}

/** What a wheel said, as a curve of the points it needs; undefined where it never left the middle. */
export function curveOf(wheel: readonly BendPoint[], lost: Losses): BendPoint[] | undefined {
  if (wheel.every(({ value }) => value === 0)) return undefined;
  // Before the first word it stands in the middle.
  const said = wheel[0]!.tick > 0 ? [{ tick: 0, value: 0 }, ...wheel] : wheel;
  const curve = thinned(wheelCurve(said));
  lost.add(
    "point",
    "of pitch bend beyond those a part holds",
    Math.max(0, curve.length - LIMITS.bend),
  );
  return curve.slice(0, LIMITS.bend);
}

const panOf = (value: number) => Math.max(-1, Math.min(1, (value - 64) / (value < 64 ? 64 : 63)));

function readLevel(text: string): Decibels | null {
  const found = /^Level: (-?\d+(?:\.\d+)?)$/.exec(text);
  if (!found) return null;
  const level = Number(found[1]);
  return level >= LIMITS.level.min && level <= LIMITS.level.max ? level : null;
}
