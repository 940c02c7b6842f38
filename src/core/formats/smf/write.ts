import { signatureOf } from "../common/key-signature";
import { DRUM_CHANNEL, MELODIC_CHANNELS, melodicChannel } from "./channels";
import { LOUDEST, levelToVolume, volumeToLevel } from "./levels";
import { channelsText, keyText } from "./own";
import { type Ticks, type Velocity, clamp, nth, mustGet, mapTuple } from "../../base";
import { PPQ, beatTicks } from "../../time";
import {
  type BendPoint,
  type Project,
  type Section,
  type Track,
  arrangementOf,
  metreOf,
} from "../../score";
import {
  type PlaybackEvent,
  bendLine,
  lineTooLong,
  playbackEvents,
  bendSteps,
} from "../../playback";
import { ByteWriter } from "../container/bytes";
import { mergedChunks } from "./merge";
import { programOf } from "../common/programs";
import { Losses } from "../import/losses";

/** What of a project is written as MIDI. */
export interface SmfOptions {
  /** Only this pattern; else the song, or without one all patterns in order. */
  pattern?: string;
  /** How often it is played, 1 if left out: its loops one after another, as they are heard. */
  loops?: number;
  /** Only these ticks of it. */
  range?: readonly [from: Ticks, to: Ticks] | null;
  /** Of several tracks (1, if left out), or of one that holds all channels (0). */
  format?: 0 | 1;
}

/**
 * A Standard MIDI File 1.0 of format 1: a conductor track, then one track per track that sounds; or of format 0.
 * It holds what `playbackEvents` gives, so muted tracks are left out and early hits begin at 0.
 * Division 960; level and pan as controllers 7 and 10; per-note pan and tune have no place in it.
 * Throws a RangeError for a pattern that is not there, and where it would be longer than can be written.
 */
export function writeSmf(project: Project, options: SmfOptions = {}): Uint8Array {
  return writeSmfReported(project, options).bytes;
}

/** The same, and in words what of the project such a file cannot hold. */
export function writeSmfReported(
  project: Project,
  options: SmfOptions = {},
): { bytes: Uint8Array; notKept: string[] } {
  const { pattern, loops = 1, range, format = 1 } = options;
  const long = lineTooLong(project, pattern, loops);
  if (long) throw new RangeError(long);
  const { sections: all, from, length: once } = arrangementOf(project, { pattern, range });
  // Of a range, what of each section lies in it.
  const inRange = all
    .map((section) => {
      const [begin, over] = mapTuple([section.at, section.at + section.length], (at) =>
        clamp(at - from, 0, once),
      );
      return { ...section, at: begin, length: over - begin };
    })
    .filter((section) => section.length > 0);
  const end = loops * once;
  // Each loop is on the line by itself, so that what follows sees no difference.
  const sections = Array.from({ length: loops }, (_, i) =>
    inRange.map((section) => ({ ...section, at: i * once + section.at })),
  ).flat();
  const how = { pattern, range, loop: loops > 1 };
  const events = playbackEvents(project, 0, end, how);
  const byTrack = new Map<string, PlaybackEvent[]>();
  for (const event of events) {
    const list = byTrack.get(event.track);
    if (list) list.push(event);
    else byTrack.set(event.track, [event]);
  }
  const lost = new Losses();
  const used = project.tracks.filter((track) => byTrack.has(track.id));
  const melodic = used.filter((track) => track.kind === "melody");
  const tracks = [
    conductor(project, sections, end),
    ...used.map((track) => {
      const at = melodic.indexOf(track);
      const bends = bendSteps(bendLine(project, track.id, [0, end], how));
      return trackChunk(track, mustGet(byTrack, track.id), bends, end, lost, {
        channel: at < 0 ? DRUM_CHANNEL : melodicChannel(at),
        inOwnTrack: format === 1,
        // More tracks than channels go to further ports.
        port:
          melodic.length > MELODIC_CHANNELS ? Math.max(0, Math.floor(at / MELODIC_CHANNELS)) : null,
      });
    }),
  ];
  if (format === 0 && melodic.length > MELODIC_CHANNELS)
    lost.add("track", "that shares a channel with another", melodic.length - MELODIC_CHANNELS);
  const chunks = format === 0 ? [mergedChunks(tracks)] : tracks;
  const file = new ByteWriter();
  file.append(ascii("MThd"));
  file.u32(6);
  file.u16(format);
  file.u16(chunks.length);
  file.u16(PPQ);
  for (const chunk of chunks) {
    file.append(ascii("MTrk"));
    file.u32(chunk.length);
    file.append(chunk);
  }
  return { bytes: file.done(), notKept: lost.sentences() };
}

