import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "../edits";
import { createProject } from "../score";
import { FormatError } from "./container/bytes";
import { scopeOf } from "./common/scope";
import { readSmf } from "./smf/read";
import { FORMATS, READABLE, formatOf, readFile, requestOfTexts, writeFile } from "./registry";

const BASS = { pattern: "a", track: "bass" };
const project = edits.addNotes(createProject(), BASS, [n(0), n(960)]);
const bytes = (body: Uint8Array | string) =>
  typeof body === "string" ? new TextEncoder().encode(body) : body;

describe("the registry of formats", () => {
  it("reads back what it writes, whatever the file is called", () => {
    for (const [id, { reader, write }] of Object.entries(FORMATS)) {
      if (!reader || !write) continue;
      const file = writeFile(project, id);
      const back = readFile(bytes(file.body), "called.anything");
      expect(back.format).toBe(id);
      const line = back.project.patterns[0]!.parts.flatMap((part) => part.notes);
      expect(line.map((note) => [note.start, note.pitch])).toEqual([
        [0, 60],
        [960, 60],
      ]);
    }
  });

  it("tells one format from another by what is in it", () => {
    for (const [id, { reader, write }] of Object.entries(FORMATS)) {
      if (!write || !reader) continue;
      const file = bytes(writeFile(project, id).body);
      const matching = Object.entries(FORMATS).filter(([, f]) => f.reader?.matches(file));
      expect(matching.map(([other]) => other)).toEqual([id]);
    }
  });

  it("offers choices whose options the format itself takes", () => {
    const current = { pattern: "a", track: "bass", lane: null, selection: [], range: null };
    for (const [id, { choices, extents }] of Object.entries(FORMATS)) {
      for (const { options, extent } of choices) {
        expect(extents).toContain(extent);
        const request = { ...options, ...scopeOf(extent, current) };
        expect(() => writeFile(project, id, request)).not.toThrow();
      }
    }
    expect(READABLE.every((ending) => /^\.[a-z]+$/.test(ending))).toBe(true);
  });

  it("refuses unknown formats and options by name", () => {
    for (const id of ["exe", "constructor", "toString"]) {
      expect(() => formatOf(id)).toThrow(
        `“${id}” is no known format; known are wave, flac, midi, score`,
      );
    }
    expect(() => writeFile(project, "midi", { speed: 2 })).toThrow(/unknown options: speed/);
    expect(() => writeFile(project, "midi", { pattern: "zz" })).toThrow(/“zz” is no pattern/);
    expect(() => readFile(bytes("RIFF"), "x.mid")).toThrow(FormatError);
    expect(() => readFile(new Uint8Array(), "x.mid")).toThrow(/empty/);
  });

  it("takes options as they stand in an address, and refuses those that are none", () => {
    const twice = requestOfTexts("midi", { pattern: "a", rounds: "2", kind: "all in one (0)" });
    expect(twice).toEqual({ pattern: "a", rounds: 2, kind: "all in one (0)" });
    const { project: back } = readSmf(writeFile(project, "midi", twice).body as Uint8Array);
    expect(back.patterns[0]!.parts.flatMap((part) => part.notes)).toHaveLength(4);
    for (const rounds of ["", "two", "1e999", "-1"])
      expect(() => writeFile(project, "midi", requestOfTexts("midi", { rounds }))).toThrow(
        /rounds/,
      );
    expect(requestOfTexts("score", { triplets: "false" })).toEqual({ triplets: false });
    expect(() => writeFile(project, "score", requestOfTexts("score", { lane: "36" }))).toThrow(
      /unknown options: lane/,
    );
    expect(() => writeFile(project, "score", { triplets: "maybe" })).toThrow(/triplets/);
  });

  it("asks each question with an answer that it takes", () => {
    for (const [id, { questions, defaults }] of Object.entries(FORMATS)) {
      expect(Object.keys(questions.fields).sort(), id).toEqual(Object.keys(defaults).sort());
      expect(() => questions.validateSync(defaults, { strict: true }), id).not.toThrow();
    }
  });

  it("says what a file leaves out", () => {
    const muted = edits.changeTrack(project, "bass", { mute: true });
    expect(writeFile(muted, "midi").notKept).toEqual(["1 silent track left out"]);
    expect(writeFile(muted, "project").notKept).toEqual([]);
  });
});
