import { nameNotes } from "./voices";
import { type Ticks, clamp, nth } from "../../base";
import { DEFAULT_GRID, barTicks } from "../../time";
import { padName } from "../../pitch";
import { LIMITS, type Project, type Track, makeLane, makePart, makeTrack } from "../../score";
import type { ReadOptions } from "../common/format";
import { parseSmf, type SmfFile, type SmfTrack } from "./events";
import { nameOf } from "../import/names";
import { readHead } from "./head";
import { Losses } from "../import/losses";
import { scaleOf, scaled, type SmfScale } from "./scale";
import { MAX_BARS, arrangeChanges } from "../import/song";
import { curveOf, isDrumChannel, settle, type Voice } from "./voice";
import { inSequence } from "./sequences";
import { programOf, soundOfProgram } from "../common/programs";

/** What a file held and what of it the project does not keep, in words. */
export interface SmfReport {
  format: number;
  tracks: number;
  notes: number;
  /** Whether a sustain pedal is pressed in it. */
  pedal: boolean;
  /** How its texts were read, one of `ENCODINGS`; null where all are ASCII. */
  encoding: string | null;
  notKept: string[];
}

/**
 * Reads a Standard MIDI File (format 0, 1, or 2, its sequences one after another) as a project of one
 * pattern, or where its metre or tempo changes as a song of some: a track for each channel of each track chunk, channel 10 as drums. Times are scaled to 960 a
 * quarter. Throws a `FormatError` that says what is wrong; what the project cannot hold (more than 64
 * parts, more than 8,192 bars) is left out and listed in the report, as all else that is not kept.
 */
export function readSmf(
  bytes: Uint8Array,
  name = "Imported",
  options: ReadOptions = {},
): { project: Project; report: SmfReport } {
  const lost = new Losses();
  const file = parseSmf(bytes, lost, options);
  if (file.format !== 2 || file.tracks.length === 1) return assembled(file, name, lost);
  // Its tracks are sequences of their own, not voices of one piece.
  const pieces = file.tracks
    .map((track) => named(assembled({ ...file, tracks: [track] }, "", lost)))
    .filter(({ report }) => report.notes > 0);
  const [first, ...more] = pieces;
  if (!first || more.length === 0) return first ?? assembled(file, name, lost);
  const joined = inSequence(
    pieces.map((piece) => piece.project),
    lost,
  );
  const project = { ...joined, name: nameOf(name) || joined.name };
  const report = {
    ...first.report,
    tracks: project.tracks.length,
    notes: pieces.reduce((sum, piece) => sum + piece.report.notes, 0),
    pedal: pieces.some((piece) => piece.report.pedal),
    notKept: lost.sentences(),
  };
  return { project, report };
}

/** A sequence's name as its first pattern's. */
function named(piece: { project: Project; report: SmfReport }) {
  const { name, patterns } = piece.project;
  if (name === "Imported") return piece;
  const withName = patterns.map((pattern, i) => (i === 0 ? { ...pattern, name } : pattern));
  return { ...piece, project: { ...piece.project, patterns: withName } };
}

/** The project of a file whose tracks play together. */
function assembled(
  file: SmfFile,
  name: string,
  lost: Losses,
): { project: Project; report: SmfReport } {
  const head = readHead(file, firstOnset(file), lost);
  const scale = scaleOf(file, head.tempo);

  const all = file.tracks.flatMap((track) => voicesOf(track, scale, lost));
  const bar = barTicks(head.metre);
  const played = fitting(all, bar, lost);
  const lastTick = played.reduce((most, voice) => Math.max(most, voice.end), 1);
  const bars = clamp(silentBars(file, scale, bar), Math.ceil(lastTick / bar), MAX_BARS);
  const count = (which: (voice: Voice) => boolean) => played.filter(which).length;
  lost.add(
    "track",
    "whose volume changes, kept at one level",
    count((voice) => voice.level.changes),
  );
  lost.add(
    "track",
    "whose pan changes, kept in one place",
    count((voice) => voice.pan.changes),
  );
  lost.add(
    "track",
    "whose program changes, kept at one sound",
    count((voice) => voice.program.changes),
  );
  const tracks = played.map((voice, i) => trackOf(voice, i, file));
  lost.add("track", "given the sound nearest to its program", count(isOtherSound));
  const marks = marksOf(file, lost);
  const whole: Project = {
    name: nameOf(head.name || name) || "Imported",
    tempo: head.tempo,
    metre: head.metre,
    key: head.key,
    tracks,
    patterns: [
      {
        id: "a",
        name: marks[0]?.tick === 0 ? marks[0].value : "Main",
        bars,
        parts: tracks.map((track, i) => {
          const { notes, pitchBend } = nth(played, i);
          nameNotes(notes, i);
          const bend = track.kind === "melody" ? curveOf(pitchBend, lost) : undefined;
          return {
            ...makePart(track.id, bars * bar),
            notes,
            ...(bend && { bend }),
          };
        }),
      },
    ],
    song: [],
  };
  const project = arrangeChanges(
    whole,
    { ...head.changes, marks },
    (tick) => scaled(scale, tick),
    lost,
  );
  const notes = played.reduce((sum, voice) => sum + voice.notes.length, 0);
  return {
    project,
    report: {
      format: file.format,
      tracks: tracks.length,
      notes,
      pedal: file.tracks.some(({ voices }) => voices.pedalled),
      encoding: file.encoding,
      notKept: lost.sentences(),
    },
  };
}

