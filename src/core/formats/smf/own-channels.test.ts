import { describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import { LIMITS, createProject, makeTrack } from "../../score";
import { parseProject } from "../../stored";
import { nameOf } from "../import/names";
import { readSmf } from "./read";
import { writeSmf } from "./write";

const BASS = { pattern: "a", track: "bass" };
const notes = (project: ReturnType<typeof createProject>, track = 0) =>
  project.patterns[0]!.parts[track]!.notes;

/** A file of format 0 with one track of these bytes, 960 ticks to the quarter. */
const file = (...events: number[]): Uint8Array => {
  const track = [...events, 0x00, 0xff, 0x2f, 0x00];
  const length = [track.length >> 24, track.length >> 16, track.length >> 8, track.length];
  return Uint8Array.from([
    ...[0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0x03, 0xc0],
    ...[0x4d, 0x54, 0x72, 0x6b, ...length.map((byte) => byte & 0xff)],
    ...track,
  ]);
};

describe("notes on channels of their own", () => {
  it("come back into their track, which stays one", () => {
    const project = edits.setNotes(createProject(), BASS, [
      n(0, { pitch: 40 }),
      n(960, { pitch: 43, channel: 7 }),
      n(1920, { pitch: 40, channel: 12 }),
    ]);
    const { project: back } = readSmf(writeSmf(project));
    expect(back.tracks.map(({ name }) => name)).toEqual(["Reed bass"]);
    expect(notes(back).map(({ start, channel }) => [start, channel])).toEqual([
      [0, undefined],
      [960, 7],
      [1920, 12],
    ]);
    expect(new Set(notes(back).map(({ id }) => id)).size).toBe(3);
    expect(parseProject(JSON.parse(JSON.stringify(back)))).toEqual(back);
    // Of a file in which all is one track nothing can be told.
    expect(readSmf(writeSmf(project, { format: 0 })).project.tracks.length).toBe(3);
  });
});

describe("a file of others", () => {
  it("goes on in one track where program 0 is named after the first notes", () => {
    const { project, report } = readSmf(
      file(0, 0x90, 60, 90, 60, 0x80, 60, 0, 0, 0xc0, 0, 0, 0x90, 62, 90, 60, 0x80, 62, 0),
    );
    expect(project.tracks).toHaveLength(1);
    expect(notes(project)).toHaveLength(2);
    expect(report.notKept).toEqual([]);
    // Another program is another sound.
    const other = readSmf(
      file(0, 0x90, 60, 90, 60, 0x80, 60, 0, 0, 0xc0, 5, 0, 0x90, 62, 90, 60, 0x80, 62, 0),
    );
    expect(other.project.tracks).toHaveLength(2);
  });

  it("with a note of 2^28 ticks is a project that can be kept", () => {
    const { project, report } = readSmf(
      file(0, 0x90, 60, 90, 0xff, 0xff, 0xff, 0x7f, 0x80, 60, 0, 0, 0x90, 62, 90, 60, 0x80, 62, 0),
    );
    expect(parseProject(JSON.parse(JSON.stringify(project)))).toEqual(project);
    expect(notes(project)[0]!.length).toBeLessThanOrEqual(LIMITS.ticks);
    expect(report.notKept).toContain("1 note longer than a pattern, ended with it");
  });

  it("has names without what is not seen", () => {
    expect(nameOf("\u0000")).toBe("");
    expect(nameOf("Slack\u0000\u0007 Water\u202e")).toBe("Slack Water".replace(" ", "  "));
    const { project } = readSmf(file(0, 0xff, 0x03, 1, 0, 0, 0x90, 60, 90, 60, 0x80, 60, 0));
    expect(project.name).toBe("Imported");
  });

  it("has notes in two tracks whose chances are drawn apart", () => {
    let project = createProject({
      tracks: ["one", "two"].map((id) =>
        makeTrack({ id, kind: "melody", name: id, sound: "reed-bass" }),
      ),
    });
    for (const track of ["one", "two"])
      project = edits.setNotes(project, { pattern: "a", track }, [n(0), n(960)]);
    const { project: back } = readSmf(writeSmf(project));
    const ids = [0, 1].flatMap((track) => notes(back, track).map(({ id }) => id));
    expect(new Set(ids).size).toBe(4);
  });
});
