import { createProject, partOf } from "../score";
import { playbackEvents, notesPastLoop } from "../playback";
import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyNotes, n } from "../notes.test-helper";
import * as edits from "./index";

let made = 0;
const idOf = () => `copy${++made}`;
const DRUMS = { pattern: "a", track: "drums" };
const BASS = { pattern: "a", track: "bass" };
const drumStarts = (project: ReturnType<typeof createProject>) =>
  partOf(project, DRUMS).notes.map((note) => note.start);

describe("notes past the end of their loop", () => {
  const project = edits.setNotes(createProject({ bars: 1 }), DRUMS, [
    n(0, { pitch: 36 }),
    n(4000, { pitch: 36 }),
    n(9000, { pitch: 38 }),
  ]);

  it("are named, and taken in, wrapped round or deleted", () => {
    expect(notesPastLoop(project, DRUMS).map((note) => note.start)).toEqual([4000, 9000]);
    const roomy = edits.growLoops(project, DRUMS, idOf);
    expect(roomy.message).toBe("the loop is now 3 bars");
    expect(notesPastLoop(roomy.project, DRUMS)).toEqual([]);
    expect(drumStarts(roomy.project)).toEqual([0, 4000, 9000]);
    expect(drumStarts(edits.wrapPastLoop(project, DRUMS))).toEqual([0, 160, 1320]);
    expect(drumStarts(edits.deletePastLoop(project, DRUMS))).toEqual([0]);
    expect(edits.growLoops(roomy.project, DRUMS, idOf)).toEqual({
      project: roomy.project,
      message: "",
    });
  });

  it("of a lane with its own loop lengthen that", () => {
    const lane = project.tracks[0]!.lanes.find((l) => l.pitch === 38)!;
    const own = edits.changeLane(project, "drums", lane.id, {
      steps: 4,
      grid: { value: 16, kind: "straight", swing: 50 },
    });
    const { project: roomy, message } = edits.growLoops(own, DRUMS, idOf);
    expect(message).toBe("Snare now loops over 40 steps, the loop is now 2 bars");
    expect(notesPastLoop(roomy, DRUMS)).toEqual([]);
  });
});

describe("a transform that makes a loop longer than its pattern", () => {
  it("makes the pattern longer too, and says so", () => {
    const project = edits.setNotes(createProject({ bars: 1 }), DRUMS, [n(0, { pitch: 36 })]);
    for (const [id, params] of [
      ["repeat", { times: 3 }],
      ["stretch", { factor: 3, loop: true }],
    ] as const) {
      const done = edits.transformPart(
        project,
        DRUMS,
        { transform: id, params, scope: edits.WHOLE_PART },
        () => "new",
      );
      expect(done.project.patterns[0]!.bars).toBe(3);
      expect(done.effect.sentence).toMatch(/; the pattern is now 3 bars$/);
      expect(notesPastLoop(done.project, DRUMS)).toEqual([]);
    }
    const step = { id: "s", transform: "repeat", on: true, params: { times: 4 }, scope: null };
    let id = 0;
    const written = edits.writeChain(edits.addStep(project, DRUMS, step), DRUMS, () => `w${id++}`);
    expect(written.patterns[0]!.bars).toBe(4);
  });
});

describe("a change of metre", () => {
  const seven = { beats: 7, unit: 8 };
  const beats = [0, 960, 1920, 2880, 3360, 3840, 4800].map((start) => n(start, { pitch: 36 }));
  const base = () => {
    const project = edits.setNotes(createProject({ bars: 2 }), DRUMS, beats);
    const chord = (start: number) => ({
      id: `c${start}`,
      start,
      name: "Dm7",
      inversion: 0,
      spread: "close" as const,
    });
    return edits.putChords(project, "a", [chord(0), chord(3840)]);
  };
  const chords = (project: ReturnType<typeof base>) =>
    project.patterns[0]!.chords!.map((mark) => mark.start);

  it("keeps times: nothing moves, and the pattern has as many bars as hold it", () => {
    const kept = edits.setMetre(base(), seven, "times");
    expect(drumStarts(kept)).toEqual(beats.map((note) => note.start));
    expect(chords(kept)).toEqual([0, 3840]);
    expect(kept.patterns[0]!.bars).toBe(3);
    expect(notesPastLoop(kept, DRUMS)).toEqual([]);
    const onsets = (p: typeof kept) =>
      playbackEvents(p, 0, 7680, { loop: false }).map((e) => e.start);
    expect(onsets(kept)).toEqual(onsets(base()));
  });

  it("keeps places in the bar: notes and chords go along, what has no place is past the end", () => {
    const kept = edits.setMetre(base(), seven, "places");
    // The last eighth of the first bar has no place in the shorter one.
    expect(drumStarts(kept)).toEqual([0, 960, 1920, 2880, 3360, 4320, 6720 + 3360]);
    expect(chords(kept)).toEqual([0, 3360]);
    expect(notesPastLoop(kept, DRUMS).map((note) => note.start)).toEqual([10_080]);
  });

  it("loses no note, either way", () => {
    const metre = fc.constantFrom({ beats: 3, unit: 4 }, seven, { beats: 12, unit: 8 });
    const how = fc.constantFrom("times" as const, "places" as const);
    fc.assert(
      fc.property(anyNotes, metre, how, (notes, to, keep) => {
        const project = edits.setNotes(createProject({ bars: 16 }), BASS, notes);
        const after = edits.setMetre(project, to, keep);
        expect(
          partOf(after, BASS)
            .notes.map((note) => note.id)
            .sort(),
        ).toEqual(notes.map((note) => note.id).sort());
      }),
    );
  });
});

describe("lanes in quarters, in a metre of dotted beats", () => {
  const snare = (project: ReturnType<typeof createProject>) =>
    project.tracks[0]!.lanes.find(({ pitch }) => pitch === 38)!.grid;

  it("step in felt beats, where nothing is drawn on them; and in quarters again in a plain metre", () => {
    const twelve = { beats: 12, unit: 8 };
    expect(snare(createProject({ metre: twelve }))).toMatchObject({ value: 4, kind: "dotted" });
    const changed = edits.setMetre(createProject(), twelve);
    expect(snare(changed)).toMatchObject({ value: 4, kind: "dotted" });
    expect(snare(edits.setMetre(changed, { beats: 4, unit: 4 }))).toEqual(snare(createProject()));
    // 3/4 and 6/8 have bars of one length, and other beats.
    const three = edits.setMetre(createProject(), { beats: 3, unit: 4 });
    expect(snare(edits.setMetre(three, { beats: 6, unit: 8 }))).toMatchObject({ kind: "dotted" });
    const { tracks } = createProject();
    const same = edits.setMetre({ ...createProject(), tracks }, { beats: 5, unit: 4 });
    expect(same.tracks[0]).toBe(tracks[0]);
    const drawn = edits.setNotes(createProject(), DRUMS, [n(960, { pitch: 38 })]);
    expect(snare(edits.setMetre(drawn, twelve))).toEqual(snare(createProject()));
  });
});
