import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import * as edits from "../edits";
import { createProject } from "../score";
import { FormatError } from "./container/bytes";
import { FORMATS, READABLE, formatOf, readFile, writeFile } from "./registry";

const BASS = { pattern: "a", track: "bass" };
const project = edits.addNotes(createProject(), BASS, [n(0), n(960)]);
const bytes = (body: Uint8Array | string) =>
  typeof body === "string" ? new TextEncoder().encode(body) : body;

describe("the registry of formats", () => {
  it("reads back what it writes, whatever the file is called", () => {
    for (const [id, { reader, writer }] of Object.entries(FORMATS)) {
      if (!reader || !writer) continue;
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
    for (const [id, { reader, writer }] of Object.entries(FORMATS)) {
      if (!writer || !reader) continue;
      const file = bytes(writeFile(project, id).body);
      const matching = Object.entries(FORMATS).filter(([, f]) => f.reader?.matches(file));
      expect(matching.map(([other]) => other)).toEqual([id]);
    }
  });

  it("offers choices whose options the format itself takes", () => {
    for (const [id, { writer }] of Object.entries(FORMATS)) {
      for (const choice of writer?.choices ?? []) {
        expect(() => writeFile(project, id, choice.options({ pattern: "a" }))).not.toThrow();
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

  it("says what a file leaves out", () => {
    const muted = edits.changeTrack(project, "bass", { mute: true });
    expect(writeFile(muted, "midi").notKept).toEqual(["1 silent track left out"]);
    expect(writeFile(muted, "project").notKept).toEqual([]);
  });
});