const ascii = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));

function meta(out: ByteWriter, delta: number, type: number, data: Uint8Array): void {
  out.vlq(delta);
  out.u8(0xff, type);
  out.vlq(data.length);
  out.append(data);
}

const utf8 = (text: string) => new TextEncoder().encode(text);

/** Name, key, and section by section the tempo, metre and name where they begin. */
function conductor(project: Project, sections: readonly Section[], end: number): Uint8Array {
  const out = new ByteWriter();
  meta(out, 0, 0x03, utf8(project.name));
  // The key signature event knows major and minor only; this text keeps the scale's full name.
  meta(out, 0, 0x01, utf8(`Key: ${keyText(project.key)}`));
  const { fifths, minor } = signatureOf(project.key);
  meta(out, 0, 0x59, Uint8Array.of(fifths & 0xff, minor ? 1 : 0));
  let [last, tempo, metre] = [0, 0, ""];
  for (const { at, entry, pattern } of sections) {
    const bpm = entry?.tempo ?? project.tempo;
    if (bpm !== tempo) {
      const us = Math.round(60_000_000 / bpm);
      meta(out, at - last, 0x51, Uint8Array.of(us >> 16, (us >> 8) & 0xff, us & 0xff));
      [last, tempo] = [at, bpm];
    }
    const own = metreOf(project, pattern);
    const text = `${own.beats}/${own.unit}`;
    if (text !== metre) {
      // A metronome clicks once a felt beat; there are 24 clocks to a quarter.
      const clocks = (24 * beatTicks(own)) / PPQ;
      meta(out, at - last, 0x58, Uint8Array.of(own.beats, Math.log2(own.unit), clocks, 8));
      [last, metre] = [at, text];
    }
    meta(out, at - last, 0x06, utf8(entry?.name ?? pattern.name));
    last = at;
  }
  meta(out, end - last, 0x2f, new Uint8Array());
  return out.done();
}

/** Where a track is played: its channel, and its port where one port is too few. */
interface Address {
  channel: number;
  port: number | null;
  /** Whether the file has a track of its own for it. */
  inOwnTrack: boolean;
}

function trackChunk(
  track: Track,
  events: readonly PlaybackEvent[],
  bends: readonly BendPoint[],
  end: number,
  lost: Losses,
  { channel, port, inOwnTrack }: Address,
): Uint8Array {
  const out = new ByteWriter();
  meta(out, 0, 0x03, utf8(track.name));
  // “MIDI port” (0x21): not in the standard, in common use.
  if (port !== null) meta(out, 0, 0x21, Uint8Array.of(port));
  const volume = levelToVolume(track.level);
  // Volumes are coarse and end at +4 dB; this text keeps the exact level.
  if (volumeToLevel(volume) !== track.level) meta(out, 0, 0x01, utf8(`Level: ${track.level}`));
  if (track.level > LOUDEST + 0.05) lost.add("track", `louder than +${LOUDEST} dB, MIDI's loudest`);
  const program = [0xc0, programOf(track.sound)] as const;
  const controls = [
    [7, volume],
    [10, 64 + Math.round(track.pan * (track.pan < 0 ? 64 : 63))],
  ] as const;
  const channels = new Set([channel]);
  for (const event of events) if (event.channel !== undefined) channels.add(event.channel - 1);
  // In a file of one track there is no telling whose they are.
  if (inOwnTrack && channels.size > 1)
    meta(out, 0, 0x01, utf8(channelsText([...channels].filter((own) => own !== channel))));
  for (const own of channels) {
    if (track.kind === "melody") {
      out.vlq(0);
      out.u8(program[0] | own, program[1]);
    }
    for (const [control, value] of controls) {
      out.vlq(0);
      out.u8(0xb0 | own, control, value);
    }
  }
  const last = writeNotes(out, events, { bends, channels }, channel, lost);
  meta(out, Math.max(0, end - last), 0x2f, new Uint8Array());
  return out.done();
}

