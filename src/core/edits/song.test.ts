import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import {
  COLOURS,
  LIMITS,
  type Project,
  chordsOfText,
  createProject,
  metreOf,
  sectionBars,
  sectionsOf,
  textOfChords,
  totalTicks,
} from "../score";
import { playbackEvents } from "../playback";
import { type ProjectError, mergeProjects, parseProject } from "../stored";
import * as edits from "./";

const BAR = 3840;
const BASS = { pattern: "a", track: "bass" };

/** Two patterns (of four bars and of one) that play something else in each bar, and a song of them. */
function arranged(song: Project["song"]): Project {
  let project = createProject({ bars: 4 });
  project = edits.setNotes(
    project,
    BASS,
    [0, 1, 2, 3].map((bar) => n(bar * BAR, { pitch: 40 + bar })),
  );
  project = edits.addPattern(project, "b", "a", "empty");
  project = edits.setBars(project, "b", 1);
  project = edits.setNotes(project, { pattern: "b", track: "bass" }, [n(0, { pitch: 60 })]);
  return { ...project, song };
}
const two = arranged([
  { id: "s1", pattern: "a", times: 2 },
  { id: "s2", pattern: "b", times: 3 },
]);
const heard = (project: Project) =>
  playbackEvents(project, 0, totalTicks(sectionsOf(project)), { loop: false }).map(
    (e) => `${e.start} ${e.pitch}`,
  );
const ids = (project: Project) => project.song.map((entry) => entry.id).join(" ");

describe("a pattern added", () => {
  const metre = { beats: 7, unit: 8 } as const;
  const colour = COLOURS[2];
  const source = edits.setColour(edits.setPatternMetre(two, "a", metre), "a", colour);
  const only = (project: Project, pattern: string) =>
    heard({ ...project, song: [{ id: "s", pattern, times: 1 }] });

  it("as a copy sounds as what it is of, in its metre and colour", () => {
    const copied = edits.addPattern(source, "c", "a", "copy");
    expect(copied.patterns.at(-1)).toMatchObject({ metre, colour, bars: 4 });
    expect(only(copied, "c")).toEqual(only(source, "a"));
    expect(only(copied, "c").length).toBeGreaterThan(2);
  });

  it("empty is as long as it, in its metre", () => {
    const added = edits.addPattern(source, "c", "a", "empty");
    expect(added.patterns.at(-1)).toMatchObject({ metre, bars: 4 });
    expect(added.patterns.at(-1)!.colour).toBeUndefined();
    expect(only(added, "c")).toEqual([]);
    parseProject(added);
  });
});

