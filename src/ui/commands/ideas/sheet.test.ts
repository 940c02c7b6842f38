import { describe, expect, it, vi } from "vitest";
import * as edits from "@/core/edits";
import { grid } from "@/core/time";
import { createProject, makeTrack, patternOf } from "@/core/score";
import { type Idea, generateDrumIdeas, generateIdeas, generateProgressions } from "@/core/generate";
import { diffProjects, parseProject } from "@/core/stored";
import { effectiveProject } from "../../state/current";
import { createSession } from "../../state/store";
import { applyChords, chordTrack, generateChords, rateOf } from "./chord-ideas";
import { settingsFor } from "./settings";
import { breed, drop, forgetTaste, isStarred, star, starredSigns } from "./sheet";
import { keeper } from "./kept";
import { applyIdea, changeSettings, generate, holdIdea, ideasHere, previewIdea } from "./ideas";

const answers: { made: Idea[] } = { made: [] };
/** Questions that wait for an answer, where they are to. */
const waiting: { (ideas: Idea[]): void }[] = [];
let slow = false;
vi.mock("./generator", () => ({
  generateInWorker: () =>
    slow ? new Promise((done) => waiting.push(done)) : Promise.resolve(answers.made),
}));

const keys = makeTrack({ id: "keys", kind: "melody", name: "Keys", sound: "glass-keys" });
function setUp(bars = 4) {
  const project = edits.addTrack(createProject({ bars }), keys);
  const store = createSession("x", project);
  store.getState().setTrack("keys");
  return store;
}
const lines = (count: number) => generateIdeas({ bars: 4, count, low: 57, high: 81 });
/** A sheet of ideas for the keys. */
async function sheet(store: ReturnType<typeof setUp>, made: Idea[] = lines(4)) {
  answers.made = made;
  await generate(store);
  return ideasHere(store.getState());
}

describe("stars", () => {
  it("are kept with the pattern, head the next sheet, are undone, and go with their track", async () => {
    const store = setUp();
    const [, second] = await sheet(store);
    star(store, second!);
    const { project } = store.getState();
    expect(patternOf(project, "a").stars).toMatchObject([
      { track: "keys", seed: second!.seed, generated: { kind: "line" } },
    ]);
    // In its place while the sheet is there, at the head of the next.
    expect(ideasHere(store.getState())[1]).toBe(second);
    const next = await sheet(store, generateIdeas({ bars: 4, count: 3, seed: 900 }));
    expect(next).toHaveLength(4);
    expect(next[0]!.notes).toEqual(second!.notes);
    expect(isStarred(starredSigns(store.getState()), next[0]!)).toBe(true);
    // What is saved of it is read again, and is only the pattern's head.
    const { stars } = patternOf(parseProject(JSON.parse(JSON.stringify(project))), "a");
    expect(stars).toEqual(patternOf(project, "a").stars);
    expect(Object.keys(diffProjects(createProject({ bars: 4 }), project)!)).toContain("patterns");
    store.getState().undo();
    expect(patternOf(store.getState().project, "a").stars).toBeUndefined();
    store.getState().redo();
    expect(
      patternOf(edits.deleteTrack(store.getState().project, "keys"), "a").stars,
    ).toBeUndefined();
  });

  it("are let go by another press, and by dropping; 64 are the most", async () => {
    const store = setUp();
    const [first, second] = await sheet(store);
    star(store, first!);
    star(store, first!);
    expect(patternOf(store.getState().project, "a").stars).toBeUndefined();
    star(store, second!);
    drop(store, second!);
    expect(patternOf(store.getState().project, "a").stars).toBeUndefined();
    expect(ideasHere(store.getState())).not.toContain(second);
    for (const idea of lines(64)) star(store, idea);
    const full = store.getState().project;
    expect(patternOf(full, "a").stars).toHaveLength(64);
    star(store, generateIdeas({ bars: 4, count: 1, seed: 77_777 })[0]!);
    expect(store.getState().project).toBe(full);
    expect(store.getState().announcement).toMatch(/^64 ideas are starred/);
    parseProject(JSON.parse(JSON.stringify(full)));
  });

  it("two of them are crossed; with fewer that is said", async () => {
    const store = setUp();
    const [first, second] = await sheet(store);
    breed(store);
    expect(store.getState().announcement).toBe("Star two ideas first");
    star(store, first!);
    star(store, second!);
    breed(store);
    const shown = ideasHere(store.getState());
    expect(shown.slice(0, 2).map(({ notes }) => notes)).toEqual([first!.notes, second!.notes]);
    expect(shown.length).toBeGreaterThan(8);
  });
});

