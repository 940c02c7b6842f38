import { describe, expect, it } from "vitest";
import * as edits from "../edits";
import {
  MIX_RANGES,
  PLAIN_MIX,
  PLAIN_SEND_EFFECTS,
  PLAIN_SOUND,
  SEND_EFFECT_RANGES,
  SOUND_CONTROLS,
} from "./";
import { type Project, createProject } from "../score";
import {
  applyChange,
  diffProjects,
  mergeProjects,
  parseProject,
  presetProblems,
  upgrade,
} from "../stored";
import { readProjectJson, writeProjectJson } from "../formats";

const start = createProject();
const track = (project: Project, id = "bass") => project.tracks.find((t) => t.id === id)!;

/** A project that uses all there is. */
const full = () => {
  let project = edits.shapeSound(start, "bass", { brightness: 30, glide: 120 });
  project = edits.changeMix(project, "bass", { reverb: -6, low: 3, duckBy: "drums" });
  project = edits.changePad(project, "drums", 38, { from: "pebble", variant: 7, echo: -9 });
  return edits.changeRoom(project, { decay: 3000, echoValue: "1/4", pingPong: true, level: -2 });
};

describe("what is plain", () => {
  it("is left out of tracks, pads and the room, and forgotten when it is plain again", () => {
    const project = full();
    expect(track(project).shaping).toEqual({ brightness: 30, glide: 120 });
    expect(track(project).mix).toEqual({ reverb: -6, low: 3, duckBy: "drums" });
    expect(project.room).toEqual({ decay: 3000, echoValue: "1/4", pingPong: true, level: -2 });
    let back = edits.setShaping(project, "bass", {});
    back = edits.changeMix(back, "bass", PLAIN_MIX);
    back = edits.changePad(back, "drums", 38, { from: "", variant: 0, echo: -60 });
    back = edits.changeRoom(back, PLAIN_SEND_EFFECTS);
    expect(back).toEqual(start);
    expect(JSON.stringify(back)).toBe(JSON.stringify(start));
  });

  it("has plain values inside every range", () => {
    for (const ranges of [SOUND_CONTROLS, MIX_RANGES, SEND_EFFECT_RANGES]) {
      for (const { min, max, plain, step } of Object.values(ranges)) {
        expect(plain).toBeGreaterThanOrEqual(min);
        expect(plain).toBeLessThanOrEqual(max);
        expect(step).toBeGreaterThan(0);
      }
    }
  });

  it("says nothing of ducking where nothing ducks", () => {
    const on = edits.changeMix(start, "bass", { duckBy: "drums", duckDepth: 20, echo: -3 });
    expect(track(edits.changeMix(on, "bass", { duckBy: "" })).mix).toEqual({ echo: -3 });
    expect(track(edits.changeMix(start, "bass", { duckDepth: 20 })).mix).toBeUndefined();
  });

  it("shapes no kit and no track that is not there", () => {
    expect(edits.shapeSound(start, "drums", { drive: 50 })).toEqual(start);
    expect(edits.shapeSound(start, "nobody", { drive: 50 })).toEqual(start);
  });
});

