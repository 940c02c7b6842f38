import * as edits from "@/core/edits";
import { seeded } from "@/core/base";
import { type Project, createProject, makeNote, makeTrack, partOf } from "@/core/score";
import { describe, expect, it } from "vitest";
import { EMPTY_HISTORY, notesOf, record, step, type History } from "./history";

const BASS = { pattern: "a", track: "bass" };
const note = (start: number) => makeNote({ id: `n${start}`, start });
const ids = (project: Project) => partOf(project, BASS).notes.map((n) => n.id);

describe("history", () => {
  const base = createProject();
  const one = edits.addNotes(base, BASS, [note(0)]);
  const two = edits.addNotes(one, BASS, [note(240)]);

  it("makes one step of the edits of one gesture", () => {
    let history = record(EMPTY_HISTORY, { label: "Paint", before: base, after: one, group: "g" });
    history = record(history, { label: "Paint", before: one, after: two, group: "g" });
    expect(history.past).toHaveLength(1);
    expect(step(history, two, "back")!.project).toBe(base);
    history = record(history, { label: "Paint", before: two, after: base, group: "h" });
    expect(history.past).toHaveLength(2);
  });

  it("turns back only what the edit did, not what came in since", () => {
    const history = record(EMPTY_HISTORY, { label: "Put", before: base, after: one, group: null });
    const later = edits.addNotes(one, BASS, [note(999)]);
    const undone = step(history, later, "back")!;
    expect(ids(undone.project)).toEqual(["n999"]);
    expect(ids(step(undone.history, undone.project, "forward")!.project)).toEqual(["n0", "n999"]);
  });

  it("has nothing to do at its ends", () => {
    expect(step(EMPTY_HISTORY, base, "back")).toBeNull();
    expect(step(EMPTY_HISTORY, base, "forward")).toBeNull();
  });

  const drums = { pattern: "a", track: "drums" };
  const lead = makeTrack({ id: "lead", kind: "melody", name: "Lead", sound: "wire-lead" });
  /** Edits of every kind of row, in a random order. */
  function randomEdit(project: Project, n: number, random: () => number): Project {
    const kind = Math.floor(random() * 8);
    const { notes } = partOf(project, BASS);
    const start = Math.floor(random() * 7680);
    if (kind < 3) return edits.addNotes(project, BASS, [makeNote({ id: `b${n}`, start })]);
    if (kind === 3) return edits.addNotes(project, drums, [makeNote({ id: `d${n}`, start })]);
    if (kind === 4 && notes.length > 0) {
      const gone = notes[Math.floor(random() * notes.length)]!.id;
      return edits.setNotes(
        project,
        BASS,
        notes.filter(({ id }) => id !== gone),
      );
    }
    if (kind === 5)
      return edits.setNotes(
        project,
        BASS,
        notes.map((one) => ({ ...one, velocity: 1 + (n % 127) })),
      );
    if (kind === 6) return edits.setTempo(project, 60 + (n % 100));
    return project.tracks.some(({ id }) => id === "lead")
      ? edits.deleteTrack(project, "lead")
      : edits.addTrack(project, lead);
  }

  it("goes back to the first state and on to the last, however old the edits are", () => {
    for (let seed = 1; seed <= 20; seed++) {
      const random = seeded(seed);
      let [history, project]: [History, Project] = [EMPTY_HISTORY, base];
      const states = [base];
      for (let n = 0; n < 60; n++) {
        const after = randomEdit(project, n, random);
        if (after === project) continue;
        history = record(history, { label: `${n}`, before: project, after, group: null });
        states.push((project = after));
      }
      const go = (direction: "back" | "forward") => {
        const next = step(history, project, direction)!;
        ({ history, project } = next);
      };
      for (let i = states.length - 2; i >= 0; i--) {
        go("back");
        expect(project).toEqual(states[i]);
      }
      for (let i = 1; i < states.length; i++) {
        go("forward");
        expect(project).toEqual(states[i]);
      }
    }
  });

  it("leaves what came from elsewhere since, back over old edits", () => {
    let [history, project]: [History, Project] = [EMPTY_HISTORY, base];
    for (let n = 0; n < 30; n++) {
      const after = edits.addNotes(project, BASS, [note(n * 100)]);
      history = record(history, { label: "Put", before: project, after, group: null });
      project = edits.addNotes(after, BASS, [makeNote({ id: `x${n}`, start: n * 100 + 50 })]);
    }
    for (let n = 0; n < 30; n++) ({ history, project } = step(history, project, "back")!);
    expect(ids(project)).toEqual(Array.from({ length: 30 }, (_, n) => `x${n}`));
  });

  it("holds a hit of a large part as one note, and forgets the oldest of too many notes", () => {
    const many = Array.from({ length: 10_000 }, (_, i) => makeNote({ id: `m${i}`, start: i }));
    let project = edits.setNotes(base, BASS, many);
    let history = EMPTY_HISTORY;
    const put = (after: Project) => {
      history = record(history, { label: "Edit", before: project, after, group: null });
      project = after;
    };
    for (let n = 0; n < 100; n++) put(edits.addNotes(project, BASS, [note(20_000 + n)]));
    const packed = history.past.filter((entry) => "text" in entry);
    expect(packed).toHaveLength(92);
    expect(packed.map(notesOf)).toEqual(packed.map(() => 1));
    // Old edits are many: each is held in few bytes.
    expect(
      Math.max(...packed.map((entry) => ("text" in entry ? entry.text.length : 0))),
    ).toBeLessThan(90);
    expect(history.forgotten).toBeUndefined();

    for (let n = 0; n < 60; n++) {
      const { notes } = partOf(project, BASS);
      put(
        edits.setNotes(
          project,
          BASS,
          notes.map((one) => ({ ...one, velocity: n + 1 })),
        ),
      );
    }
    expect(history.forgotten).toBe(true);
    expect(history.past).toHaveLength(30);
  });
});