describe("ideas for the chord line", () => {
  const chords = () => generateProgressions({ bars: 4, count: 3 });

  it("are heard on the current track, or the first that is no bass, with the line in place of the pattern's", async () => {
    const store = setUp();
    store.getState().setTrack("drums");
    expect(chordTrack(store.getState())).toBe("keys");
    expect(chordTrack({ project: createProject(), track: "drums" })).toBe("bass");
    answers.made = chords();
    await generateChords(store);
    const [idea] = ideasHere(store.getState());
    const before = store.getState().project;
    holdIdea(store, idea!);
    const heard = effectiveProject(store.getState());
    expect(patternOf(heard, "a").chords).toEqual(idea!.chords);
    expect(patternOf(heard, "a").parts[2]!.notes.length).toBeGreaterThan(8);
    expect(store.getState().project).toBe(before);
    previewIdea(store, null);
    applyChords(store, idea!);
    const after = patternOf(store.getState().project, "a");
    expect(after.chords!.map(({ name, start }) => [name, start])).toEqual(
      idea!.chords!.map(({ name, start }) => [name, start]),
    );
    expect(after.parts[2]!.notes).toEqual([]);
  });

  it("come again over a longer pattern, and are written as notes too where that is wished", async () => {
    const store = setUp(8);
    answers.made = chords();
    await generateChords(store);
    const [idea] = ideasHere(store.getState());
    expect(idea!.chords).toHaveLength(8);
    expect(idea!.chords![4]).toMatchObject({ name: idea!.chords![0]!.name, start: 4 * 3840 });
    const { ideas, setIdeas } = store.getState();
    setIdeas({ chords: { ...ideas.chords, asNotes: true } });
    applyChords(store, idea!);
    const part = patternOf(store.getState().project, "a").parts[2]!;
    expect(new Set(part.notes.map((note) => note.start)).size).toBe(8);
    expect(part.length).toBe(8 * 3840);
  });

  it("change twice a bar in a short round unless they are told to", () => {
    const short = setUp(2);
    expect(rateOf(short.getState())).toBe("two a bar");
    expect(rateOf(setUp(4).getState())).toBe("one a bar");
    const { ideas, setIdeas } = short.getState();
    setIdeas({ chords: { ...ideas.chords, rate: "one a bar" } });
    expect(rateOf(short.getState())).toBe("one a bar");
  });

  it("are refused with a sentence where there is no melodic track", async () => {
    const store = createSession("x", edits.deleteTrack(createProject(), "bass"));
    await generateChords(store);
    expect(store.getState().ideas.wrong).toMatch(/add one first/);
  });
});

