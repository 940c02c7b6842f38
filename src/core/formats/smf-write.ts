import { playbackEvents, type PlaybackEvent } from "../playback/events";
import { sectionsOf, totalTicks } from "../playback/sections";
import { scaleSemitones, keyName, type Key } from "../pitch/scales";
import type { Project, Track } from "../score/model";
import { PPQ, beatTicks } from "../time/ticks";
import { ByteWriter } from "./bytes";
import { programOf } from "./sounds";
import type { Decibels, MidiPitch, Ticks, Velocity } from "../units";

/** What of a project is written as MIDI. */
export interface SmfOptions {
  /** Only this pattern, once; else the song, or without one all patterns in order. */
  pattern?: string;
}

/** Percussion is channel 10 in General MIDI 1; counted from 0 here. */
export const DRUM_CHANNEL = 9;

/**
 * A Standard MIDI File 1.0 of format 1: a conductor track, then one track per track that sounds.
 * It holds what `playbackEvents` gives, so muted tracks are left out and early hits begin at 0.
 * Division 960; level and pan as controllers 7 and 10; per-note pan and tune have no place in it.
 */
export function writeSmf(project: Project, options: SmfOptions = {}): Uint8Array {
  const sections = sectionsOf(project, options.pattern);
  const end = totalTicks(sections);
  const events = playbackEvents(project, 0, end, { pattern: options.pattern, loop: false });
  const byTrack = new Map<string, PlaybackEvent[]>();
  for (const event of events) {
    const list = byTrack.get(event.track);
    if (list) list.push(event);
    else byTrack.set(event.track, [event]);
  }
  const used = project.tracks.filter((track) => byTrack.has(track.id));
  const chunks = [conductor(project, sections, end)];
  let melodic = 0;
  for (const track of used) {
    let channel = DRUM_CHANNEL;
    if (track.kind === "melody") {
      channel = melodic % 15;
      if (channel >= DRUM_CHANNEL) channel++;
      melodic++;
    }
    chunks.push(trackChunk(track, channel, byTrack.get(track.id)!, end));
  }
  const file = new ByteWriter();
  file.append(ascii("MThd"));
  file.u32(6);
  file.u16(1);
  file.u16(chunks.length);
  file.u16(PPQ);
  for (const chunk of chunks) {
    file.append(ascii("MTrk"));
    file.u32(chunk.length);
    file.append(chunk);
  }
  return file.done();
}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

function meta(out: ByteWriter, delta: number, type: number, data: Uint8Array): void {
  out.vlq(delta);
  out.u8(0xff, type);
  out.vlq(data.length);
  out.append(data);
}

const utf8 = (text: string) => new TextEncoder().encode(text);

function conductor(
  project: Project,
  sections: readonly { at: number; pattern: { name: string } }[],
  end: number,
): Uint8Array {
  const out = new ByteWriter();
  meta(out, 0, 0x03, utf8(project.name));
  // The key signature event knows major and minor only; this text keeps the scale's full name.
  meta(out, 0, 0x01, utf8(`Key: ${keyText(project.key)}`));
  const us = Math.round(60_000_000 / project.tempo);
  meta(out, 0, 0x51, Uint8Array.of(us >> 16, (us >> 8) & 0xff, us & 0xff));
  const { beats, unit } = project.metre;
  // A metronome clicks once a felt beat; there are 24 clocks to a quarter.
  const clocks = (24 * beatTicks(project.metre)) / PPQ;
  meta(out, 0, 0x58, Uint8Array.of(beats, Math.log2(unit), clocks, 8));
  const { fifths, minor } = signatureOf(project.key);
  meta(out, 0, 0x59, Uint8Array.of(fifths & 0xff, minor ? 1 : 0));
  let last = 0;
  for (const section of sections) {
    meta(out, section.at - last, 0x06, utf8(section.pattern.name));
    last = section.at;
  }
  meta(out, end - last, 0x2f, new Uint8Array());
  return out.done();
}

/** `<root 0–11> <scale>`: what `readSmf` finds the exact key by. */
export function keyText(key: Key): string {
  return `${key.root} ${key.scale} (${keyName(key)})`;
}