describe("sound in files and saves", () => {
  it("goes through a project file and through a save unchanged", () => {
    const project = full();
    expect(readProjectJson(writeProjectJson(project))).toEqual(project);
    expect(parseProject(JSON.parse(JSON.stringify(project)))).toEqual(project);
    const change = diffProjects(start, project)!;
    expect(applyChange(start, change)).toEqual(project);
    expect(applyChange(project, diffProjects(project, start)!)).toEqual(start);
  });

  it("refuses what is unknown or out of its range, and says where", () => {
    const wrong = (change: (project: Record<string, never>) => void): string => {
      const file = JSON.parse(writeProjectJson(full())) as { project: Record<string, never> };
      change(file.project);
      try {
        readProjectJson(JSON.stringify(file));
      } catch (error) {
        return (error as Error).message;
      }
      return "";
    };
    type Loose = {
      tracks: Record<string, Record<string, unknown>>[];
      room: Record<string, unknown>;
    };
    const at = (change: (project: Loose) => void) => wrong((p) => change(p as unknown as Loose));
    expect(at((p) => (p.tracks[1]!.shaping!.brightness = 500))).toMatch(
      /tracks\[1\]\.shaping\.brightness.*-100 to 100/,
    );
    expect(at((p) => (p.tracks[1]!.shaping!.sparkle = 1))).toMatch(/unknown fields: sparkle/);
    expect(at((p) => (p.tracks[1]!.mix!.reverb = "loud"))).toMatch(/mix\.reverb/);
    expect(at((p) => (p.tracks[1]!.mix!.duckPad = 4.5))).toMatch(/duckPad/);
    expect(at((p) => (p.room.echoValue = "1/7"))).toMatch(/note value/);
    expect(at((p) => (p.room.pingPong = 1))).toMatch(/pingPong/);
    expect(at((p) => (p.tracks[0]!.shaping = { drive: 3 }))).toMatch(/melodic tracks only/);
    expect(at((p) => ((p.tracks[0]!.kit!.pads as { variant: number }[])[0]!.variant = -1))).toMatch(
      /variant/,
    );
    // A sound that is not known is kept, and plays as the first of its kind.
    expect(at((p) => ((p.tracks[1] as Record<string, unknown>).sound = "kazoo"))).toBe("");
  });

  it("lets go of a duck whose kit is gone, in an edit, a merge and an old file", () => {
    const project = full();
    const gone = edits.deleteTrack(project, "drums");
    expect(gone.tracks[0]!.mix).toEqual({ reverb: -6, low: 3 });
    const merged = mergeProjects(start, edits.changeMix(start, "bass", { duckBy: "drums" }), {
      ...edits.deleteTrack(start, "drums"),
    });
    expect(track(merged).mix).toBeUndefined();
    expect(
      upgrade({ ...gone, tracks: [{ ...gone.tracks[0]!, mix: { duckBy: "x" } }] }).tracks,
    ).toEqual([expect.not.objectContaining({ mix: expect.anything() })]);
  });

  it("is merged value by value: two tabs that turn different knobs lose neither", () => {
    const mine = edits.changeRoom(
      edits.changeMix(edits.shapeSound(start, "bass", { drive: 40 }), "bass", { reverb: -3 }),
      { decay: 900 },
    );
    const theirs = edits.changeRoom(
      edits.changeMix(edits.shapeSound(start, "bass", { width: 20 }), "bass", { echo: -5 }),
      { feedback: 70 },
    );
    const both = mergeProjects(start, mine, theirs);
    expect(track(both).shaping).toEqual({ drive: 40, width: 20 });
    expect(track(both).mix).toEqual({ reverb: -3, echo: -5 });
    expect(both.room).toEqual({ decay: 900, feedback: 70 });
    // Undo of mine takes back mine alone, and leaves nothing empty.
    expect(mergeProjects(mine, start, both)).toEqual(theirs);
    expect(mergeProjects(theirs, start, mergeProjects(mine, start, both))).toEqual(start);
  });
});

describe("values under a name", () => {
  it("are those of a transform, a sound's shape or a whole kit, each by its own rules", () => {
    const kit = { sound: "harbour", kit: { level: 0, pitch: 0, time: 1, pads: [] } };
    expect(presetProblems("roll", { count: 4 })).toEqual([]);
    expect(presetProblems("sound:keel-bass", { drive: 20 })).toEqual([]);
    expect(presetProblems("kit", kit)).toEqual([]);
    expect(presetProblems("sound:keel-bass", { drive: 200 })![0]!.path).toContain("drive");
    expect(presetProblems("sound:keel-bass", { sparkle: 1 })).not.toEqual([]);
    expect(presetProblems("kit", { ...kit, kit: { level: 0 } })).not.toEqual([]);
    expect(presetProblems("kit", { sound: "harbour" })).not.toEqual([]);
    for (const of of ["sound:", "sound:__proto__!", "kits", "constructor", ""])
      expect(presetProblems(of, {}), of).toBeNull();
  });
});

describe("a kit under a name", () => {
  it("is given whole, and only to drum tracks", () => {
    const kit = { level: -3, pitch: 2, time: 1, pads: [] };
    const project = edits.setKit(full(), "drums", "pebble", kit);
    expect(track(project, "drums")).toMatchObject({ sound: "pebble", kit });
    expect(edits.setKit(start, "bass", "pebble", kit)).toEqual(start);
  });
});

it("plain values of sounds name every control", () => {
  expect(Object.keys(PLAIN_SOUND)).toEqual(Object.keys(SOUND_CONTROLS));
});
