import { parseMidi, writeMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import { createProject, makeTrack } from "../../score";
import { parseProject } from "../../stored";
import { nameOf } from "../import/names";
import { volumeToLevel } from "./levels";
import { readSmf } from "./read";
import { writeSmf, writeSmfReported } from "./write";

const BASS = { pattern: "a", track: "bass" };
const END = { deltaTime: 0, type: "endOfTrack" } as MidiEvent;

/** A file of the given track chunks at 480 a quarter, written by another library. */
const chunked = (...tracks: MidiEvent[][]): Uint8Array =>
  Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: tracks.length, ticksPerBeat: 480 },
      tracks: tracks.map((events) => [...events, END]),
    }),
  );
/** An empty conductor and one chunk on channel 1. */
const file = (...events: MidiEvent[]) => chunked([], events);
const event = (rest: object) => ({ deltaTime: 0, channel: 0, ...rest }) as MidiEvent;
const note = (noteNumber = 60) => [
  event({ type: "noteOn", noteNumber, velocity: 80 }),
  event({ deltaTime: 240, type: "noteOff", noteNumber, velocity: 0 }),
];

describe("a track's exact level", () => {
  it("comes back, the loudest too, unless another program changed the volume", () => {
    for (const level of [6, 5.1, 4.2, 0, -3.7, -59.3, -60]) {
      let project = edits.changeTrack(createProject(), "bass", { level });
      project = edits.setNotes(project, BASS, [n(0)]);
      const { bytes, notKept } = writeSmfReported(project);
      expect(readSmf(bytes).project.tracks[0]!.level).toBe(level);
      expect(notKept).toEqual(level > 4.3 ? ["1 track louder than +4.2 dB, MIDI's loudest"] : []);
    }
    const volume = event({ type: "controller", controllerType: 7, value: 40 });
    const other = file(event({ type: "text", text: "Level: 6" }), volume, ...note());
    expect(readSmf(other).project.tracks[0]!.level).toBe(volumeToLevel(40));
  });
});

describe("tempo and metre", () => {
  const tempo = (bpm: number, deltaTime = 0) =>
    event({ deltaTime, type: "setTempo", microsecondsPerBeat: Math.round(6e7 / bpm) });
  const inThree = event({
    type: "timeSignature",
    numerator: 3,
    denominator: 4,
    metronome: 24,
    thirtyseconds: 8,
  });

  it("are those in force when the first note begins: 120 and 4/4 where none is named (SMF 1.0)", () => {
    const late = readSmf(file(...note(), tempo(90, 1680), inThree, ...note()));
    expect(late.project).toMatchObject({ tempo: 120, metre: { beats: 4, unit: 4 } });
    expect(late.report.notKept).toEqual([]);
    const early = readSmf(file(tempo(80), tempo(90, 1920), ...note()));
    expect(early.project.tempo).toBe(90);
    expect(early.report.notKept).toEqual(["1 tempo change before the first note"]);
    const counted = readSmf(file(tempo(90, 1920), inThree, ...note()));
    expect(counted.project).toMatchObject({ tempo: 90, metre: { beats: 3, unit: 4 } });
    expect(counted.report.notKept).toEqual([]);
    const again = readSmf(file(tempo(90), ...note(), tempo(90), ...note()));
    expect(again.report.notKept).toEqual([]);
  });
});

describe("what a project has no room for", () => {
  it("is left out and counted: parts beyond 64, notes after bar 8,192", () => {
    const many = readSmf(chunked(...Array.from({ length: 70 }, () => note())));
    expect(many.project.tracks).toHaveLength(64);
    expect(many.report.notKept).toEqual(["6 parts beyond the 64 that fit"]);
    parseProject(many.project);
    const far = event({ deltaTime: 8192 * 4 * 480, type: "noteOn", noteNumber: 61, velocity: 80 });
    const long = readSmf(file(...note(), far, ...note(62)));
    expect(long.project.patterns.map((p) => p.bars)).toEqual(Array(8).fill(1024));
    expect(long.project.patterns[0]!.parts[0]!.notes.map((x) => x.pitch)).toEqual([60]);
    expect(long.report.notKept).toContain("2 notes after bar 8,192");
    parseProject(long.project);
  });

  it("is named: texts, key changes", () => {
    const words = [
      event({ type: "keySignature", key: 0, scale: 0 }),
      ...note(),
      event({ type: "keySignature", key: 2, scale: 0 }),
      event({ type: "text", text: "slowly" }),
    ];
    expect(readSmf(file(...words)).report.notKept).toEqual(["1 key change", "1 text"]);
  });

  it("and status that runs on past a meta event is taken, and said", () => {
    const ascii = (text: string) => [...text].map((c) => c.charCodeAt(0));
    // A note-on, a text, then the note's end without a status of its own.
    const chunk = [0, 0x90, 60, 80, 10, 0xff, 1, 1, 0x61, 10, 60, 0, 0, 0xff, 0x2f, 0];
    const head = [...ascii("MThd"), 0, 0, 0, 6, 0, 0, 0, 1, 0, 96];
    const bytes = [...head, ...ascii("MTrk"), 0, 0, 0, chunk.length, ...chunk];
    const { report } = readSmf(Uint8Array.from(bytes));
    expect(report.notes).toBe(1);
    expect(report.notKept).toContain(
      "1 event whose status ran on past a meta or system exclusive event",
    );
  });

  it("names are cut to what a project takes", () => {
    const text = `${"x".repeat(79)} y`;
    const { project } = readSmf(file(event({ type: "trackName", text }), ...note()), text);
    expect([project.tracks[0]!.name, project.name]).toEqual(["x".repeat(79), "x".repeat(79)]);
    parseProject(project);
    // Two code units for one character: no half of it stays.
    expect(nameOf(`${"x".repeat(79)}\u{1F30A}`)).toBe("x".repeat(79));
  });
});