/** Sharps (+) or flats (−) of the key signature nearest to a key: by its third major or minor. */
export function signatureOf(key: Key): { fifths: number; minor: boolean } {
  const semitones = scaleSemitones(key.scale);
  const minor = semitones.includes(3) && !semitones.includes(4);
  const major = (key.root + (minor ? 3 : 0)) % 12;
  const fifths = (major * 7) % 12;
  return { fifths: fifths > 6 ? fifths - 12 : fifths, minor };
}

/** The controller value that is 0 dB here. */
const VOLUME_0_DB = 100;
/**
 * A level in dB as MIDI controller 7 (0–127): 0 dB is 100, after General MIDI 2’s recommended law
 * 40·log10(cc/127), shifted so.
 */
export function levelToVolume(db: Decibels): number {
  return db <= -60 ? 0 : Math.min(127, Math.round(VOLUME_0_DB * 10 ** (db / 40)));
}
/**
 * MIDI controller 7 (0–127) as a level in dB, −60 for silence; the other way round of
 * `levelToVolume`.
 */
export function volumeToLevel(value: number): number {
  if (value === 0) return -60;
  return Math.max(-60, Math.min(6, Math.round(400 * Math.log10(value / VOLUME_0_DB)) / 10));
}

function trackChunk(
  track: Track,
  channel: number,
  events: readonly PlaybackEvent[],
  end: number,
): Uint8Array {
  const out = new ByteWriter();
  meta(out, 0, 0x03, utf8(track.name));
  if (track.kind === "melody") {
    out.vlq(0);
    out.u8(0xc0 | channel, programOf(track.sound));
  }
  out.vlq(0);
  out.u8(0xb0 | channel, 7, levelToVolume(track.level));
  out.vlq(0);
  out.u8(0xb0 | channel, 10, 64 + Math.round(track.pan * (track.pan < 0 ? 64 : 63)));

  // A note may have a channel of its own; one pitch can sound once on each.
  const byChannel = new Map<number, PlaybackEvent[]>();
  for (const event of events) {
    const own = event.channel === undefined ? channel : event.channel - 1;
    const list = byChannel.get(own);
    if (list) list.push(event);
    else byChannel.set(own, [event]);
  }
  const messages = sorted(
    [...byChannel].flatMap(([own, list]) =>
      noteMessages(list).map((message) => ({ ...message, channel: own })),
    ),
  );
  let last = 0;
  for (const { tick, status, pitch, velocity, channel: own } of messages) {
    out.vlq(tick - last);
    out.u8(status | own, pitch, velocity);
    last = tick;
  }
  meta(out, Math.max(0, end - last), 0x2f, new Uint8Array());
  return out.done();
}

interface NoteMessage {
  tick: Ticks;
  status: number;
  pitch: MidiPitch;
  velocity: Velocity;
}

/**
 * Note-ons and note-offs of one channel. A note still sounding when the same pitch begins again ends
 * there: MIDI cannot hold one pitch twice on a channel.
 */
function noteMessages(events: readonly PlaybackEvent[]): NoteMessage[] {
  const messages: NoteMessage[] = [];
  const sounding: ({ on: NoteMessage; off: NoteMessage } | undefined)[] = [];
  for (const event of events) {
    const previous = sounding[event.pitch];
    const end = event.start + event.length;
    if (previous?.on.tick === event.start) {
      // The same pitch twice at one tick is one note to MIDI: as loud and as long as the larger.
      previous.on.velocity = Math.max(previous.on.velocity, event.velocity);
      previous.off.tick = Math.max(previous.off.tick, end);
      continue;
    }
    if (previous && previous.off.tick > event.start) previous.off.tick = event.start;
    const { pitch, velocity } = event;
    const on = { tick: event.start, status: 0x90, pitch, velocity };
    const off = { tick: end, status: 0x80, pitch, velocity: 64 };
    messages.push(on, off);
    sounding[pitch] = { on, off };
  }
  return messages;
}

/** In order of time; at one tick, offs come before ons. */
function sorted<M extends NoteMessage>(messages: readonly M[]): M[] {
  return messages
    .map((message, i) => ({ message, i }))
    .sort((a, b) => {
      const byTick = a.message.tick - b.message.tick;
      if (byTick) return byTick;
      return a.message.status - b.message.status || a.i - b.i;
    })
    .map(({ message }) => message);
}
