import { ByteReader, FormatError } from "../container/bytes";
import { LIMITS } from "../../score";
import type { ReadOptions } from "../common/format";
import type { Losses } from "../import/losses";
import { isOwnText } from "./own";
import type { SmfDivision } from "./scale";
import { Texts } from "./text";
import { Voices } from "./voices";

/** What a track chunk says besides what its voices do; `tick` in the file's own division. */
export type SmfEvent =
  | { tick: number; type: "tempo"; usPerQuarter: number }
  | { tick: number; type: "metre"; beats: number; unit: number }
  | { tick: number; type: "key"; fifths: number; minor: boolean }
  /** The track's, or with a channel that one's alone; channels count from 0 over all ports, 16 to each. */
  | { tick: number; type: "name"; text: string; channel?: number }
  | { tick: number; type: "text"; text: string }
  | { tick: number; type: "marker"; text: string };

/** A track chunk: what plays in it, all else in it, and where it ends. */
export interface SmfTrack {
  voices: Voices;
  events: SmfEvent[];
  end: number;
}

/**
 * A Standard MIDI File as it is written: its head and the events of its tracks, at absolute times
 * in ticks of the file.
 */
export interface SmfFile extends SmfDivision {
  format: number;
  tracks: SmfTrack[];
  /** How its texts were read; null where all are ASCII. */
  encoding: string | null;
}

/** A file may hold so many events of all kinds; of notes as many as a project does. */
const MAX_EVENTS = 4_000_000;

/** Counts what a file holds while it is read, track by track, so that one of too much is not read to its end. */
class Tally {
  /** Notes of the tracks before this one. */
  private before = 0;
  private all = 0;

  /** So many have begun in this track. */
  notes(begun: number): void {
    if (this.before + begun > LIMITS.written) throw tooMany(LIMITS.written, "notes");
  }

  /** So many were in this track. */
  endTrack(begun: number): void {
    this.notes(begun);
    this.before += begun;
  }

  event(): void {
    this.all++;
    if (this.all > MAX_EVENTS) throw tooMany(MAX_EVENTS, "events");
  }
}

const tooMany = (most: number, what: string) =>
  new FormatError(
    `The file holds more than ${most.toLocaleString("en-GB")} ${what}, the most that is read`,
  );

/**
 * Splits a Standard MIDI File 1.0 into tracks of events: formats 0 and 1, the first sequence of a format
 * 2, running status, any division. Unknown chunks are passed over, as the standard asks. Throws a
 * `FormatError`; what is passed over is counted in `lost`. `encoding`, one of `ENCODINGS`, is how texts are read; with
 * `pedal`, notes are held for as long as the sustain pedal is down.
 */
export function parseSmf(
  bytes: Uint8Array,
  lost: Losses,
  { encoding, pedal = false }: ReadOptions = {},
): SmfFile {
  if (bytes.length === 0) throw new FormatError("The file is empty");
  const reader = new ByteReader(bytes);
  if (bytes.length < 14 || reader.text(4) !== "MThd") {
    throw new FormatError("Not a MIDI file: it does not begin with the header “MThd”");
  }
  const headerLength = reader.u32();
  if (headerLength < 6) throw new FormatError(`The MIDI header is ${headerLength} bytes, not 6`);
  const format = reader.u16();
  const count = reader.u16();
  const division = reader.u16();
  reader.take(headerLength - 6);
  if (format > 2) {
    throw new FormatError(`MIDI files of format ${format} are not read; formats 0, 1 and 2 are`);
  }
  const time = readDivision(division);
  const tracks: SmfFile["tracks"] = [];
  const tally = new Tally();
  const texts = new Texts();
  while (reader.left >= 8) {
    const type = reader.text(4);
    const length = reader.u32();
    if (type === "MTrk" && length > reader.left) {
      throw new FormatError(
        `Track ${tracks.length + 1} says it is ${length} bytes long; only ${reader.left} follow`,
      );
    }
    const chunk = reader.take(Math.min(length, reader.left));
    if (type === "MTrk")
      tracks.push(readTrack(chunk, tracks.length + 1, { tally, texts, lost, pedal }));
  }
  if (tracks.length < Math.max(1, count)) {
    throw new FormatError(`The header promises ${count} tracks; the file holds ${tracks.length}`);
  }
  return { format, ...time, tracks, encoding: texts.read(encoding) };
}

function readDivision(division: number): SmfDivision {
  if (division === 0) throw new FormatError("The division in the MIDI header is 0");
  if (division < 0x8000) return { ticksPerQuarter: division, ticksPerSecond: null };
  const frames = 256 - (division >> 8);
  const perFrame = division & 0xff;
  if (![24, 25, 29, 30].includes(frames) || perFrame === 0) {
    throw new FormatError(
      `The MIDI header asks for ${frames} frames a second, which SMPTE has not`,
    );
  }
  // 29 stands for 30 drop frame, which runs at 30000/1001 frames a second.
  const rate = frames === 29 ? 30000 / 1001 : frames;
  return { ticksPerQuarter: null, ticksPerSecond: rate * perFrame };
}