describe("what a MIDI file cannot hold", () => {
  const lost = (...notes: ReturnType<typeof n>[]) =>
    writeSmfReported(edits.setNotes(createProject(), BASS, notes)).notKept;

  it("is named when it is written", () => {
    expect(lost(n(0), n(480))).toEqual([]);
    expect(lost(n(0, { length: 900 }), n(480))).toEqual([
      "1 note ended where its pitch begins again",
    ]);
    expect(lost(n(0), { ...n(0), id: "again" })).toEqual([
      "1 note that begins with another of its pitch, written as one",
    ]);
    expect(lost(n(0, { pan: 0.5 }), n(480, { slide: true }))).toEqual([
      "2 notes written without pan, tune or slide",
    ]);
  });

  it("is not more tracks than channels: they have ports of their own", () => {
    const tracks = Array.from({ length: 34 }, (_, i) =>
      makeTrack({ id: `m${i}`, kind: "melody", name: `M${i}`, sound: "glass-keys" }),
    );
    let project = createProject({ tracks });
    for (const { id } of tracks) {
      project = edits.setNotes(project, { pattern: "a", track: id }, [n(0)]);
    }
    const places = parseMidi(writeSmf(project))
      .tracks.slice(1)
      .map((events) => {
        const port = events.find((e) => e.type === "portPrefix");
        const on = events.find((e) => e.type === "noteOn");
        return `${port?.type === "portPrefix" && port.port}:${on?.type === "noteOn" && on.channel}`;
      });
    expect(new Set(places).size).toBe(34);
    expect(places).not.toContain("0:9");
  });
});

describe("a key", () => {
  it("comes back exactly, from every root, whatever its scale", () => {
    for (let root = 0; root < 12; root++) {
      const key = { root, scale: root % 2 ? "dorian" : "harmonic minor" };
      const project = edits.setKey(createProject(), key);
      expect(readSmf(writeSmf(edits.addNotes(project, BASS, [n(0)]))).project.key).toEqual(key);
    }
  });
});

describe("a file of too much", () => {
  /** One track of the same bytes over and over, which no library need write. */
  const repeated = (begin: number[], again: number[], count: number): Uint8Array => {
    const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 1, 0xe0, 0x4d, 0x54, 0x72, 0x6b];
    const bytes = new Uint8Array(22 + begin.length + count * again.length + 4);
    bytes.set(head);
    new DataView(bytes.buffer).setUint32(18, bytes.length - 22);
    bytes.set(begin, 22);
    for (let i = 0; i < count; i++) bytes.set(again, 22 + begin.length + i * again.length);
    bytes.set([0, 0xff, 0x2f, 0], bytes.length - 4);
    return bytes;
  };
  /** Note-ons of one key under running status. */
  const ons = (count: number) => repeated([0, 0x90, 60, 80], [0, 60, 80], count - 1);

  it("is refused while it is read, and says what the most is", () => {
    expect(() => readSmf(ons(1_000_001))).toThrow(
      "The file holds more than 1,000,000 notes, the most that is read",
    );
    // In two tracks together.
    const twice = Uint8Array.from([...ons(600_000), ...ons(600_000).subarray(14)]);
    expect(() => readSmf(twice)).toThrow("more than 1,000,000 notes");
    const many = repeated([], [0, 0xff, 0x01, 0], 4_000_001);
    expect(() => readSmf(many)).toThrow("more than 4,000,000 events");
  });

  it("of notes of one key that never end is read as far as a part holds", () => {
    const { project, report } = readSmf(ons(300_000));
    expect(project.patterns[0]!.parts[0]!.notes).toHaveLength(100_000);
    expect(report.notKept).toContain("200,000 notes beyond the 100000 that a part holds");
  });
});
