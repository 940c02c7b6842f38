import * as edits from "../../edits";
import { type Project, createProject, makeTrack, partOf } from "../../score";
import { playbackEvents } from "../../playback";
import { parseProject } from "../../stored";
import { Midi } from "@tonejs/midi";
import * as fc from "fast-check";
import { parseMidi, writeMidi } from "midi-file";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../../notes.test-helper";
import { ByteReader, ByteWriter, FormatError } from "../container/bytes";
import { readSmf } from "./read";
import { levelToVolume, volumeToLevel } from "./levels";
import { signatureOf } from "../common/key-signature";
import { writeSmf } from "./write";

const bytes = (...values: (number | string)[]) =>
  Uint8Array.from(
    values.flatMap((v) => (typeof v === "string" ? [...v].map((c) => c.charCodeAt(0)) : [v])),
  );
const header = (format: number, tracks: number, division: number) =>
  [..."MThd"]
    .map((c) => c.charCodeAt(0))
    .concat([0, 0, 0, 6, 0, format, 0, tracks, division >> 8, division & 255]);
const chunk = (data: number[]) =>
  [..."MTrk"]
    .map((c) => c.charCodeAt(0))
    .concat([0, 0, data.length >> 8, data.length & 255, ...data]);
const file = (format: number, division: number, ...tracks: number[][]) =>
  Uint8Array.from([...header(format, tracks.length, division), ...tracks.flatMap(chunk)]);
const END = [0, 0xff, 0x2f, 0];

describe("variable-length quantities", () => {
  // Source: Standard MIDI Files 1.0, "Variable Length Quantity", the table of examples.
  const EXAMPLES: [number, number[]][] = [
    [0x00000000, [0x00]],
    [0x00000040, [0x40]],
    [0x0000007f, [0x7f]],
    [0x00000080, [0x81, 0x00]],
    [0x00002000, [0xc0, 0x00]],
    [0x00003fff, [0xff, 0x7f]],
    [0x00004000, [0x81, 0x80, 0x00]],
    [0x00100000, [0xc0, 0x80, 0x00]],
    [0x001fffff, [0xff, 0xff, 0x7f]],
    [0x00200000, [0x81, 0x80, 0x80, 0x00]],
    [0x08000000, [0xc0, 0x80, 0x80, 0x00]],
    [0x0fffffff, [0xff, 0xff, 0xff, 0x7f]],
  ];
  for (const [value, coded] of EXAMPLES) {
    it(`writes and reads ${value} as the standard prints it`, () => {
      const out = new ByteWriter();
      out.vlq(value);
      expect([...out.done()]).toEqual(coded);
      expect(new ByteReader(Uint8Array.from(coded)).vlq()).toBe(value);
    });
  }
  it("refuses a fifth byte", () => {
    expect(() => new ByteReader(bytes(0xff, 0xff, 0xff, 0xff, 0x7f)).vlq()).toThrow(FormatError);
  });
});