function readTrack(
  chunk: Uint8Array,
  number: number,
  { tally, texts, lost, pedal }: { tally: Tally; texts: Texts; lost: Losses; pedal: boolean },
): SmfTrack {
  const reader = new ByteReader(chunk);
  // A note is six bytes at the least, three where it begins and three where it ends.
  const voices = new Voices(pedal, Math.ceil(chunk.length / 6));
  const events: SmfEvent[] = [];
  const place = { at: 0, tick: 0, running: 0, port: 0 };
  // The standard ends running status at a meta event and at system exclusive; many programs do not.
  let cancelled = false;
  /** The channel that meta events are for, until the next event of a channel (SMF 1.0, “MIDI Channel Prefix”). */
  let prefix: number | null = null;
  for (;;) {
    if (!cancelled) {
      place.at = reader.at;
      voices.take(chunk, place);
      reader.at = place.at;
    }
    tally.notes(voices.begun);
    if (reader.left <= 0) break;
    tally.event();
    place.tick += reader.vlq();
    const { tick, running } = place;
    let status = reader.u8();
    let first: number | null = null;
    if (status < 0x80) {
      if (running === 0) {
        throw new FormatError(
          `Track ${number} has data before any event, at its byte ${reader.at - 1}`,
        );
      }
      if (cancelled) lost.add("event", "whose status ran on past a meta or system exclusive event");
      cancelled = false;
      first = status;
      status = running;
    }
    if (status === 0xff) {
      cancelled = true;
      const type = reader.u8();
      const data = reader.take(reader.vlq());
      if (type === 0x2f) break;
      const [value = 0] = data;
      if (type === PREFIX && data.length === 1 && value < 16) prefix = value;
      else if (type === PORT && data.length === 1 && value < 128) place.port = value;
      else {
        const event = metaEvent(tick, type, data, { texts, port: place.port, prefix });
        if (typeof event === "string") voices.lost.add(event);
        else events.push(event);
        if (type === TEXT) takeText(voices, data);
      }
    } else if (status === 0xf0 || status === 0xf7) {
      cancelled = true;
      reader.take(reader.vlq());
      voices.lost.add("system exclusive message");
    } else if (status > 0xf0) {
      throw new FormatError(`Track ${number} holds the byte ${status}, which no MIDI file may`);
    } else {
      if (first === null) cancelled = false;
      place.running = status;
      const data = first ?? reader.u8();
      prefix = null;
      const kind = status >> 4;
      const second = kind === 0xc || kind === 0xd ? 0 : reader.u8();
      if ((data | second) > 127) {
        throw new FormatError(`Track ${number} holds a value above 127 near its byte ${reader.at}`);
      }
      const channel = place.port * 16 + (status & 0x0f);
      channelMessage(voices, { tick, channel, kind }, data, second);
    }
  }
  tally.endTrack(voices.begun);
  voices.finish(place.tick);
  return { voices, events, end: place.tick };
}

/** Hands on what a channel is told. */
function channelMessage(
  voices: Voices,
  { tick, channel, kind }: { tick: number; channel: number; kind: number },
  data: number,
  second: number,
): void {
  // A note-on with velocity 0 is a note-off (MIDI 1.0).
  if (kind <= 0x9) voices.noteOn(tick, channel, data, kind === 0x9 ? second : 0);
  else if (kind === 0xb) voices.control(tick, channel, data, second);
  else if (kind === 0xc) voices.program(channel, data);
  // 14 bits about the middle, the low seven first.
  else if (kind === 0xe) voices.bend(tick, channel, second * 128 + data - 8192);
  else voices.lost.add("aftertouch message");
}

/** What a text says of how the notes after it are played; all encodings begin with ASCII. */
function takeText(voices: Voices, data: Uint8Array): void {
  const own = OWN_LETTERS.has(data[0] ?? 0);
  const text = own ? String.fromCharCode(...data.subarray(0, LONGEST_OWN)) : "";
  if (isOwnText(text)) voices.text(text);
  else voices.lost.add("text");
}

/** No text of ours is longer; they begin with A, K or L. */
const LONGEST_OWN = 80;
const OWN_LETTERS = new Set([0x41, 0x4b, 0x4c]);

/** A text of any kind (SMF 1.0, “Text Event”). */
const TEXT = 0x01;

/** Events that say where the next ones belong: “MIDI channel prefix”; “MIDI port”, in common use, not in the standard. */
const PREFIX = 0x20;
const PORT = 0x21;

/** The event of a meta message, or the name of what is not kept. */
function metaEvent(
  tick: number,
  type: number,
  data: Uint8Array,
  { texts, port, prefix }: { texts: Texts; port: number; prefix: number | null },
): SmfEvent | string {
  const [first = 0, second = 0, third = 0] = data;
  switch (type) {
    case TEXT:
      return texts.add({ tick, type: "text" as const, text: "" }, data);
    case 0x03: {
      const own = prefix === null ? {} : { channel: port * 16 + prefix };
      return texts.add({ tick, type: "name" as const, text: "", ...own }, data);
    }
    case 0x51:
      if (data.length !== 3) break;
      return { tick, type: "tempo", usPerQuarter: first * 65536 + second * 256 + third };
    case 0x58:
      if (data.length < 2) break;
      return { tick, type: "metre", beats: first, unit: 2 ** second };
    case 0x59:
      if (data.length !== 2) break;
      return { tick, type: "key", fifths: (first << 24) >> 24, minor: second === 1 };
    case 0x05:
      return "lyric";
    case 0x06:
      return texts.add({ tick, type: "marker" as const, text: "" }, data);
  }
  return "other meta event";
}
