import { writeMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import { createProject, makeTrack } from "../../score";
import { parseProject } from "../../stored";
import { readSmf } from "./read";
import { ENCODINGS } from "./text";
import { writeSmf } from "./write";

const event = (rest: object) => ({ deltaTime: 0, channel: 0, ...rest }) as MidiEvent;
const note = (channel = 0, wait = 0) => [
  event({ deltaTime: wait, type: "noteOn", channel, noteNumber: 60, velocity: 80 }),
  event({ deltaTime: 240, type: "noteOff", channel, noteNumber: 60, velocity: 0 }),
];
/** A file at 480 a quarter by another library; `format` 0 where it is one chunk. */
const file = (...tracks: MidiEvent[][]): Uint8Array =>
  Uint8Array.from(
    writeMidi({
      header: { format: tracks.length > 1 ? 1 : 0, numTracks: tracks.length, ticksPerBeat: 480 },
      tracks: tracks.map((events) => [...events, event({ type: "endOfTrack" })]),
    }),
  );
const marker = (text: string, deltaTime = 0) => event({ type: "marker", text, deltaTime });
const BAR = 4 * 480;

describe("markers", () => {
  it("are the sections that begin there; the first names the pattern", () => {
    const { project, report } = readSmf(
      file(
        [marker("Ebb"), marker("Flood", 2 * BAR), marker("Slack", BAR + 100)],
        Array.from({ length: 4 }, (_, i) => note(0, i === 0 ? 0 : BAR - 240)).flat(),
      ),
    );
    parseProject(project);
    expect(project.patterns.map((p) => [p.name, p.bars])).toEqual([["Ebb", 4]]);
    expect(project.song.map(({ name, skip, bars }) => [name, skip, bars])).toEqual([
      [undefined, undefined, 2],
      ["Flood", 2, 1],
      ["Slack", 3, undefined],
    ]);
    expect(report.notKept).toEqual([]);
  });

  it("one at the beginning makes no song; two in a bar, and one after the end, are counted", () => {
    const once = readSmf(file([marker("Ebb")], note())).project;
    expect([once.patterns[0]!.name, once.song]).toEqual(["Ebb", []]);
    const { project, report } = readSmf(
      file([marker("A"), marker("B", BAR - 20), marker("C", 30)], [...note(), ...note(0, BAR)]),
    );
    expect(project.song.map(({ name }) => name)).toEqual([undefined, "C"]);
    expect(report.notKept).toEqual(["1 marker in the bar of another"]);
    const late = readSmf(file([marker("A"), marker("B", 9 * BAR)], note()));
    expect(late.report.notKept).toEqual(["1 marker after the last bar"]);
    expect(late.project.patterns[0]!.bars).toBe(9);
  });

  it("are more than sections fit: the first so many are kept, the rest counted", () => {
    const many = Array.from({ length: 600 }, (_, i) => marker(`M${i}`, i === 0 ? 0 : BAR));
    const { project, report } = readSmf(file(many, note()));
    parseProject(project);
    expect(project.song).toHaveLength(512);
    expect(report.notKept).toEqual(["88 markers beyond the sections that fit"]);
  });

  it("named sections go out and come back", () => {
    let project = createProject({ bars: 2 });
    project = edits.setNotes(project, { pattern: "a", track: "bass" }, [n(0)]);
    const song = [
      { id: "s", pattern: "a", times: 2, name: "Morning" },
      { id: "t", pattern: "a", times: 1, name: "Noon" },
    ];
    const back = readSmf(writeSmf({ ...project, song })).project;
    expect(back.song.map(({ name, bars, skip }) => [name, skip ?? 0, bars ?? 2])).toEqual([
      [undefined, 0, 4],
      ["Noon", 4, 2],
    ]);
    expect(back.patterns[0]!.name).toBe("Morning");
  });
});

describe("ports", () => {
  const port = (number: number) => event({ type: "portPrefix", port: number });

  it("of one chunk are tracks of their own, with drums on channel 10 of each", () => {
    const { project, report } = readSmf(
      file([...note(0), ...note(9), port(1), ...note(0), ...note(9)]),
    );
    expect(project.tracks.map(({ name, kind }) => [name, kind])).toEqual([
      ["Channel 1", "melody"],
      ["Drums", "drums"],
      ["Port 2, channel 1", "melody"],
      ["Drums", "drums"],
    ]);
    expect(report.notKept).toEqual([]);
  });

  it("carry 33 melodic tracks out and back, with nothing told as lost", () => {
    let project = createProject({ bars: 1 });
    for (let i = 0; i < 33; i++) {
      const track = makeTrack({
        id: `x${i}`,
        kind: "melody",
        name: `Line ${i}`,
        sound: "glass-keys",
      });
      project = edits.addTrack(project, track);
      project = edits.setNotes(project, { pattern: "a", track: track.id }, [n(240 * (i % 16))]);
    }
    const { project: back, report } = readSmf(writeSmf(project));
    expect(back.tracks.map(({ name }) => name)).toEqual(
      Array.from({ length: 33 }, (_, i) => `Line ${i}`),
    );
    expect(report.notKept).toEqual([]);
  });
});

describe("names", () => {
  it("after a channel prefix are that channel's (SMF 1.0, “MIDI Channel Prefix”), the first the piece's", () => {
    const name = (text: string) => event({ type: "trackName", text });
    const prefix = (channel: number) => event({ type: "channelPrefix", channel });
    const { project } = readSmf(
      file([
        name("Slack Water"),
        prefix(0),
        name("Bell"),
        prefix(1),
        name("Horn"),
        ...note(0),
        ...note(1),
      ]),
    );
    expect(project.name).toBe("Slack Water");
    expect(project.tracks.map((track) => track.name)).toEqual(["Bell", "Horn"]);
  });

  it("of a channel hold for what has played before them, up to the next event of a channel", () => {
    const bell = event({ type: "trackName", text: "Bell" });
    const prefix = event({ type: "channelPrefix", channel: 0 });
    const names = (events: ReturnType<typeof event>[]) =>
      readSmf(file(events)).project.tracks.map((track) => track.name);
    expect(names([...note(0), prefix, bell])).toEqual(["Bell"]);
    expect(names([...note(0), prefix, ...note(0), bell])).toEqual(["Channel 1"]);
  });

  /** A file whose only track has a name of these bytes. */
  const called = (bytes: readonly number[]): Uint8Array => {
    const chunk = [
      0,
      0xff,
      3,
      bytes.length,
      ...bytes,
      0,
      0x90,
      60,
      80,
      96,
      0x80,
      60,
      0,
      0,
      0xff,
      0x2f,
      0,
    ];
    const ascii = (text: string) => [...text].map((c) => c.charCodeAt(0));
    const head = [...ascii("MThd"), 0, 0, 0, 6, 0, 0, 0, 1, 0, 96];
    return Uint8Array.from([...head, ...ascii("MTrk"), 0, 0, 0, chunk.length, ...chunk]);
  };
  const read = (bytes: readonly number[], encoding?: string) => {
    const { project, report } = readSmf(called(bytes), "", encoding ? { encoding } : {});
    return [project.name, report.encoding];
  };

  it("are read as Unicode where they are that, else as Western, or as asked", () => {
    expect(read([...Buffer.from("Gull")])).toEqual(["Gull", null]);
    expect(read([...Buffer.from("Möwe")])).toEqual(["Möwe", "utf-8"]);
    expect(read([0x4d, 0xf6, 0x77, 0x65])).toEqual(["Möwe", "windows-1252"]);
    // 海 (“sea”) in the tables of JIS X 0208 and GB 2312; “мол” (“pier”) in those of KOI8-R (RFC 1489) and Windows 1251.
    expect(read([0x8a, 0x43], "shift_jis")).toEqual(["海", "shift_jis"]);
    expect(read([0xb3, 0xa4], "euc-jp")).toEqual(["海", "euc-jp"]);
    expect(read([0xba, 0xa3], "gb18030")).toEqual(["海", "gb18030"]);
    expect(read([0xcd, 0xcf, 0xcc], "koi8-r")).toEqual(["мол", "koi8-r"]);
    expect(read([0xec, 0xee, 0xeb], "windows-1251")).toEqual(["мол", "windows-1251"]);
    // Bytes that are none of an encoding are no error, and no hang.
    expect(read([0xff, 0xfe, 0xff], "shift_jis")[1]).toBe("shift_jis");
  });

  it("in any encoding that is offered can be read here", () => {
    for (const encoding of Object.keys(ENCODINGS)) {
      expect(new TextDecoder(encoding).encoding).toBe(encoding);
    }
  });
});