describe("reading", () => {
  it("reads the standard's format 0 example, with running status", () => {
    // Source: Standard MIDI Files 1.0, the example at the end: 4/4 at 120 BPM, 96 ticks a quarter,
    // program changes and notes on channels 1 to 3. Events typed in from memory of that example.
    const data = [
      0x00, 0xff, 0x58, 0x04, 0x04, 0x02, 0x18, 0x08, 0x00, 0xff, 0x51, 0x03, 0x07, 0xa1, 0x20,
      0x00, 0xc0, 0x05, 0x00, 0xc1, 0x2e, 0x00, 0xc2, 0x46, 0x00, 0x92, 0x30, 0x60, 0x00, 0x3c,
      0x60, 0x60, 0x91, 0x43, 0x40, 0x60, 0x90, 0x4c, 0x20, 0x81, 0x40, 0x82, 0x30, 0x40, 0x00,
      0x3c, 0x40, 0x00, 0x81, 0x43, 0x40, 0x00, 0x80, 0x4c, 0x40, 0x00, 0xff, 0x2f, 0x00,
    ];
    const { project, report } = readSmf(file(0, 96, data));
    expect(project.tempo).toBe(120);
    expect(project.metre).toEqual({ beats: 4, unit: 4 });
    expect(report).toMatchObject({ format: 0, tracks: 3, notes: 4 });
    const heard = playbackEvents(project, 0, 3840).map((e) => [
      e.start,
      e.length,
      e.pitch,
      e.velocity,
    ]);
    expect(heard).toEqual([
      [0, 3840, 48, 96],
      [0, 3840, 60, 96],
      [960, 2880, 67, 64],
      [1920, 1920, 76, 32],
    ]);
  });

  it("scales any division, SMPTE too", () => {
    const note = [0, 0x90, 60, 100, 48, 0x80, 60, 0, ...END];
    for (const [division, length] of [
      [96, 480],
      [24, 1920],
      [480, 96],
      [960, 48],
    ] as const) {
      const { project } = readSmf(file(0, division, note));
      expect(partOf(project, { pattern: "a", track: "t1" }).notes[0]!.length).toBe(length);
    }
    // −25 frames of 40 ticks: 1000 ticks a second; 48 ticks are 48 ms, at 120 BPM 92.16 ticks.
    const smpte = readSmf(file(0, (0xe7 << 8) | 40, note)).project;
    expect(partOf(smpte, { pattern: "a", track: "t1" }).notes[0]!.length).toBe(92);
  });

  it("reports what it does not keep", () => {
    const data = [
      0,
      0xff,
      0x51,
      3,
      0x07,
      0xa1,
      0x20,
      0,
      0x90,
      60,
      100,
      10,
      60,
      0,
      0,
      0xb0,
      1,
      30,
      0,
      0xe0,
      0,
      64,
      0,
      0xf0,
      2,
      1,
      0xf7,
      10,
      0xff,
      0x51,
      3,
      0x05,
      0xa1,
      0x20,
      0,
      0x90,
      64,
      90,
      0,
      0x80,
      70,
      0,
      ...END,
    ];
    const { report } = readSmf(file(0, 96, data));
    expect(report.notKept.sort()).toEqual(
      [
        "1 controller change",
        "1 note end without a beginning",
        "1 note of no length, kept one tick long",
        "1 note without an end, held to the end of their track",
        "1 system exclusive message",
      ].sort(),
    );
  });

  it("says what is wrong with broken files", () => {
    const good = writeSmf(edits.setNotes(createProject(), { pattern: "a", track: "bass" }, [n(0)]));
    const wrong: [Uint8Array, RegExp][] = [
      [bytes(), /empty/],
      [bytes("hello, this is no MIDI file"), /does not begin/],
      [good.slice(0, 10), /does not begin/],
      [good.slice(0, good.length - 6), /only \d+ follow/],
      [file(3, 96, END), /format 3/],
      [file(0, 0, END), /division/],
      [file(0, 96, [0, 60, 100]), /before any event/],
      [file(0, 96, [0, 0x90, 60]), /ends too early/],
      [file(0, 96, [0, 0x90, 60, 200]), /above 127/],
      [Uint8Array.from([...header(1, 3, 96), ...chunk(END)]), /promises 3 tracks/],
      [file(0, (0xf0 << 8) | 40, END), /SMPTE/],
    ];
    for (const [data, message] of wrong) {
      expect(() => readSmf(data), String(message)).toThrow(message);
      expect(() => readSmf(data)).toThrow(FormatError);
    }
  });

  it("never fails otherwise: any bytes give a project or a FormatError", () => {
    const good = writeSmf(
      edits.setNotes(createProject(), { pattern: "a", track: "bass" }, [n(0), n(480)]),
    );
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(good.length - 1), fc.nat(255)), { maxLength: 6 }),
        (changes) => {
          const spoiled = good.slice();
          for (const [at, value] of changes) spoiled[at] = value;
          try {
            parseProject(readSmf(spoiled).project);
          } catch (error) {
            expect(error).toBeInstanceOf(FormatError);
          }
        },
      ),
      { numRuns: 400 },
    );
  });

  it("names tracks in the project and drums by their pads", () => {
    const { project } = readSmf(
      file(
        1,
        96,
        [0, 0xff, 0x03, 3, 0x4f, 0x64, 0x65, ...END],
        [0, 0x99, 42, 90, 10, 42, 0, ...END],
      ),
      "fallback",
    );
    expect(project.name).toBe("Ode");
    expect(project.tracks[0]).toMatchObject({ kind: "drums", sound: "harbour" });
    expect(project.tracks[0]!.lanes.map((lane) => lane.name)).toEqual(["Closed hat"]);
    expect(readSmf(file(0, 96, END), "Empty one").project.name).toBe("Empty one");
  });
});

