import { padName } from "../pitch/percussion";
import { isScale, type Key } from "../pitch/scales";
import { makeLane, makePart, makeTrack } from "../score/create";
import { LIMITS, sortNotes, type Note, type Project, type Track } from "../score/model";
import { DEFAULT_GRID } from "../time/grid";
import { PPQ, barTicks, type Metre } from "../time/ticks";
import { FormatError } from "./bytes";
import { parseSmf, type SmfEvent, type SmfFile } from "./smf-events";
import { DRUM_CHANNEL, volumeToLevel } from "./smf-write";
import { soundOf } from "./sounds";
import type { Bpm, Decibels, MidiPitch, Pan, Ticks, Velocity } from "../units";

/** What a file held and what of it the project does not keep, in words. */
export interface SmfReport {
  format: number;
  tracks: number;
  notes: number;
  notKept: string[];
}

/**
 * Reads a Standard MIDI File (format 0 or 1) as a project of one pattern: a track for each channel
 * of each track chunk, channel 10 as drums. Times are scaled to 960 a quarter. Throws a
 * `FormatError` that says what is wrong; what the project cannot hold is listed in the report.
 */
export function readSmf(
  bytes: Uint8Array,
  name = "Imported",
): { project: Project; report: SmfReport } {
  const file = parseSmf(bytes);
  const lost = new Losses();
  const head = readHead(file, lost);
  const toTick = scale(file, head.tempo);

  const voices = new Map<string, Voice>();
  file.tracks.forEach(({ events, end }, index) => {
    readVoices(events, index, toTick, Math.round(toTick(end)), voices, lost);
  });
  const played = [...voices.values()].filter((voice) => voice.notes.length > 0);
  if (played.length > LIMITS.tracks) {
    throw new FormatError(`The file plays ${played.length} parts; at most ${LIMITS.tracks} fit`);
  }

  const bar = barTicks(head.metre);
  const notes = played.reduce((sum, voice) => sum + voice.notes.length, 0);
  const lastTick = played.reduce((most, voice) => Math.max(most, voice.end), 1);
  const bars = Math.max(Math.ceil(lastTick / bar), silentBars(file, toTick, bar));
  if (bars > LIMITS.bars) {
    throw new FormatError(`The file is ${bars} bars long; at most ${LIMITS.bars} fit`);
  }
  const faded = played.filter((voice) => voice.levels.size > 1).length;
  if (faded > 0) lost.add("tracks whose volume changes, kept at one level", faded);
  const tracks = played.map((voice, i) => trackOf(voice, i, file));
  const project: Project = {
    name: (head.name || name).trim().slice(0, LIMITS.name) || "Imported",
    tempo: head.tempo,
    metre: head.metre,
    key: head.key,
    tracks,
    patterns: [
      {
        id: "a",
        name: "A",
        bars,
        parts: tracks.map((track, i) => ({
          ...makePart(track.id, bars * bar),
          notes: sortNotes(played[i]!.notes),
        })),
      },
    ],
    song: [],
  };
  return {
    project,
    report: { format: file.format, tracks: tracks.length, notes, notKept: lost.sentences() },
  };
}

/** Programs that end their tracks a little after the bar line do not mean another bar. */
const SLACK = 60;

/**
 * Bars up to where the tracks themselves end (SMF 1.0, “End of Track”): silence at the end belongs to
 * the piece. 1 where the file names an end farther off than any project reaches.
 */
function silentBars(file: SmfFile, toTick: (tick: Ticks) => number, bar: Ticks): number {
  const end = file.tracks.reduce((most, track) => Math.max(most, toTick(track.end)), 0);
  const bars = Math.ceil((end - SLACK) / bar);
  return bars > LIMITS.bars ? 1 : Math.max(1, bars);
}

/** Counts what is left out, by what it is. */
class Losses {
  private readonly counts = new Map<string, number>();
  add(what: string, n = 1): void {
    this.counts.set(what, (this.counts.get(what) ?? 0) + n);
  }
  sentences(): string[] {
    return [...this.counts].map(([what, n]) => `${n} ${what}`);
  }
}

interface Head {
  name: string;
  tempo: Bpm;
  metre: Metre;
  key: Key;
}

function readHead(file: SmfFile, lost: Losses): Head {
  const head: Head = {
    name: file.tracks[0]?.events.find((e) => e.type === "name")?.text ?? "",
    // What the standard says holds where a file names no tempo and no metre.
    tempo: 120,
    metre: { beats: 4, unit: 4 },
    key: { root: 0, scale: "major" },
  };
  // In a file of one voice track per chunk the first chunk's name is a track's, not the piece's.
  if (file.format === 1 && file.tracks[0]?.events.some((e) => e.type === "on")) head.name = "";
  const seen = new Set<string>();
  const exactKey = file.tracks.some(({ events }) => events.some((e) => readKeyText(e, head)));
  for (const { events } of file.tracks) {
    for (const event of events) {
      if (event.type !== "tempo" && event.type !== "metre" && event.type !== "key") continue;
      const word = { tempo: "tempo changes", metre: "metre changes", key: "key changes" }[
        event.type
      ];
      if (seen.has(event.type)) lost.add(word);
      else if (setHead(event, head, exactKey)) seen.add(event.type);
      else lost.add(`${event.type} events out of range`);
    }
  }
  return head;
}

