import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { type Project, createProject } from "../score";
import { playbackEvents } from "../playback";
import { readMusicXml, readProjectJson, writeMusicXml, writeProjectJson } from "../formats";
import * as edits from "./";

const BASS = { pattern: "a", track: "bass" };
const DRUMS = { pattern: "a", track: "drums" };

function counter() {
  let n = 0;
  return () => `new${++n}`;
}

/** Two bars of bass and drums, a second pattern, a song with a tempo and a mute, a track ducked by another. */
function other(): Project {
  let project = edits.setNotes(createProject({ bars: 2 }), BASS, [n(0), n(4800, { pitch: 50 })]);
  project = edits.setNotes(project, DRUMS, [n(0, { pitch: 36 }), n(960, { pitch: 38 })]);
  project = edits.addPattern(project, "b", "a", "copy");
  return {
    ...project,
    tempo: 93,
    tracks: project.tracks.map((track) =>
      track.id === "bass" ? { ...track, mix: { duckBy: "drums", duckPad: 36 } } : track,
    ),
    song: [
      { id: "x", pattern: "a", times: 1, mutes: ["drums"] },
      { id: "y", pattern: "b", times: 2, tempo: 120 },
    ],
  };
}

/** A project that the model takes. */
const valid = (project: Project) => readProjectJson(writeProjectJson(project));

describe("another project brought in", () => {
  it("as tracks lies in the pattern, which grows; all else stays", () => {
    const here = edits.setNotes(createProject({ bars: 1 }), BASS, [n(0)]);
    const made = edits.bringTracks(here, other(), "a", counter());
    expect(valid(made)).toEqual(made);
    expect(made.patterns[0]!.bars).toBe(2);
    expect(made.tracks).toHaveLength(4);
    expect(made.tracks[3]!.mix!.duckBy).toBe(made.tracks[2]!.id);
    const heard = playbackEvents(made, 0, 7680, { pattern: "a" }).filter(
      (e) => e.track === made.tracks[3]!.id,
    );
    expect(heard.map((e) => [e.start, e.pitch])).toEqual([
      [0, 60],
      [4800, 50],
    ]);
    expect(made.patterns[0]!.parts[1]).toEqual({ ...here.patterns[0]!.parts[1]! });
  });

  it("as patterns plays what it did, at its tempo, after what is there", () => {
    const here = createProject({ bars: 1 });
    const from = other();
    const made = edits.bringPatterns(
      { ...here, song: [{ id: "s", pattern: "a", times: 1 }] },
      from,
      counter(),
    );
    expect(valid(made)).toEqual(made);
    expect(made.patterns).toHaveLength(3);
    expect(made.song.map((entry) => entry.tempo)).toEqual([undefined, 93, undefined]);
    const theirs = playbackEvents(from, 0, 23_040, { loop: false }).map((e) => [e.start, e.pitch]);
    const ours = playbackEvents(made, 3840, 3840 + 23_040, { loop: false }).map((e) => [
      e.start - 3840,
      e.pitch,
    ]);
    expect(ours).toEqual(theirs);
    expect(() =>
      edits.bringPatterns(
        { ...here, patterns: Array.from({ length: 127 }, () => here.patterns[0]!) },
        from,
        counter(),
      ),
    ).toThrow(/129 patterns would be there; at most 128 fit/);
  });

  it("has the tracks that were chosen, as what they were chosen to be", () => {
    const project = other();
    const choices = project.tracks.map(({ id, name, sound }) => ({ id, name, sound }));
    const made = edits.chosenTracks(project, [
      { ...choices[0]!, taken: false, kind: "drums" },
      { ...choices[1]!, taken: true, name: "Taps", kind: "drums", sound: "harbour" },
    ]);
    expect(made.tracks).toHaveLength(1);
    expect(made.tracks[0]).toMatchObject({ name: "Taps", kind: "drums", sound: "harbour" });
    expect(made.tracks[0]!.lanes.map((lane) => lane.pitch)).toEqual([50, 60]);
    expect(made.song[0]!.mutes).toBeUndefined();
    // What ducked it was not taken.
    expect(made.tracks[0]!.mix?.duckBy ?? "").toBe("");
    expect(valid(made)).toEqual(made);
  });

  it("of a score is a project that the model takes", () => {
    const { project } = readMusicXml(writeMusicXml(other()).text);
    expect(valid(project)).toEqual(project);
  });
});