describe("an answer that comes late", () => {
  it("are learned from apart from lines: starred, dropped, forgotten", async () => {
    const store = setUp();
    const pool = generateProgressions({ bars: 4, count: 24, seed: 5 });
    answers.made = pool.slice(0, 12);
    await generateChords(store);
    const taste = () => store.getState().ideas.taste;
    expect(taste().chords.shown).toHaveLength(12);
    const sixths = (idea: Idea & { chords?: readonly { name: string }[] }) =>
      idea.chords!.filter(({ name }) => name === "Am").length;
    const sorted = [...ideasHere(store.getState())].sort((a, b) => sixths(b) - sixths(a));
    star(store, sorted[0]!);
    drop(store, sorted.at(-1)!);
    expect([taste().chords.liked.length, taste().chords.dropped.length]).toEqual([1, 1]);
    expect(taste().line.liked).toEqual([]);
    expect(ideasHere(store.getState())).not.toContain(sorted.at(-1));
    // So many more are asked for and twelve chosen; the starred stays at the head.
    answers.made = pool;
    await generateChords(store, { seed: 9 });
    expect(ideasHere(store.getState()).length).toBeGreaterThanOrEqual(12);
    expect(store.getState().ideas.list).toHaveLength(12);
    forgetTaste(store, "chords");
    expect(taste().chords.liked).toEqual([]);
    breed(store);
    expect(store.getState().ideas.of!.kind).toBe("chords");
  });

  it("does not take the place of what was asked for since: chords, variations, a crossing", async () => {
    const store = setUp();
    const [first, second] = await sheet(store);
    star(store, first!);
    star(store, second!);
    slow = true;
    const part = generate(store);
    const chords = generateChords(store);
    waiting[1]!(generateProgressions({ bars: 4, count: 2 }));
    await chords;
    waiting[0]!(lines(12));
    await part;
    expect(store.getState().ideas.of!.kind).toBe("chords");
    slow = false;
    await sheet(store);
    slow = true;
    const again = generate(store);
    breed(store);
    expect(store.getState().ideas.generating).toBe(false);
    waiting[2]!(lines(12));
    await again;
    expect(store.getState().ideas.of!.kind).toBe("children");
    slow = false;
  });
});

describe("a beat of which bars are kept", () => {
  it("has them as they are, on the lanes that were asked for", () => {
    const store = setUp(2);
    const lanes = [36, 38].map((pitch) => ({ pitch, grid: grid(16), period: null }));
    const [there, idea] = generateDrumIdeas({ lanes, bars: 2, count: 2, style: "straight" }) as [
      Idea,
      Idea,
    ];
    store.getState().setTrack("drums");
    store
      .getState()
      .edit("Notes", (p) => edits.setNotes(p, { pattern: "a", track: "drums" }, there.notes));
    const { ideas, setIdeas } = store.getState();
    setIdeas({ keep: { ...ideas.keep, bars: [1] } });
    const mixed = keeper(
      store.getState(),
      new Set([36, 38]),
    )(idea).notes.map(({ start, pitch }) => [start, pitch]);
    const of = (notes: Idea["notes"], bar: number) =>
      notes
        .filter(({ start }) => Math.floor(start / 3840) === bar)
        .map(({ start, pitch }) => [start, pitch]);
    expect(mixed).toEqual([...of(idea.notes, 0), ...of(there.notes, 1)]);
  });
});

describe("a part that ends within a bar", () => {
  it("gets ideas that end with it, each once, and that is said", async () => {
    const store = setUp(4);
    const place = { pattern: "a", track: "keys" };
    store.getState().edit("Loop", (p) => edits.setPartLength(p, place, 960 * 5));
    const list = await sheet(store, lines(40));
    expect(list.length).toBeGreaterThan(4);
    for (const { notes } of list)
      for (const { start, length } of notes) expect(start + length).toBeLessThanOrEqual(960 * 5);
    expect(list.some(({ notes }) => notes.at(-1)!.start >= 3840)).toBe(true);
    expect(store.getState().ideas.gave).toContain("The part ends within a bar: ideas end with it");
    const shapes = list.map(({ notes }) => JSON.stringify(notes.map((n) => [n.start, n.pitch])));
    expect(new Set(shapes).size).toBe(list.length);
  });
});

