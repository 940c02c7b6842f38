import { describe, expect, it } from "vitest";
import { n } from "../notes.test-helper";
import { LIMITS, type Project, type Starred, createProject } from "../score";
import { mergeProjects, parseProject } from "../stored";
import * as edits from "./";

const star = (start: number, track: string | null = "bass"): Starred => ({
  track,
  seed: start,
  notes: [n(start)],
});
const base = edits.toggleStar(createProject(), "a", star(0));
const seeds = (project: Project) => project.patterns[0]!.stars?.map(({ seed }) => seed);

describe("stars of two tabs", () => {
  it("are all kept; one let go in one of them is gone", () => {
    const mine = edits.toggleStar(base, "a", star(240));
    const theirs = edits.toggleStar(edits.toggleStar(base, "a", star(480)), "a", star(0));
    expect(seeds(mergeProjects(base, mine, theirs))?.sort()).toEqual([240, 480]);
    const both = edits.toggleStar(base, "a", star(240));
    expect(seeds(mergeProjects(base, mine, both))).toEqual([0, 240]);
    // Taken back in one tab, what the other did stands.
    expect(seeds(mergeProjects(mine, base, edits.toggleStar(mine, "a", star(960))))).toEqual([
      0, 960,
    ]);
  });

  it("go where their track goes; of the chord line they stay; never are there too many", () => {
    const withLine = edits.toggleStar(base, "a", star(0, null));
    const gone = edits.deleteTrack(base, "bass");
    const merged = mergeProjects(base, withLine, gone);
    expect(merged.patterns[0]!.stars?.map(({ track }) => track)).toEqual([null]);
    parseProject(merged);
    const many = (from: number) =>
      Array.from({ length: 40 }, (_, i) => star(from + i)).reduce(
        (p, one) => edits.toggleStar(p, "a", one),
        createProject(),
      );
    const full = mergeProjects(createProject(), many(1000), many(5000));
    expect(full.patterns[0]!.stars).toHaveLength(LIMITS.stars);
    parseProject(full);
  });

  it("come along with patterns of another project, for the tracks they have there", () => {
    let made = 0;
    const other = edits.toggleStar(base, "a", star(0, null));
    const both = edits.bringPatterns(createProject(), other, () => `new${++made}`);
    const [first, second] = both.patterns;
    expect(first!.stars).toBeUndefined();
    const bass = both.tracks[3]!;
    expect(second!.stars!.map(({ track }) => track)).toEqual([bass.id, null]);
    parseProject(both);
    const drums = other.tracks.map(({ id, name, kind, sound }) => ({
      id,
      name,
      kind,
      sound,
      taken: id === "drums",
    }));
    expect(edits.chosenTracks(other, drums).patterns[0]!.stars!.map(({ track }) => track)).toEqual([
      null,
    ]);
  });

  it("from outside are checked: too many, of no track id, with unknown fields", () => {
    const broken = (stars: unknown) => () =>
      parseProject({ ...base, patterns: [{ ...base.patterns[0]!, stars }] });
    expect(broken([{ ...star(0), colour: "red" }])).toThrow(/stars/);
    expect(broken([{ ...star(0), track: 5 }])).toThrow(/stars/);
    expect(broken(Array.from({ length: 65 }, (_, i) => star(i)))).toThrow(/stars/);
    expect(broken([{ ...star(0), notes: "none" }])).toThrow(/stars/);
    expect(broken([{ ...star(0), says: "x".repeat(401) }])).toThrow(/stars/);
  });
});
