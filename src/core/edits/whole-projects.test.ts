import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyProject } from "../any-project.test-helper";
import { applyPackedChange, mergeProjects, packedDiff, parseProject } from "../stored";
import { playbackEvents } from "../playback";
import {
  type Project,
  makeNote,
  makeTrack,
  sectionBars,
  partOf,
  patternTicks,
  sectionsOf,
  totalTicks,
} from "../score";
import * as edits from "./index";

let made = 0;
const idOf = () => `new${++made}`;
const ids = { pattern: idOf, section: idOf };

/** All that is heard in so many loops of a pattern, or of the song: as texts, in order. */
function heard(project: Project, pattern?: string, loops = 8): string[] {
  const total = totalTicks(sectionsOf(project, pattern));
  return playbackEvents(project, 0, loops * total, pattern === undefined ? {} : { pattern })
    .map(({ note: _, ...event }) => JSON.stringify(event))
    .sort();
}

const project = anyProject();

describe("a whole project with everything in it", () => {
  it("is a project, and comes back from a file as it was", () => {
    fc.assert(
      fc.property(project, (any) => {
        expect(parseProject(JSON.parse(JSON.stringify(any)))).toEqual(any);
      }),
      { numRuns: 60 },
    );
  });
});

/** Ticks of the song at which a section is cut in two, and where else. */
const cut = fc.record({ section: fc.nat({ max: 3 }), bar: fc.integer({ min: 1, max: 12 }) });

describe("what only rearranges changes nothing that is heard", () => {
  it("a section split, whatever loops, conditions and chances lie in it; split again; and its pieces moved apart", () => {
    fc.assert(
      fc.property(project, cut, cut, (any, first, then) => {
        const split = (project: Project, { section, bar }: typeof first, id: string): Project => {
          const entry = project.song[section % Math.max(1, project.song.length)];
          if (!entry) return project;
          const { bars } = project.patterns.find((pattern) => pattern.id === entry.pattern)!;
          const most = sectionBars(entry, { bars });
          return most < 2
            ? project
            : edits.splitSection(project, entry.id, (bar % (most - 1)) + 1, id);
        };
        const once = split(any, first, "x");
        const twice = split(once, then, "y");
        parseProject(JSON.parse(JSON.stringify(twice)));
        expect(heard(once, undefined, 2)).toEqual(heard(any, undefined, 2));
        expect(heard(twice, undefined, 2)).toEqual(heard(any, undefined, 2));
        // A piece that follows another section than before counts its own loops.
        const apart = edits.moveSections(once, new Set(["x"]), 0);
        expect(apart.song.find(({ id }) => id === "x")?.continues ?? once.song[0]?.id === "x").toBe(
          once.song[0]?.id === "x",
        );
      }),
      { numRuns: 150 },
    );
  });

  it("a pattern cut into pieces, whatever loops, conditions and cards it has", () => {
    // A chance is drawn anew in a piece, and a glide leads into what follows in it.
    const rest = { chance: false, slides: false };
    // Where sections begin or end inside a pattern, what leads into a loop there is another loop's in a piece, and so
    // are lanes written out in other patterns.
    const plain = fc.oneof(
      anyProject({ ...rest, laneLoops: false, early: false }),
      anyProject({ ...rest, pieces: false }),
    );
    fc.assert(
      fc.property(plain, fc.integer({ min: 1, max: 3 }), (any, bars) => {
        const pieces = edits.cutPattern(any, "p0", bars, ids);
        parseProject(JSON.parse(JSON.stringify(pieces)));
        expect(heard(pieces, undefined, 1)).toEqual(heard(any, undefined, 1));
        for (const { id } of any.patterns.slice(1))
          expect(heard(pieces, id)).toEqual(heard(any, id));
      }),
      { numRuns: 200 },
    );
  });

  it("a loop doubled, lanes given up their own loops, a chain written", () => {
    const straight = anyProject({ chance: false, chains: false, pieces: false, slides: false });
    const track = fc.constantFrom("drums", "bass", "lead");
    fc.assert(
      fc.property(straight, track, (any, id) => {
        const place = { pattern: "p0", track: id };
        const doubled = edits.doubleLoop(any, place, idOf);
        // Where the pattern grew, or holds no whole number of longer loops, these are other loops.
        const [was, is] = [any, doubled].map((one) => patternTicks(one, one.patterns[0]!));
        if (was === is && is! % partOf(doubled, place).length === 0)
          expect(heard(doubled, "p0")).toEqual(heard(any, "p0"));
        const out = edits.withoutOwnLoops(any, "drums", new Set([36, 38, 42]), idOf);
        for (const pattern of any.patterns)
          expect(heard(out, pattern.id)).toEqual(heard(any, pattern.id));
        expect(heard(out, undefined, 1)).toEqual(heard(any, undefined, 1));
      }),
      { numRuns: 100 },
    );
    fc.assert(
      fc.property(project, track, (any, id) => {
        // Tracks that take their timing from each other have no other beginning: of these, the other one may move.
        const own = (of: Project) => heard(of, "p0").filter((text) => text.includes(`"${id}"`));
        const written = edits.writeChain(any, { pattern: "p0", track: id }, idOf);
        if (
          partOf(written, { pattern: "p0", track: id }).length !== 0 &&
          written.patterns[0]!.bars === any.patterns[0]!.bars
        )
          expect(own(written)).toEqual(own(any));
      }),
      { numRuns: 150 },
    );
  });

  it("a part copied onto another track: there it is heard as it was, lanes' own loops, cards and all", () => {
    const plain = anyProject({ chance: false, slides: false });
    const track = fc.constantFrom("drums", "bass", "lead");
    fc.assert(
      fc.property(plain, track, track, (any, from, to) => {
        if (from === to) return;
        const free = any.tracks.map((track) => ({
          ...track,
          mute: false,
          lanes: track.lanes.map((lane) => ({ ...lane, mute: false })),
        }));
        const open = { ...any, tracks: free };
        const copied = edits.copyPart(open, { pattern: "p0", track: from }, to, idOf);
        const of = (project: Project, id: string) =>
          heard(
            { ...project, tracks: project.tracks.map((t) => ({ ...t, mute: t.id !== id })) },
            "p0",
          ).map((text) => text.replace(/"track":"\w+"/, ""));
        // A timing taken from the track that is copied onto is another one then.
        const leans = partOf(open, { pattern: "p0", track: from }).chain.some((step) =>
          JSON.stringify(step.params).includes(`"${to}"`),
        );
        if (leans) return;
        expect(of(copied, to)).toEqual(of(open, from));
        expect(of(copied, from)).toEqual(of(open, from));
      }),
      { numRuns: 150 },
    );
  });

  it("tracks and patterns moved, renamed, coloured; a pattern copied beside the song", () => {
    fc.assert(
      fc.property(project, fc.integer({ min: 0, max: 2 }), (any, to) => {
        const first = any.patterns[0]!.id;
        const song = any.song.length > 0;
        for (const changed of [
          edits.moveTrack(any, "lead", to),
          song ? edits.movePattern(any, first, to + 1) : any,
          edits.renamePattern(any, first, "Gull"),
          edits.setColour(any, first, "teal"),
          song ? edits.addPattern(any, "new", first, "copy") : any,
        ]) {
          expect(heard(changed)).toEqual(heard(any));
          for (const { id } of any.patterns)
            expect(heard(changed, id, 2)).toEqual(heard(any, id, 2));
        }
      }),
      { numRuns: 60 },
    );
  });
});