describe("writing", () => {
  const song = (): Project => {
    let project = createProject({
      name: "Tide table",
      tempo: 84,
      metre: { beats: 7, unit: 8 },
      key: { root: 2, scale: "dorian" },
    });
    project = edits.setNotes(project, { pattern: "a", track: "drums" }, [
      n(0, { pitch: 36, velocity: 120 }),
      n(250, { pitch: 42, velocity: 60 }),
    ]);
    project = edits.setNotes(project, { pattern: "a", track: "bass" }, [
      n(0, { pitch: 38, length: 700 }),
      n(1680, { pitch: 45 }),
    ]);
    return edits.changeTrack(project, "bass", { level: -6, pan: -0.5 });
  };

  it("is read the same by another reader", () => {
    // Second opinion: @tonejs/midi.
    const project = song();
    const midi = new Midi(writeSmf(project));
    expect(midi.header.ppq).toBe(960);
    expect(midi.header.tempos[0]!.bpm).toBeCloseTo(84, 3);
    expect(midi.header.timeSignatures[0]!.timeSignature).toEqual([7, 8]);
    expect(midi.name).toBe("Tide table");
    const theirs = midi.tracks.flatMap((track) =>
      track.notes.map((note) => [
        track.channel,
        note.ticks,
        note.durationTicks,
        note.midi,
        Math.round(note.velocity * 127),
      ]),
    );
    expect(theirs).toEqual([
      [9, 0, 240, 36, 120],
      [9, 250, 240, 42, 60],
      [0, 0, 700, 38, 96],
      [0, 1680, 240, 45, 96],
    ]);
  });

  it("is taken apart by midi-file without loss, and put together again the same", () => {
    // Second opinion: midi-file.
    const written = writeSmf(song());
    const parsed = parseMidi(written);
    expect(parsed.header).toMatchObject({ format: 1, numTracks: 3, ticksPerBeat: 960 });
    expect(readSmf(Uint8Array.from(writeMidi(parsed, { running: true }))).project).toEqual(
      readSmf(written).project,
    );
  });

  it("comes back as the same events, tempo, metre, key, level and pan", () => {
    const line = anyNotes.map((notes) => {
      const taken = new Set<string>();
      // One pitch at a time cannot overlap itself in MIDI; notes apart are compared.
      return notes
        .map((note) => ({
          ...note,
          start: Math.abs(note.start % 6000),
          length: 100,
          pan: 0,
          tune: 0,
          slide: false,
        }))
        .filter((note) => {
          const slot = `${note.pitch}/${Math.floor(note.start / 200)}`;
          const near = [
            slot,
            `${note.pitch}/${Math.floor(note.start / 200) + 1}`,
            `${note.pitch}/${Math.floor(note.start / 200) - 1}`,
          ];
          if (near.some((s) => taken.has(s))) return false;
          taken.add(slot);
          return true;
        });
    });
    fc.assert(
      fc.property(line, (notes) => {
        const base = song();
        const project = edits.setNotes(base, { pattern: "a", track: "bass" }, notes);
        const { project: back } = readSmf(writeSmf(project));
        expect({ ...back, tracks: 0, patterns: 0, song: 0 }).toEqual({
          ...project,
          tracks: 0,
          patterns: 0,
          song: 0,
        });
        const events = (p: Project) =>
          playbackEvents(p, 0, 6720, { loop: false }).map(({ start, length, pitch, velocity }) => [
            start,
            length,
            pitch,
            velocity,
          ]);
        expect(events(back)).toEqual(events(project));
        const bass = back.tracks.find((track) => track.name === "Reed bass");
        if (bass) {
          expect(bass.level).toBeCloseTo(-6, 0);
          expect(bass.pan).toBeCloseTo(-0.5, 1);
        }
      }),
      { numRuns: 60 },
    );
  });

  it("never leaves one pitch sounding twice on a channel", () => {
    const overlapping = [
      n(0, { length: 900 }),
      n(300, { length: 300 }),
      { ...n(300, { length: 500, velocity: 20 }), id: "again" },
    ];
    const project = edits.setNotes(createProject(), { pattern: "a", track: "bass" }, overlapping);
    const track = new Midi(writeSmf(project)).tracks[0]!;
    expect(track.notes.map((note) => [note.ticks, note.durationTicks])).toEqual([
      [0, 300],
      [300, 500],
    ]);
  });

  it("writes a note's own channel into its messages (SMF 1.0: status byte, low four bits)", () => {
    const project = edits.setNotes(createProject({ bars: 1 }), { pattern: "a", track: "bass" }, [
      n(0, { channel: 7, length: 480 }),
      n(0, { channel: 9, length: 240, pitch: 64 }),
      n(480, { length: 240 }),
    ]);
    const notes = parseMidi(writeSmf(project)).tracks[1]!.filter((e) => e.type === "noteOn");
    expect(notes.map((e) => [e.channel, e.noteNumber])).toEqual([
      [6, 60],
      [8, 64],
      [0, 60],
    ]);
  });

  it("keeps drums on channel 10 and gives melodic tracks channels of their own", () => {
    const tracks = Array.from({ length: 12 }, (_, i) =>
      makeTrack({ id: `m${i}`, kind: "melody", name: `M${i}`, sound: "glass-keys" }),
    );
    let project = createProject({ tracks });
    for (const track of tracks)
      project = edits.setNotes(project, { pattern: "a", track: track.id }, [n(0)]);
    const channels = new Midi(writeSmf(project)).tracks.map((track) => track.channel);
    expect(channels).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 12]);
  });

  it("writes patterns one after another, or one alone, and early hits at the beginning", () => {
    let project = edits.setNotes(createProject({ bars: 1 }), { pattern: "a", track: "bass" }, [
      n(-30),
    ]);
    project = edits.addPattern(project, "b", "a", "copy");
    const ticks = (pattern?: string) =>
      new Midi(writeSmf(project, { pattern })).tracks.flatMap((track) =>
        track.notes.map((note) => note.ticks),
      );
    expect(ticks()).toEqual([0, 3810]);
    expect(ticks("b")).toEqual([0]);
  });

  it("knows key signatures and volumes", () => {
    // Common practice: circle of fifths. Volume: General MIDI's 40 · log10(value / 127) curve.
    expect(signatureOf({ root: 7, scale: "major" })).toEqual({ fifths: 1, minor: false });
    expect(signatureOf({ root: 5, scale: "major" })).toEqual({ fifths: -1, minor: false });
    expect(signatureOf({ root: 9, scale: "minor" })).toEqual({ fifths: 0, minor: true });
    expect(signatureOf({ root: 6, scale: "minor" })).toEqual({ fifths: 3, minor: true });
    for (let db = -30; db <= 4; db += 1)
      expect(volumeToLevel(levelToVolume(db))).toBeCloseTo(db, 0);
    expect(volumeToLevel(levelToVolume(-60))).toBe(-60);
  });
});