/**
 * Note-ons and note-offs in order of time, at one tick bends first and offs before ons; gives the tick of the last. A
 * note still sounding when the same pitch begins again on its channel ends there, and of two that begin
 * together one is written, as loud and as long as the larger: MIDI cannot hold one pitch twice.
 */
function writeNotes(
  out: ByteWriter,
  events: readonly PlaybackEvent[],
  bend: { bends: readonly BendPoint[]; channels: ReadonlySet<number> },
  channel: number,
  lost: Losses,
): Ticks {
  const count = events.length;
  const ends = new Float64Array(count);
  const velocities = new Uint8Array(count);
  /** For each channel and pitch the event that sounds, from 1. */
  const sounding = new Int32Array(16 * 128);
  let [cut, doubled, plain] = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    const event = nth(events, i);
    const key = channelOf(event, channel) * 128 + event.pitch;
    const before = sounding[key]! - 1;
    const end = event.start + event.length;
    if (event.pan !== 0 || event.tune !== 0 || event.slide) plain++;
    if (before >= 0 && nth(events, before).start === event.start) {
      velocities[before] = Math.max(velocities[before]!, event.velocity);
      ends[before] = Math.max(ends[before]!, end);
      ends[i] = -1;
      doubled++;
      continue;
    }
    if (before >= 0 && ends[before]! > event.start) {
      ends[before] = event.start;
      cut++;
    }
    ends[i] = end;
    velocities[i] = event.velocity;
    sounding[key] = i + 1;
  }
  lost.add("note", "ended where its pitch begins again", cut);
  lost.add("note", "that begins with another of its pitch, written as one", doubled);
  lost.add("note", "written without pan, tune or slide", plain);

  // In order of their ends: one number holds an end and which event it is.
  const offs = new Float64Array(count - doubled);
  let k = 0;
  for (let i = 0; i < count; i++) if (ends[i]! >= 0) offs[k++] = ends[i]! * count + i;
  offs.sort();
  let [last, off, bent] = [0, 0, 0];
  const bendsUpTo = (tick: Ticks) => {
    for (; bent < bend.bends.length && nth(bend.bends, bent).tick <= tick; bent++) {
      const { tick: at, value } = nth(bend.bends, bent);
      for (const own of bend.channels) {
        out.vlq(at - last);
        out.three(0xe0 | own, (value + 8192) & 0x7f, (value + 8192) >> 7);
        last = at;
      }
    }
  };
  const write = (tick: Ticks, status: number, event: PlaybackEvent, velocity: Velocity) => {
    out.vlq(tick - last);
    out.three(status | channelOf(event, channel), event.pitch, velocity);
    last = tick;
  };
  const offsUpTo = (tick: Ticks) => {
    for (; off < offs.length; off++) {
      const i = offs[off]! % count;
      const at = (offs[off]! - i) / count;
      if (at > tick) return;
      bendsUpTo(at);
      write(at, 0x80, nth(events, i), 64);
    }
  };
  for (let i = 0; i < count; i++) {
    const event = nth(events, i);
    if (ends[i]! < 0) continue;
    offsUpTo(event.start);
    bendsUpTo(event.start);
    write(event.start, 0x90, event, velocities[i]!);
  }
  offsUpTo(Infinity);
  bendsUpTo(Infinity);
  return last;
}

/** The channel a note is played on, from 0. */
const channelOf = (event: PlaybackEvent, channel: number) =>
  event.channel === undefined ? channel : event.channel - 1;