describe("sections", () => {
  it("are put in, moved together, and taken out; patterns stay", () => {
    const more = edits.insertSections(two, 1, [{ id: "x", pattern: "b", times: 1 }]);
    expect(ids(more)).toBe("s1 x s2");
    expect(ids(edits.moveSections(more, new Set(["s1", "s2"]), 2))).toBe("x s1 s2");
    expect(ids(edits.moveSections(more, new Set(["x"]), 3))).toBe("s1 s2 x");
    expect(ids(edits.moveSections(more, new Set(["x"]), 0))).toBe("x s1 s2");
    expect(edits.moveSections(more, new Set(["x"]), 1)).toBe(more);
    expect(edits.moveSections(more, new Set(["x"]), 2)).toBe(more);
    const less = edits.deleteSections(more, new Set(["s1", "x"]));
    expect(ids(less)).toBe("s2");
    expect(less.patterns).toBe(two.patterns);
    expect(edits.deleteSections(two, new Set(["none"]))).toBe(two);
  });

  it("have a length in loops or in bars, whichever was asked last", () => {
    const bars = (project: Project) =>
      sectionBars(
        project.song[0]!,
        project.patterns.find((p) => p.id === "a")!,
      );
    expect(bars(two)).toBe(8);
    const six = edits.setSectionBars(two, "s1", 6);
    expect(six.song[0]).toEqual({ id: "s1", pattern: "a", times: 2, bars: 6 });
    expect(heard(six).slice(0, 7).join()).toBe(
      [40, 41, 42, 43, 40, 41, 60].map((p, i) => `${i * BAR} ${p}`).join(),
    );
    expect(edits.setSectionBars(six, "s1", 12).song[0]).toEqual({
      id: "s1",
      pattern: "a",
      times: 3,
    });
    expect(edits.setSectionTimes(six, "s1", 3).song[0]).toEqual({
      id: "s1",
      pattern: "a",
      times: 3,
    });
    expect(edits.setSectionTimes(six, "s1", 5000).song[0]!.times).toBe(LIMITS.times);
    expect(edits.setSectionTimes(six, "s1", -4).song[0]!.times).toBe(1);
  });

  it("are split anywhere and play what they did", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.option(fc.integer({ min: 1, max: 14 }), { nil: undefined }),
        fc.option(fc.integer({ min: 1, max: 3 }), { nil: undefined }),
        fc.integer({ min: -1, max: 17 }),
        (times, bars, skip, at) => {
          const entry = {
            id: "s1",
            pattern: "a",
            times,
            ...(bars && { bars }),
            ...(skip && { skip }),
          };
          const project = arranged([entry, { id: "s2", pattern: "b", times: 1 }]);
          const split = edits.splitSection(project, "s1", at, "new");
          parseProject(split);
          expect(heard(split)).toEqual(heard(project));
          const inside = at >= 1 && at < sectionBars(entry, project.patterns[0]!);
          expect(split.song.length).toBe(inside ? 3 : 2);
        },
      ),
    );
  });

  it("have a tempo, a name, silent tracks and chords of their own; what is plain is left out", () => {
    let project = edits.setSectionTempo(two, "s1", 93.337);
    project = edits.changeSection(project, "s1", { name: "Ebb" });
    project = edits.muteInSection(project, "s1", "bass", true);
    expect(project.song[0]).toEqual({
      id: "s1",
      pattern: "a",
      times: 2,
      tempo: 93.34,
      name: "Ebb",
      mutes: ["bass"],
    });
    parseProject(project);
    expect(heard(project)).toHaveLength(3);
    project = edits.setSectionTempo(project, "s1", null);
    project = edits.changeSection(project, "s1", { name: undefined });
    project = edits.muteInSection(project, "s1", "bass", false);
    expect(project.song).toEqual(two.song);
    expect(edits.setSectionTempo(two, "s1", NaN)).toBe(two);
    expect(edits.setSectionTempo(two, "s1", 1).song[0]!.tempo).toBe(LIMITS.tempo.min);
    // A track that is deleted is silent nowhere.
    const muted = edits.muteInSection(two, "s1", "bass", true);
    expect(edits.deleteTrack(muted, "bass").song).toEqual(two.song);
  });

  it("get a pattern of their own, or a clone with some tracks", () => {
    const own = edits.makeSectionOwn(two, "s1", "new");
    expect(own.patterns.map((p) => p.id)).toEqual(["a", "new", "b"]);
    expect(own.song[0]!.pattern).toBe("new");
    expect(heard(own)).toEqual(heard(two));
    const clone = edits.cloneSection(two, "s1", {
      id: "c",
      pattern: "copy",
      tracks: new Set(["drums"]),
    });
    parseProject(clone);
    expect(ids(clone)).toBe("s1 c s2");
    expect(clone.patterns.find((p) => p.id === "copy")!.parts.map((p) => p.notes.length)).toEqual([
      0, 0,
    ]);
  });

  it("go with their pattern when that is deleted", () => {
    expect(ids(edits.deletePattern(two, "a"))).toBe("s2");
  });

  it("changed on two sides are all there after a merge: another order, other fields, one more", () => {
    const mine = edits.setSectionTempo(edits.moveSections(two, new Set(["s2"]), 0), "s1", 90);
    const theirs = edits.insertSections(edits.setSectionTimes(two, "s1", 5), 2, [
      { id: "x", pattern: "a", times: 1 },
    ]);
    const merged = mergeProjects(two, mine, theirs);
    parseProject(merged);
    expect([...merged.song].sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual([
      { id: "s1", pattern: "a", times: 5, tempo: 90 },
      { id: "s2", pattern: "b", times: 3 },
      { id: "x", pattern: "a", times: 1 },
    ]);
    // One deletes a track that the other mutes: nothing dead is left.
    const without = mergeProjects(
      two,
      edits.deleteTrack(two, "bass"),
      edits.muteInSection(two, "s1", "bass", true),
    );
    parseProject(without);
  });
});

describe("patterns", () => {
  it("have names, colours, a place in the list, and a metre of their own", () => {
    let project = edits.renamePattern(two, "a", "  Slack  ");
    project = edits.setColour(project, "a", "teal");
    project = edits.movePattern(project, "a", 2);
    expect(project.patterns.map((p) => [p.name, p.colour])).toEqual([
      ["New", undefined],
      ["Slack", "teal"],
    ]);
    expect(edits.renamePattern(two, "a", "  ")).toBe(two);
    expect(edits.setColour(project, "a", null).patterns[1]).not.toHaveProperty("colour");
    const seven = edits.setPatternMetre(two, "a", { beats: 7, unit: 8 });
    parseProject(seven);
    const [a, b] = seven.patterns;
    expect([metreOf(seven, a!).beats, metreOf(seven, b!).beats]).toEqual([7, 4]);
    // By places: each note stays at the beginning of its bar.
    expect(a!.parts[1]!.notes.map((note) => note.start)).toEqual([0, 3360, 6720, 10_080]);
    expect(edits.setPatternMetre(seven, "a", null).patterns[0]!.parts[1]!.notes).toEqual(
      two.patterns[0]!.parts[1]!.notes,
    );
    const times = edits.setPatternMetre(two, "a", { beats: 3, unit: 4 }, "times");
    expect(times.patterns[0]).toMatchObject({ bars: 6 });
    expect(times.patterns[0]!.parts[1]!.notes).toEqual(two.patterns[0]!.parts[1]!.notes);
  });

  it("are cleared, and their parts moved or copied, cut to where they go", () => {
    const cleared = edits.clearPattern(two, "a");
    expect(cleared.patterns[0]!.parts.every((part) => part.notes.length === 0)).toBe(true);
    const moved = edits.movePart(two, BASS, "b");
    parseProject(moved);
    expect(moved.patterns[1]!.parts[1]).toMatchObject({ length: BAR });
    expect(moved.patterns[1]!.parts[1]!.notes).toHaveLength(4);
    expect(moved.patterns[0]!.parts[1]!.notes).toEqual([]);
    expect(
      edits.movePart(two, BASS, "b", { copy: true }).patterns[0]!.parts[1]!.notes,
    ).toHaveLength(4);
    expect(edits.movePart(two, BASS, "a")).toBe(two);
  });
});