/** Edits of one thing each, by what they touch: those of different kinds do not meet. */
const EDITS: Record<string, (project: Project) => Project> = {
  "a name": (project) => edits.renameProject(project, "Gull Parade"),
  "a tempo": (project) => edits.setTempo(project, 101),
  "a track moved": (project) => edits.moveTrack(project, "lead", 0),
  "a track's level": (project) => edits.changeTrack(project, "bass", { level: -7 }),
  "a lane": (project) => edits.changeLane(project, "drums", "lane-42", { steps: 6 }),
  "a note": (project) =>
    edits.addNotes(project, { pattern: "p0", track: "bass" }, [
      makeNote({ id: "fresh", start: 700, pitch: 50 }),
    ]),
  "notes of a kit": (project) => edits.setNotes(project, { pattern: "p0", track: "drums" }, []),
  "a pattern's colour": (project) => edits.setColour(project, "p0", "plum"),
  "a pattern added": (project) => edits.addPattern(project, "added", "p0", "empty"),
  "a card": (project) =>
    edits.addStep(
      project,
      { pattern: "p0", track: "lead" },
      { id: "card", transform: "reverse", on: true, params: {}, scope: null },
    ),
  "a bend": (project) => edits.deleteBend(project, { pattern: "p0", track: "bass" }),
  "a metre": (project) => edits.setPatternMetre(project, "p0", { beats: 5, unit: 4 }, "times"),
  "the room": (project) => ({ ...project, room: { size: 12 } }),
  "the seed": (project) => ({ ...project, seed: 77 }),
  "a section": (project) =>
    edits.insertSections(project, 0, [{ id: "more", pattern: "p0", times: 2 }]),
  "a track added": (project) =>
    edits.addTrack(
      project,
      makeTrack({ id: "t9", kind: "melody", name: "Pad", sound: "reed-bass" }),
    ),
};
const edit = fc.constantFrom(...Object.keys(EDITS));
const done = (project: Project, name: string) => EDITS[name]!(project);

describe("edits of whole projects", () => {
  it("are undone to the very project, at once and after others in another tab", () => {
    fc.assert(
      fc.property(project, fc.array(edit, { maxLength: 6 }), edit, (any, names, other) => {
        const states = names.reduce((all, name) => [...all, done(all.at(-1)!, name)], [any]);
        // One after another, as the history does it.
        let now = states.at(-1)!;
        for (let i = states.length - 1; i > 0; i--)
          now = mergeProjects(states[i]!, states[i - 1]!, now);
        expect(now).toEqual(any);
        // What is made anew takes its metre from what is there.
        const takesMetre = other === "a pattern added" || other === "a track added";
        if (names.includes(other) || (takesMetre && names.includes("a metre"))) return;
        // Meanwhile another tab did something: that alone stays.
        let both = done(states.at(-1)!, other);
        for (let i = states.length - 1; i > 0; i--)
          both = mergeProjects(states[i]!, states[i - 1]!, both);
        expect(both).toEqual(done(any, other));
      }),
      { numRuns: 200 },
    );
  });

  it("of two tabs are together what both in a row are, in either order", () => {
    fc.assert(
      fc.property(project, edit, edit, (any, mine, theirs) => {
        if (mine === theirs) return;
        const merged = mergeProjects(any, done(any, mine), done(any, theirs));
        parseProject(JSON.parse(JSON.stringify(merged)));
        expect([done(done(any, mine), theirs), done(done(any, theirs), mine)]).toContainEqual(
          merged,
        );
      }),
      { numRuns: 300 },
    );
  });

  it("are saved as they are: a change laid over the state before gives the state after", () => {
    fc.assert(
      fc.property(project, edit, (any, name) => {
        const after = done(any, name);
        const change = packedDiff(any, after);
        const sent = JSON.parse(JSON.stringify(change)) as typeof change;
        expect(sent ? applyPackedChange(any, sent) : any).toEqual(after);
      }),
      { numRuns: 200 },
    );
  });
});
