import { thinned, wheelCurve } from "../play/bend";
import { makeNote } from "../score/create";
import { LIMITS, type BendPoint, type Note } from "../score/model";
import type { Decibels, MidiPitch, Pan, Ticks, Velocity } from "../units";
import { Down } from "./smf-down";
import type { SmfTrack } from "./smf-events";
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
  /** How many notes began, those included that it holds no more. */
  begun: number;
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
  private readonly counted = new Map<T, number>();
  /** How many notes of its voice had begun when it was looked at last. */
  private since = 0;
  /** `voice` counts its notes. */
  constructor(
    private value: T,
    private readonly voice: { readonly begun: number },
  ) {}

  get now(): T {
    return this.value;
  }
  set now(value: T) {
    this.counts();
    this.value = value;
  }

  /** Whether a note began at any value of it. */
  get used(): boolean {
    return this.counts().size > 0;
  }

  private counts(): Map<T, number> {
    const run = this.voice.begun - this.since;
    if (run > 0) this.counted.set(this.value, (this.counted.get(this.value) ?? 0) + run);
    this.since = this.voice.begun;
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

/** A voice that has played nothing yet. */
function newVoice(
  channel: number,
  own: string,
  program: number | null,
  level: Decibels,
  pan: Pan,
): Voice {
  const voice = { channel, name: "", own, notes: [], begun: 0, wheel: [], end: 0 };
  return Object.assign(voice, {
    program: new Setting(program, voice),
    level: new Setting(level, voice),
    pan: new Setting(pan, voice),
  });
}

/** Whether a channel is that of the drums, on its port. */
export const isDrumChannel = (channel: number): boolean => channel % 16 === DRUM_CHANNEL;

/** Stands for notes that a voice holds no more. */
const BEYOND: Note = makeNote({ id: "", start: 0, pitch: 0 });

/** Names of notes, made once: most files have as many as those before. */
const NAMES: string[] = [];
const nameOfNote = (index: number): string => (NAMES[index] ??= `m${index + 1}`);

/**
 * Reads the notes of one track chunk, a voice for each channel, and of a melodic channel that goes from one
 * program to another for each of them. With `pedal`, notes are held for as long as the sustain pedal (controller
 * 64) is down.
 */
export function readVoices(
  { strokes, events, end: last }: SmfTrack,
  toTick: (tick: Ticks) => number,
  lost: Losses,
  pedal = false,
): Voice[] {
  const end = Math.round(toTick(last));
  /** All voices, and the one that each channel plays just now. */
  const all: Voice[] = [];
  const voices: (Voice | undefined)[] = [];
  /** Channels whose pedal is down, with the keys that were let go of meanwhile. */
  const held = new Map<number, number[]>();
  let chunkName = "";
  const names = new Map<number, string>();
  /** The exact level that `writeSmf` adds as a text, since volumes are coarse and end at +4 dB. */
  let exact: Decibels | null = null;
  const open = new Down<Voice>();
  const voiceOf = (channel: number): Voice => {
    let voice = voices[channel];
    if (!voice) {
      voice = newVoice(channel, names.get(channel) ?? "", null, 0, 0);
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
      other = newVoice(channel, voice.own, program, voice.level.now, voice.pan.now);
      other.name = voice.name;
      other.wheel = [...voice.wheel];
      all.push(other);
    }
    other.level.now = voice.level.now;
    other.pan.now = voice.pan.now;
    voices[channel] = other;
  };
  const close = (channel: number, pitch: MidiPitch, tick: Ticks): boolean => {
    const note = open.end(channel * 128 + pitch);
    if (!note) return false;
    if (note === BEYOND) return true;
    const voice = open.voice!;
    const length = tick - note.start;
    if (length < 1) lost.add("note", "of no length, kept one tick long");
    note.length = length < 1 ? 1 : length;
    const over = note.start + note.length;
    if (over > voice.end) voice.end = over;
    return true;
  };
  /** A note begins, or `BEYOND` where the voice holds no more. */
  const begin = (voice: Voice, tick: Ticks, pitch: MidiPitch, velocity: Velocity): Note => {
    const { notes } = voice;
    voice.begun++;
    if (notes.length >= LIMITS.notesPerPart) {
      lost.add("note", `beyond the ${LIMITS.notesPerPart} that a part holds`);
      return BEYOND;
    }
    const id = nameOfNote(notes.length);
    const note = { id, start: tick, length: 1, pitch, velocity, pan: 0, tune: 0, slide: false };
    notes.push(note);
    return note;
  };

  /** Whether a key is down that was not let go of under the pedal. */
  const sounds = (channel: number, pitch: MidiPitch): boolean => {
    const rings = held.get(channel)?.filter((one) => one === pitch).length ?? 0;
    return open.count(channel * 128 + pitch) > rings;
  };
  const press = (channel: number, down: boolean, tick: Ticks): void => {
    if (down && !held.has(channel)) held.set(channel, []);
    if (down) return;
    for (const pitch of held.get(channel) ?? []) close(channel, pitch, tick);
    held.delete(channel);
  };

  const strike = (tick: Ticks, channel: number, pitch: MidiPitch, velocity: Velocity): void => {
    // Struck again under the pedal, what rang on ends.
    const rings = held.size > 0 ? held.get(channel) : undefined;
    if (rings?.includes(pitch)) {
      close(channel, pitch, tick);
      rings.splice(rings.indexOf(pitch), 1);
    }
    const voice = voiceOf(channel);
    open.begin(channel * 128 + pitch, begin(voice, tick, pitch, velocity), voice);
  };
  const lift = (tick: Ticks, channel: number, pitch: MidiPitch): void => {
    if (held.size > 0 && held.has(channel) && sounds(channel, pitch))
      held.get(channel)!.push(pitch);
    else if (!close(channel, pitch, tick)) lost.add("note end", "without a beginning");
  };
  let struck = 0;
  const strokesUpTo = (count: number): void => {
    const { ticks, keys } = strokes;
    for (; struck < count; struck++) {
      const tick = Math.round(toTick(ticks[struck]!));
      const key = keys[struck]!;
      const velocity = key & 127;
      if (velocity > 0) strike(tick, key >> 14, (key >> 7) & 127, velocity);
      else lift(tick, key >> 14, (key >> 7) & 127);
    }
  };

  for (const event of events) {
    strokesUpTo(event.before);
    const tick = Math.round(toTick(event.tick));
    switch (event.type) {
      case "name":
        if (event.channel === undefined) chunkName ||= event.text.trim();
        else names.set(event.channel, names.get(event.channel) || event.text.trim());
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
  strokesUpTo(strokes.count);
  for (const channel of held.keys()) press(channel, false, end);
  for (const key of open.keys)
    while (close(Math.floor(key / 128), key % 128, end))
      lost.add("note", "without an end, held to the end of their track");
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