describe("what is no song", () => {
  const reasons = (project: unknown): string => {
    try {
      parseProject(project);
      return "";
    } catch (error) {
      return (error as ProjectError).problems.map((p) => `${p.path} ${p.reason}`).join("; ");
    }
  };
  const withEntry = (entry: object) => ({ ...two, song: [{ ...two.song[0], ...entry }] });
  const withNote = (note: object) => edits.setNotes(two, BASS, [{ ...n(0), ...note } as never]);

  it("is refused, each with its place", () => {
    expect(reasons(two)).toBe("");
    const wrong: [object, RegExp][] = [
      [withEntry({ pattern: "zz" }), /song\[0\]\.pattern.*no pattern/],
      [withEntry({ tempo: 0 }), /song\[0\]\.tempo/],
      [withEntry({ tempo: Infinity }), /song\[0\]\.tempo/],
      [withEntry({ tempo: "fast" }), /song\[0\]\.tempo/],
      [withEntry({ times: 1000 }), /song\[0\]\.times/],
      [withEntry({ bars: 0 }), /song\[0\]\.bars/],
      [withEntry({ skip: -1 }), /song\[0\]\.skip/],
      [withEntry({ mutes: ["zz"] }), /song\[0\]\.mutes\[0\].*no track/],
      [withEntry({ colour: "teal" }), /unknown fields/],
      [
        withEntry({ chords: [{ id: "c", start: 0, name: "Xy", inversion: 0, spread: "close" }] }),
        /no chord/,
      ],
      [withNote({ chance: 0 }), /chance must be a whole number from 1 to 99/],
      [withNote({ chance: 100 }), /chance/],
      [withNote({ chance: 12.5 }), /chance/],
      [withNote({ when: "5/4" }), /when must be/],
      [withNote({ when: "1/1" }), /when/],
      [withNote({ when: 3 }), /when/],
      [{ ...two, seed: -1 }, /seed/],
      [{ ...two, patterns: two.patterns.map((p) => ({ ...p, colour: "pink" })) }, /colour/],
      [
        { ...two, patterns: two.patterns.map((p) => ({ ...p, metre: { beats: 0, unit: 4 } })) },
        /metre/,
      ],
    ];
    for (const [project, reason] of wrong) expect(reasons(project)).toMatch(reason);
  });

  it("of earlier versions, without any of this, comes back as it was", () => {
    const old = { ...two, song: [{ id: "s1", pattern: "a", times: 2 }] };
    expect(parseProject(old)).toEqual(old);
  });
});

describe("chords as text", () => {
  const metre = { beats: 4, unit: 4 };
  const key = { root: 2, scale: "minor" };
  const read = (text: string) => chordsOfText(text, metre, key, () => "id");

  it("are read bar by bar, shared out over the beats, degrees too", () => {
    expect(read("Dm9 | | Gm7 A7 | N.C.")).toMatchObject({
      chords: [
        { start: 0, name: "Dm9" },
        { start: 2 * BAR, name: "Gm7" },
        { start: 2.5 * BAR, name: "A7" },
        { start: 3 * BAR, name: "" },
      ],
    });
    expect(read("5")).toMatchObject({ chords: [{ name: "Am" }] });
    expect(read("  ")).toEqual({ chords: [] });
    const found = read("Dm | Gm7 A7");
    expect("chords" in found && textOfChords(found.chords, metre)).toBe("Dm | Gm7 A7");
  });

  it("that are none are named with their bar", () => {
    expect(read("Dm | Xy")).toEqual({ wrong: "“Xy” in bar 2 is no chord" });
    expect(read("C C C C C")).toMatchObject({
      wrong: expect.stringContaining("Bar 1 holds 5") as string,
    });
  });
});