/** Where the first note begins, in ticks of the file; 0 where there is none. */
function firstOnset(file: SmfFile): Ticks {
  const first = file.tracks.flatMap(({ voices }) => voices.first ?? []);
  return first.length === 0 ? 0 : Math.min(...first);
}

/** The voices of a track chunk, in ticks of the project and with their names: the first of each kind counts. */
function voicesOf({ voices, events }: SmfTrack, scale: SmfScale, lost: Losses): readonly Voice[] {
  let whole = "";
  const own = new Map<number, string>();
  for (const event of events) {
    if (event.type !== "name") continue;
    const text = event.text.trim();
    if (event.channel === undefined) whole ||= text;
    else own.set(event.channel, own.get(event.channel) || text);
  }
  lost.addAll(voices.lost);
  for (const voice of voices.all) {
    settle(voice, scale, voices, lost);
    voice.name = whole;
    voice.own = own.get(voice.channel) ?? "";
  }
  return voices.all;
}

/** The voices that play and that a project has room for: the first 64, up to the last bar. */
function fitting(all: readonly Voice[], bar: Ticks, lost: Losses): Voice[] {
  const played = all.filter((voice) => voice.notes.length > 0);
  lost.add(
    "part",
    `beyond the ${LIMITS.tracks} that fit`,
    Math.max(0, played.length - LIMITS.tracks),
  );
  const end = Math.min(LIMITS.ticks, MAX_BARS * bar);
  for (const voice of played) {
    if (voice.end <= end) continue;
    const inside = voice.notes.filter((note) => note.start < end);
    lost.add(
      "note",
      `after bar ${MAX_BARS.toLocaleString("en-GB")}`,
      voice.notes.length - inside.length,
    );
    const long = inside.filter(({ start, length }) => start + length > end);
    for (const note of long) note.length = end - note.start;
    lost.add("note", "longer than a pattern, ended with it", long.length);
    voice.notes = inside;
    voice.end = end;
  }
  return played.filter((voice) => voice.notes.length > 0).slice(0, LIMITS.tracks);
}

/** Its markers in order of time: of several at one place the last, those without a text left out. */
function marksOf(file: SmfFile, lost: Losses): { tick: Ticks; value: string }[] {
  const all: { tick: Ticks; value: string }[] = [];
  for (const { events } of file.tracks)
    for (const event of events)
      if (event.type === "marker") all.push({ tick: event.tick, value: nameOf(event.text) });
  all.sort((a, b) => a.tick - b.tick);
  const marks = all.filter(({ tick, value }, i) => value && all[i + 1]?.tick !== tick);
  lost.add("marker", "", all.length - marks.length);
  return marks;
}

/** Programs that end their tracks a little after the bar line do not mean another bar. */
const SLACK = 60;

/**
 * Bars up to where the tracks themselves end (SMF 1.0, “End of Track”): silence at the end belongs to
 * the piece. 1 where the file names an end farther off than any project reaches.
 */
function silentBars(file: SmfFile, scale: SmfScale, bar: Ticks): number {
  const end = file.tracks.reduce((most, track) => Math.max(most, scaled(scale, track.end)), 0);
  const bars = Math.ceil((end - SLACK) / bar);
  return bars > MAX_BARS ? 1 : Math.max(1, bars);
}

/** Whether a program has no sound of its own here. */
function isOtherSound({ channel, program }: Voice): boolean {
  const { usual } = program;
  return !isDrumChannel(channel) && usual !== null && programOf(soundOfProgram(usual)) !== usual;
}

function trackOf(voice: Voice, index: number, file: SmfFile): Track {
  const drums = isDrumChannel(voice.channel);
  // Elsewhere the chunk's name is the piece's or the sequence's.
  const ownName = nameOf(voice.own) || (file.format === 1 ? nameOf(voice.name) : "");
  const [port, channel] = [Math.floor(voice.channel / 16), (voice.channel % 16) + 1];
  const where = port > 0 ? `Port ${port + 1}, channel ${channel}` : `Channel ${channel}`;
  const name = ownName || (drums ? "Drums" : where);
  const pads = () => [...new Set(voice.notes.map((note) => note.pitch))].sort((a, b) => a - b);
  return {
    ...makeTrack({
      id: `t${index + 1}`,
      kind: drums ? "drums" : "melody",
      name,
      sound: drums ? "harbour" : soundOfProgram(voice.program.usual ?? 0),
    }),
    level: voice.level.usual,
    pan: voice.pan.usual,
    lanes: drums
      ? pads()
          .slice(0, LIMITS.lanes)
          .map((pitch) => ({ ...makeLane(pitch, DEFAULT_GRID), name: padName(pitch) }))
      : [],
  };
}
