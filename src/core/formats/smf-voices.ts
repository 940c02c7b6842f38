import { thinned, wheelCurve } from "../play/bend";
import { makeNote } from "../score/create";
import { LIMITS, type BendPoint, type Note } from "../score/model";
import type { Decibels, MidiPitch, Pan, Ticks, Velocity } from "../units";
import { Down } from "./smf-down";
import type { SmfEvent, SmfTrack } from "./smf-events";
import { isOwnText } from "./smf-head";
import type { Losses } from "./smf-losses";
import type { Strokes } from "./smf-strokes";
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
  track: SmfTrack,
  toTick: (tick: Ticks) => number,
  lost: Losses,
  pedal = false,
): Voice[] {
  return new VoiceReader(toTick, lost, pedal).read(track);
}

/** A track chunk that is being read. */
class VoiceReader {
  /** All voices, and the one that each channel plays just now. */
  private readonly all: Voice[] = [];
  private readonly voices: (Voice | undefined)[] = [];
  /** Notes that have begun and not ended, by channel and pitch: 128 to each channel. */
  private readonly open = new Down<Voice>();
  /** Channels whose pedal is down, with the keys that were let go of meanwhile. */
  private readonly held = new Map<number, number[]>();
  private chunkName = "";
  private readonly names = new Map<number, string>();
  /** The exact level that `writeSmf` adds as a text, since volumes are coarse and end at +4 dB. */
  private exact: Decibels | null = null;
  /** Strokes that have been read. */
  private struck = 0;

  constructor(
    private readonly toTick: (tick: Ticks) => number,
    private readonly lost: Losses,
    private readonly pedal: boolean,
  ) {}

  read({ strokes, events, end: last }: SmfTrack): Voice[] {
    const end = Math.round(this.toTick(last));
    for (const event of events) {
      this.strike(strokes, event.before);
      this.take(event, Math.round(this.toTick(event.tick)));
    }
    this.strike(strokes, strokes.count);
    for (const channel of this.held.keys()) this.press(channel, false, end);
    for (const key of this.open.keys)
      while (this.close(key, end))
        this.lost.add("note", "without an end, held to the end of their track");
    return this.all;
  }

  /** Notes begin and end, up to so many strokes of the chunk. */
  private strike({ ticks, keys }: Strokes, count: number): void {
    const { toTick, open, held, voices } = this;
    for (let i = this.struck; i < count; i++) {
      const tick = Math.round(toTick(ticks[i]!));
      const stroke = keys[i]!;
      const velocity = stroke & 127;
      const key = stroke >> 7;
      if (held.size > 0 && this.underPedal(key, tick, velocity > 0)) continue;
      if (velocity > 0) {
        const voice = voices[key >> 7] ?? this.voiceOf(key >> 7);
        open.begin(key, this.begin(voice, tick, key & 127, velocity), voice);
      } else if (!this.close(key, tick)) this.lost.add("note end", "without a beginning");
    }
    this.struck = count;
  }

  /** Where a channel's pedal is down, what rang on ends when struck again; a key let go of rings on, and is done. */
  private underPedal(key: number, tick: Ticks, begins: boolean): boolean {
    const rings = this.held.get(key >> 7);
    if (!rings) return false;
    if (!begins) {
      // Only one that was not let go of already.
      const down = rings.filter((one) => one === key).length;
      if (this.open.count(key) <= down) return false;
      rings.push(key);
      return true;
    }
    const at = rings.indexOf(key);
    if (at >= 0) {
      this.close(key, tick);
      rings.splice(at, 1);
    }
    return false;
  }

  private press(channel: number, down: boolean, tick: Ticks): void {
    const { held } = this;
    if (down && !held.has(channel)) held.set(channel, []);
    if (down) return;
    for (const key of held.get(channel) ?? []) this.close(key, tick);
    held.delete(channel);
  }

  /** A note begins, or `BEYOND` where the voice holds no more. */
  private begin(voice: Voice, start: Ticks, pitch: MidiPitch, velocity: Velocity): Note {
    const { notes } = voice;
    voice.begun++;
    if (notes.length >= LIMITS.notesPerPart) {
      this.lost.add("note", `beyond the ${LIMITS.notesPerPart} that a part holds`);
      return BEYOND;
    }
    const id = nameOfNote(notes.length);
    const note = { id, start, length: 1, pitch, velocity, pan: 0, tune: 0, slide: false };
    notes.push(note);
    return note;
  }

  /** The first note of a key ends; false where there is none. */
  private close(key: number, tick: Ticks): boolean {
    const note = this.open.end(key);
    if (!note) return false;
    if (note === BEYOND) return true;
    const voice = this.open.voice!;
    const length = tick - note.start;
    if (length < 1) this.lost.add("note", "of no length, kept one tick long");
    note.length = length < 1 ? 1 : length;
    const over = note.start + note.length;
    if (over > voice.end) voice.end = over;
    return true;
  }

  private voiceOf(channel: number): Voice {
    let voice = this.voices[channel];
    if (!voice) {
      voice = newVoice(channel, this.names.get(channel) ?? "", null, 0, 0);
      voice.name = this.chunkName;
      this.voices[channel] = voice;
      this.all.push(voice);
    }
    return voice;
  }

  /** The voice of a channel with another program: what it has played stays with the one before. */
  private changeProgram(channel: number, program: number): void {
    const voice = this.voiceOf(channel);
    if (!voice.program.used || voice.program.now === program || isDrumChannel(channel)) {
      voice.program.now = program;
      return;
    }
    let other = this.all.find((one) => one.channel === channel && one.program.now === program);
    if (!other) {
      other = newVoice(channel, voice.own, program, voice.level.now, voice.pan.now);
      other.name = voice.name;
      other.wheel = [...voice.wheel];
      this.all.push(other);
    }
    other.level.now = voice.level.now;
    other.pan.now = voice.pan.now;
    this.voices[channel] = other;
  }

  private take(event: SmfEvent, tick: Ticks): void {
    switch (event.type) {
      case "name":
        this.name(event.text.trim(), event.channel);
        break;
      case "program":
        this.changeProgram(event.channel, event.program);
        break;
      case "bend":
        this.voiceOf(event.channel);
        for (const voice of this.all)
          if (voice.channel === event.channel) voice.wheel.push({ tick, value: event.value });
        break;
      case "control":
        this.control(event, tick);
        break;
      case "text":
        if (!isOwnText(event.text)) this.lost.add("text");
        else this.exact = readLevel(event.text) ?? this.exact;
        break;
      case "other":
        this.lost.add(event.what);
        break;
    }
  }

  /** A name of the chunk, or of a channel alone: the first of each counts, also for what has played before it. */
  private name(text: string, channel: number | undefined): void {
    if (channel !== undefined) this.names.set(channel, this.names.get(channel) || text);
    else if (!this.chunkName) {
      this.chunkName = text;
      for (const voice of this.all) voice.name ||= text;
    }
  }

  private control(
    { channel, control, value }: Extract<SmfEvent, { type: "control" }>,
    tick: Ticks,
  ): void {
    const { exact } = this;
    if (control === 7) {
      const fits = exact !== null && levelToVolume(exact) === value;
      this.voiceOf(channel).level.now = fits ? exact : volumeToLevel(value);
    } else if (control === 10) this.voiceOf(channel).pan.now = panOf(value);
    else if (control === 64 && this.pedal) this.press(channel, value >= 64, tick);
    else this.lost.add("controller change");
  }
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