describe("all but the selected", () => {
  const hit = (id: string, start: number, pitch: number) => ({
    ...{ id, start, length: 240, pitch, velocity: 90, pan: 0, tune: 0, slide: false },
  });
  const own = [hit("k0", 0, 36), hit("k1", 960, 36), hit("s1", 960, 38), hit("k2", 2880, 36)];
  const place = { pattern: "a", track: "drums" };
  function kit() {
    const store = setUp(1);
    store.getState().setTrack("drums");
    store.getState().edit("Notes", (p) => edits.setNotes(p, place, own));
    const { ideas, setIdeas } = store.getState();
    setIdeas({ keep: { ...ideas.keep, unselected: true } });
    return store;
  }
  const made = () =>
    generateDrumIdeas({
      lanes: [36, 38].map((pitch) => ({ pitch, grid: grid(16), period: null })),
      bars: 1,
      density: 50,
      count: 24,
    });
  const idsOf = (idea: Idea) => idea.notes.map(({ id }) => id);

  it("of a beat come anew from the first to the last of them in their lane; all others are the very same", async () => {
    const store = kit();
    store.getState().select(["k1", "k2"]);
    const list = await sheet(store, made());
    expect(list.length).toBeGreaterThan(5);
    expect(new Set(list.map((idea) => JSON.stringify(idea.notes.map((n) => n.start)))).size).toBe(
      list.length,
    );
    for (const idea of list) {
      expect(idsOf(idea)).toContain("k0");
      for (const { id, start, pitch } of idea.notes.filter((note) => note.id !== "k0")) {
        expect(id).toMatch(/^g/);
        expect(pitch).toBe(36);
        expect(start).toBeGreaterThanOrEqual(960);
        expect(start).toBeLessThan(3360);
      }
    }
    previewIdea(store, list[1]!);
    expect(store.getState().preview!.notes.filter((n) => n.pitch === 38)).toEqual([own[2]]);
    // The preview lets go of the selection; what is asked again is the same.
    const again = await sheet(store, made());
    for (const idea of again) expect(idsOf(idea)).toContain("k0");
    previewIdea(store, again[0]!);
    applyIdea(store);
    const after = () => patternOf(store.getState().project, "a").parts[0]!.notes;
    expect(after().map(({ id }) => id)).toEqual(expect.arrayContaining(["k0", "s1"]));
    // Then those that came are asked anew.
    const fresh = after().filter(({ id }) => !["k0", "s1"].includes(id));
    const third = await sheet(store, made());
    for (const idea of third) for (const { id } of fresh) expect(idsOf(idea)).not.toContain(id);
    for (const idea of third) expect(idsOf(idea)).toContain("k0");
  });

  it("is what a star keeps: on a sheet for all lanes it changes its own alone", async () => {
    const store = kit();
    store.getState().select(["k1", "k2"]);
    const [first] = await sheet(store, made());
    star(store, first!);
    const { ideas, setIdeas } = store.getState();
    setIdeas({ keep: { ...ideas.keep, unselected: false } });
    changeSettings(store, { allLanes: true });
    const [starred, second] = await sheet(store, made());
    expect(starred!.notes).toEqual(first!.notes);
    previewIdea(store, starred!);
    const snares = () => store.getState().preview!.notes.filter(({ pitch }) => pitch === 38);
    expect(snares()).toEqual([own[2]]);
    // One of this sheet is for all lanes.
    previewIdea(store, second!);
    expect(snares()).not.toContainEqual(own[2]);
  });

  it("is refused where none is selected, and nothing is asked", async () => {
    const store = kit();
    const list = await sheet(store, made());
    expect(list).toEqual([]);
    expect(store.getState().ideas.wrong).toMatch(/^No note is selected to be asked anew/);
  });
});

describe("settings", () => {
  it("of a part made before there were roles are those of a melody, of a new bass those of a bass line", () => {
    const bass = createProject().tracks[1]!;
    expect(settingsFor(bass, undefined).role).toBe("bass");
    const old = settingsFor(bass, { kind: "line", seed: 5, settings: { density: 40 } });
    expect(old).toMatchObject({ role: "melody", density: 40, how: "", pickup: false, seed: 5 });
  });
});
