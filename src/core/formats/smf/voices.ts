import { type Decibels, type MidiPitch, type Ticks, type Velocity, clamp, nth } from "../../base";
import { LIMITS, type Note, makeNote } from "../../score";
import { Down } from "./down";
import { Losses } from "../import/losses";
import { readChannelsText, readLevelText } from "./own";
import { LAST_TICK, channelAt, type ReadPosition } from "./place";
import { anotherVoice, isDrumChannel, newVoice, type Voice } from "./voice";
import { levelToVolume, volumeToLevel } from "./levels";

const MAX_NOTES = LIMITS.notesPerPart;

/** Stands for notes that a voice holds no more. */
const BEYOND: Note = makeNote({ id: "", start: -1, pitch: 0 });

/** Names of notes, made once: most files have as many as those before. */
const NAMES: string[] = [];
const nameAt = (index: number): string => (NAMES[index] ??= `m${index + 1}`);

/** Names of notes by their tracks but the first, made once. */
const TRACK_NAMES: string[][] = [];

/**
 * Gives the notes of a track (from 0) ids that no other track's have: chances are drawn by them, and those of two
 * tracks are not to fall together.
 */
export function nameNotes(notes: readonly Note[], track: number): void {
  if (track === 0) return;
  const names = (TRACK_NAMES[track] ??= []);
  notes.forEach((note, i) => {
    note.id = names[i] ??= `t${track + 1}m${i + 1}`;
  });
}

const BEYOND_PART = `beyond the ${MAX_NOTES} that a part holds`;

/**
 * The voices of one track chunk while it is read: one for each channel, and of a melodic channel that goes from one
 * program to another one for each of them. All in ticks of the file.
 */
export class Voices {
  readonly all: Voice[] = [];
  /** How many notes have begun. */
  begun = 0;
  /** Where the last note ends. */
  end = 0;
  /** Whether some note has no length. */
  empty = false;
  /** Whether a sustain pedal is pressed (controller 64, from 64 on down; MIDI 1.0). */
  pedalled = false;
  readonly lost = new Losses();
  /** What each channel plays just now. */
  private readonly now: (Voice | undefined)[] = [];
  /** Notes that have begun and not ended, by channel. */
  private readonly open: (Down | undefined)[] = [];
  /** Channels whose pedal is down, with the pitches that were let go of meanwhile. */
  private readonly held = new Map<number, number[]>();
  /** The exact level that `writeSmf` adds as a text, since volumes are coarse and end at +4 dB. */
  private exact: Decibels | null = null;
  /** Channels whose notes `writeSmf` says belong to the chunk's other one. */
  private also: readonly number[] = [];

  /**
   * With `pedal`, notes are held for as long as the sustain pedal is down. `room`: about so many notes may come.
   */
  constructor(
    private readonly pedal: boolean,
    private readonly space: number,
  ) {}

  /** Where the first note begins; null where none does. */
  get first(): Ticks | null {
    const starts = this.all.flatMap(({ notes }) => notes[0]?.start ?? []);
    return starts.length === 0 ? null : Math.min(...starts);
  }

  /**
   * Takes notes as long as nothing else comes, nothing unusual, and no channel that has not played: most of a chunk.
   * Moves `place` to where that is.
   */
  take(bytes: Uint8Array, place: ReadPosition): void {
    while (place.at < bytes.length - 4) {
      const channel = channelAt(bytes, place);
      const voice = this.now[channel];
      if (!voice || this.held.has(channel)) return;
      const before = place.at;
      this.run(voice, bytes, place);
      if (place.at === before) return;
    }
  }

  /** Takes the next notes as long as they are of one channel: all at hand is looked up before. */
  private run(voice: Voice, bytes: Uint8Array, place: ReadPosition): void {
    const down = this.downOf(voice.channel);
    const low = voice.channel & 15;
    let { at, tick, running } = place;
    // A note is five bytes at the most here: two of time, its status, two of its own. Time goes on by less than 2^12 a
    // byte and 2^14 a note, so that the last tick is not passed before the end either.
    const end = Math.min(bytes.length - 4, at + (LAST_TICK - tick) / 2 ** 12 - 4);
    while (at < end) {
      let i = at;
      let time = bytes[i++]!;
      if (time > 127) {
        const more = bytes[i++]!;
        if (more > 127) break;
        time = ((time & 127) << 7) | more;
      }
      const next = bytes[i]!;
      const status = next > 127 ? next : running;
      if (status >> 5 !== 4 || (status & 15) !== low) break;
      if (next > 127) i++;
      const pitch = bytes[i]!;
      const velocity = bytes[i + 1]!;
      if ((pitch | velocity) > 127) break;
      tick += time;
      running = status;
      at = i + 2;
      // A note-on with velocity 0 is a note-off (MIDI 1.0).
      if (velocity > 0 && status >= 0x90) this.begin(voice, down, tick, pitch, velocity);
      else this.release(down, tick, pitch);
    }
    place.at = at;
    place.tick = tick;
    place.running = running;
  }

  /** Takes one note that begins, or with velocity 0 one that ends, wherever it is. */
  noteOn(tick: Ticks, channel: number, pitch: MidiPitch, velocity: Velocity): void {
    if (tick > LAST_TICK) {
      const beyond = `beyond tick ${LAST_TICK.toLocaleString("en-GB")}`;
      if (velocity > 0) this.lost.add("note", beyond);
      return;
    }
    const down = this.downOf(channel);
    if (this.underPedal(channel, down, pitch, tick, velocity > 0)) return;
    if (velocity > 0) this.begin(this.voiceOf(channel), down, tick, pitch, velocity);
    else this.release(down, tick, pitch);
  }

