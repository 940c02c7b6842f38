import { parseMidi, type MidiEvent } from "midi-file";
import { describe, expect, it } from "vitest";
import { n } from "../../notes.test-helper";
import * as edits from "../../edits";
import { createProject } from "../../score";
import { playbackEvents } from "../../playback";
import { narrowed } from "../../edits";
import { patternPicture } from "../picture/picture";
import { writeFile } from "../registry";
import { readSmf } from "./read";
import { writeSmf } from "./write";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };
let project = createProject({ bars: 2 });
project = edits.setNotes(project, BASS, [
  n(0, { id: "x" }),
  n(960, { id: "y", pitch: 64 }),
  n(4800, { pitch: 67 }),
]);
project = edits.setNotes(project, DRUMS, [
  n(0, { pitch: 36 }),
  n(1920, { pitch: 38 }),
  n(3840, { pitch: 36 }),
]);
project = edits.addPattern(project, "b", "a", "copy");

/** Onsets and ends with their channel and pitch, by another reader. */
function theirs(bytes: Uint8Array): string[] {
  return parseMidi(bytes)
    .tracks.flatMap((track) => {
      let at = 0;
      return track.map((event: MidiEvent) => {
        at += event.deltaTime;
        return event.type === "noteOn" || event.type === "noteOff"
          ? `${at} ${event.type} ${event.channel} ${event.noteNumber}`
          : null;
      });
    })
    .filter((text) => text !== null)
    .sort();
}

describe("MIDI of a part of a project", () => {
  it("of format 0 holds in one track what format 1 holds in several", () => {
    const one = writeSmf(project, { format: 0 });
    const many = writeSmf(project);
    expect(parseMidi(one).header).toMatchObject({ format: 0, numTracks: 1 });
    expect(theirs(one)).toEqual(theirs(many));
    const [track] = parseMidi(one).tracks;
    expect(track!.at(-1)!.type).toBe("endOfTrack");
    expect(track!.filter((event) => event.type === "trackName")).toHaveLength(1);
    const back = readSmf(one).project;
    expect(back.tracks.map((t) => t.kind).sort()).toEqual(["drums", "melody"]);
  });

  it("of a range holds what begins in it, from its beginning", () => {
    const bytes = writeSmf(project, { pattern: "a", range: [3840, 7680] });
    const ons = theirs(bytes).filter((text) => text.includes("noteOn"));
    expect(ons).toEqual(["0 noteOn 9 36", "960 noteOn 0 67"]);
    const back = readSmf(bytes).project;
    expect(back.patterns[0]!.bars).toBe(1);
  });

  it("of a track, a lane or a few notes holds those alone, muted or not", () => {
    const muted = edits.changeTrack(project, "drums", { mute: true });
    const lane = writeFile(muted, "midi", { pattern: "a", track: "drums", lane: 36 });
    expect(theirs(lane.body as Uint8Array).filter((t) => t.includes("noteOn"))).toEqual([
      "0 noteOn 9 36",
      "3840 noteOn 9 36",
    ]);
    expect(lane.notKept).toEqual([]);
    const few = writeFile(project, "midi", { pattern: "a", track: "bass", notes: ["y"] });
    expect(theirs(few.body as Uint8Array).filter((t) => t.includes("noteOn"))).toEqual([
      "960 noteOn 0 64",
    ]);
    expect(() => writeFile(project, "midi", { track: "nobody" })).toThrow(/“nobody” is no track/);
    expect(() => writeFile(project, "midi", { range: "1 -2" })).toThrow(/two ticks/);
    expect(() => writeFile(project, "midi", { lane: 200 })).toThrow(/Lane|lane/);
  });

  it("leaves the project as it was: a narrowed one shares nothing that changes", () => {
    const before = structuredClone(project);
    const alone = narrowed(project, { track: "bass" });
    expect(alone.tracks).toHaveLength(1);
    expect(playbackEvents(alone, 0, 7680, { pattern: "a", loop: false })).toHaveLength(3);
    expect(project).toEqual(before);
  });
});

describe("a pattern as a drawing", () => {
  it("has a stone for each note, names as they are, and is well-formed", () => {
    const named = (name: string) =>
      project.tracks.map((track) => (track.id === "bass" ? { ...track, name } : track));
    const odd = { ...project, tracks: named(`<b>"&`) };
    const text = patternPicture(odd, "a");
    // Two arcs each.
    expect(text.match(/a[\d.]+ [\d.]+ 0 1 0/g)).toHaveLength(12);
    expect(text).toContain("&lt;b&gt;&quot;&amp;");
    expect(text).not.toContain("<b>");
    expect(() => patternPicture(project, "zz")).toThrow(/“zz” is no pattern/);
  });
});