function setHead(event: SmfEvent, head: Head, exactKey: boolean): boolean {
  if (event.type === "tempo") {
    const bpm = 60_000_000 / event.usPerQuarter;
    // Microseconds are whole, so 84 BPM comes back as 84.00003: rounded where they cannot tell.
    const rounded = Math.round(bpm * 100) / 100;
    if (!(rounded >= LIMITS.tempo.min && rounded <= LIMITS.tempo.max)) return false;
    head.tempo = rounded;
  } else if (event.type === "metre") {
    const { beats, unit } = event;
    if (beats < 1 || beats > 32 || ![2, 4, 8, 16].includes(unit)) return false;
    head.metre = { beats, unit };
  } else if (event.type === "key") {
    if (Math.abs(event.fifths) > 7) return false;
    const major = (((event.fifths * 7) % 12) + 12) % 12;
    if (!exactKey) {
      head.key = event.minor
        ? { root: (major + 9) % 12, scale: "minor" }
        : { root: major, scale: "major" };
    }
  }
  return true;
}

function readKeyText(event: SmfEvent, head: Head): boolean {
  if (event.type !== "text") return false;
  const found = /^Key: (\d{1,2}) ([^(]+?) \(/.exec(event.text);
  if (!found || Number(found[1]) > 11 || !isScale(found[2]!)) return false;
  head.key = { root: Number(found[1]), scale: found[2]! };
  return true;
}

function scale(file: SmfFile, tempo: Bpm): (tick: Ticks) => number {
  if (file.ticksPerQuarter) {
    const division = file.ticksPerQuarter;
    return (tick) => (tick * PPQ) / division;
  }
  const perSecond = (tempo / 60) * PPQ;
  return (tick) => (tick / file.ticksPerSecond!) * perSecond;
}

interface Voice {
  channel: number;
  chunk: number;
  name: string;
  program: number;
  /** Volume in force just now, and how many notes began at each level. */
  level: Decibels;
  levels: Map<Decibels, number>;
  pan: Pan;
  notes: Note[];
  end: number;
}

function readVoices(
  events: readonly SmfEvent[],
  chunk: number,
  toTick: (tick: Ticks) => number,
  end: number,
  voices: Map<string, Voice>,
  lost: Losses,
): void {
  let chunkName = "";
  const open = new Map<number, { tick: Ticks; velocity: Velocity }[]>();
  const voiceOf = (channel: number): Voice => {
    const id = `${chunk}/${channel}`;
    let voice = voices.get(id);
    if (!voice) {
      voice = {
        channel,
        chunk,
        name: "",
        program: 0,
        level: 0,
        levels: new Map(),
        pan: 0,
        notes: [],
        end: 0,
      };
      voices.set(id, voice);
    }
    voice.name ||= chunkName;
    return voice;
  };
  const close = (channel: number, pitch: MidiPitch, tick: Ticks): boolean => {
    const on = open.get(channel * 128 + pitch)?.shift();
    if (!on) return false;
    const voice = voiceOf(channel);
    const length = tick - on.tick;
    if (length < 1) lost.add("notes of no length, kept one tick long");
    if (voice.notes.length >= LIMITS.notesPerPart) {
      throw new FormatError(`A track holds more than ${LIMITS.notesPerPart} notes`);
    }
    voice.notes.push({
      id: `m${voice.notes.length + 1}`,
      start: on.tick,
      length: Math.max(1, length),
      pitch,
      velocity: on.velocity,
      pan: 0,
      tune: 0,
      slide: false,
    });
    voice.end = Math.max(voice.end, on.tick + Math.max(1, length));
    return true;
  };

  for (const event of events) {
    const tick = Math.round(toTick(event.tick));
    switch (event.type) {
      case "name":
        chunkName ||= event.text.trim();
        break;
      case "on": {
        const key = event.channel * 128 + event.pitch;
        const list = open.get(key);
        if (list) list.push({ tick, velocity: event.velocity });
        else open.set(key, [{ tick, velocity: event.velocity }]);
        const { level, levels } = voiceOf(event.channel);
        levels.set(level, (levels.get(level) ?? 0) + 1);
        break;
      }
      case "off":
        if (!close(event.channel, event.pitch, tick)) lost.add("note ends without a beginning");
        break;
      case "program":
        voiceOf(event.channel).program = event.program;
        break;
      case "control":
        if (event.control === 7) voiceOf(event.channel).level = volumeToLevel(event.value);
        else if (event.control === 10) voiceOf(event.channel).pan = panOf(event.value);
        else lost.add("controller changes");
        break;
      case "other":
        if (event.what !== "markers") lost.add(event.what);
        break;
    }
  }
  for (const [key, list] of open) {
    while (list.length > 0) {
      close(Math.floor(key / 128), key % 128, end);
      lost.add("notes without an end, held to the end of their track");
    }
  }
}

/**
 * The level of a track: the one at which most of its notes begin, of equals the first. A fade-out at
 * the end says nothing of how loud the track is.
 */
function levelOf({ levels, level }: Voice): Decibels {
  let best = { level, count: 0 };
  for (const [at, count] of levels) if (count > best.count) best = { level: at, count };
  return best.level;
}

const panOf = (value: number) => Math.max(-1, Math.min(1, (value - 64) / (value < 64 ? 64 : 63)));

function trackOf(voice: Voice, index: number, file: SmfFile): Track {
  const drums = voice.channel === DRUM_CHANNEL;
  const ownName = file.format === 1 ? voice.name : "";
  const name =
    ownName.slice(0, LIMITS.name).trim() || (drums ? "Drums" : `Channel ${voice.channel + 1}`);
  const pitches = [...new Set(voice.notes.map((note) => note.pitch))].sort((a, b) => a - b);
  return {
    ...makeTrack({
      id: `t${index + 1}`,
      kind: drums ? "drums" : "melody",
      name,
      sound: drums ? "harbour" : soundOf(voice.program),
    }),
    level: levelOf(voice),
    pan: voice.pan,
    lanes: drums
      ? pitches
          .slice(0, LIMITS.lanes)
          .map((pitch) => ({ ...makeLane(pitch, DEFAULT_GRID), name: padName(pitch) }))
      : [],
  };
}