  private begin(voice: Voice, down: Down, tick: Ticks, pitch: MidiPitch, velocity: Velocity): void {
    const { notes } = voice;
    const index = voice.begun++;
    this.begun++;
    if (index >= MAX_NOTES) {
      this.lost.add("note", BEYOND_PART);
      down.begin(pitch, BEYOND);
      return;
    }
    const id = nameAt(index);
    const note = { id, start: tick, length: 0, pitch, velocity, pan: 0, tune: 0, slide: false };
    const last = index > 0 ? nth(notes, index - 1) : BEYOND;
    if (last.start === tick && last.pitch >= pitch) voice.inOrder = false;
    notes[index] = note;
    down.begin(pitch, note);
  }

  private release(down: Down, tick: Ticks, pitch: MidiPitch): void {
    if (!this.close(down, pitch, tick)) this.lost.add("note end", "without a beginning");
  }

  /** The chunk ends: what rings on ends with it. */
  finish(at: Ticks): void {
    const end = Math.min(LAST_TICK, at);
    for (const channel of this.held.keys()) this.press(channel, false, end);
    for (const down of this.open)
      for (let pitch = 0; down && pitch < 128; pitch++)
        while (this.close(down, pitch, end))
          this.lost.add("note", "without an end, held to the end of their track");
    for (const { notes, begun } of this.all) if (notes.length > begun) notes.length = begun;
    this.joinChannels();
  }

  /** Notes of a track that are on channels of their own come back into it. */
  private joinChannels(): void {
    const isOther = ({ channel }: Voice) => this.also.includes(channel % 16);
    const main = this.all.find((voice) => !isOther(voice));
    if (!main || this.also.length === 0) return;
    for (const voice of this.all.filter(isOther)) {
      const room = Math.max(0, MAX_NOTES - main.notes.length);
      this.lost.add("note", BEYOND_PART, Math.max(0, voice.notes.length - room));
      for (const note of voice.notes.slice(0, room)) {
        const id = nameAt(main.notes.length);
        main.notes.push({ ...note, id, channel: (voice.channel % 16) + 1 });
        main.begun++;
      }
      main.inOrder = false;
      this.all.splice(this.all.indexOf(voice), 1);
    }
  }

  /** A channel goes on with another program: what it has played stays with the one before. */
  program(channel: number, program: number): void {
    const voice = this.voiceOf(channel);
    // Where none was named before, it is the first one that sounded (General MIDI 1): no other sound.
    if (voice.program.used && voice.program.now === null && program === 0) return;
    if (!voice.program.used || voice.program.now === program || isDrumChannel(channel)) {
      voice.program.now = program;
      return;
    }
    let other = this.all.find((one) => one.channel === channel && one.program.now === program);
    if (!other) {
      other = anotherVoice(voice, program);
      this.all.push(other);
    }
    other.level.now = voice.level.now;
    other.pan.now = voice.pan.now;
    this.now[channel] = other;
  }

  bend(tick: Ticks, channel: number, value: number): void {
    this.voiceOf(channel);
    for (const voice of this.all)
      if (voice.channel === channel) voice.pitchBend.push({ tick, value });
  }

  control(tick: Ticks, channel: number, control: number, value: number): void {
    const { exact } = this;
    if (control === 64 && value >= 64) this.pedalled = true;
    if (control === 7) {
      const fits = exact !== null && levelToVolume(exact) === value;
      this.voiceOf(channel).level.now = fits ? exact : volumeToLevel(value);
    } else if (control === 10) this.voiceOf(channel).pan.now = panOf(value);
    else if (control === 64 && this.pedal) this.press(channel, value >= 64, tick);
    else this.lost.add("controller change");
  }

  /** A text of the file, as far as it may be one of `writeSmf`'s. */
  text(text: string): void {
    this.exact = readLevelText(text) ?? this.exact;
    const also = readChannelsText(text);
    if (also.length > 0) this.also = also;
  }

  /** Where a channel's pedal is down, what rang on ends when struck again; a key let go of rings on, and is done. */
  private underPedal(
    channel: number,
    down: Down,
    pitch: MidiPitch,
    tick: Ticks,
    begins: boolean,
  ): boolean {
    const rings = this.held.get(channel);
    if (!rings) return false;
    if (!begins) {
      // Only one that was not let go of already.
      if (down.count(pitch) <= rings.filter((one) => one === pitch).length) return false;
      rings.push(pitch);
      return true;
    }
    const at = rings.indexOf(pitch);
    if (at >= 0) {
      this.close(down, pitch, tick);
      rings.splice(at, 1);
    }
    return false;
  }

  private press(channel: number, down: boolean, tick: Ticks): void {
    const { held } = this;
    if (down && !held.has(channel)) held.set(channel, []);
    if (down) return;
    const end = Math.min(LAST_TICK, tick);
    for (const pitch of held.get(channel) ?? []) this.close(this.downOf(channel), pitch, end);
    held.delete(channel);
  }

  /** The first note of a key ends; false where there is none. */
  private close(down: Down, pitch: MidiPitch, tick: Ticks): boolean {
    const note = down.end(pitch);
    if (note === null) return false;
    if (note === BEYOND) return true;
    note.length = tick - note.start;
    if (note.length === 0) this.empty = true;
    if (tick > this.end) this.end = tick;
    return true;
  }

  private downOf(channel: number): Down {
    return (this.open[channel] ??= new Down());
  }

  private voiceOf(channel: number): Voice {
    let voice = this.now[channel];
    if (!voice) {
      // A list that grows is copied time and again; most chunks have one voice.
      voice = newVoice(channel, this.all.length === 0 ? Math.min(MAX_NOTES, this.space) : 0);
      this.now[channel] = voice;
      this.all.push(voice);
    }
    return voice;
  }
}

const panOf = (value: number) => clamp((value - 64) / (value < 64 ? 64 : 63), -1, 1);
