import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as edits from "@/core/edits";
import { type Note, createProject, makeNote, partOf } from "@/core/score";
import { ACTIONS } from "../../actions/registry";
import { Player } from "../../session/player";
import { createSession, type SessionStore } from "../../state/store";
import { notesPastLoop } from "@/core/playback";

const PLACES = ["drums", "bass"].map((track) => ({ pattern: "a", track }));

/** Commands that change notes, by the ids of their actions: all that are on a key or in the palette. */
const COMMANDS = ACTIONS.filter(({ group }) => ["Edit", "Transform"].includes(group)).filter(
  // These open something that asks first.
  ({ id }) => !["roll-n", "humanize"].includes(id),
);

function setUp(drums: readonly Note[], bass: readonly Note[], bars: number): SessionStore {
  let project = createProject({ bars });
  project = edits.setNotes(project, PLACES[0]!, drums);
  project = edits.setNotes(project, PLACES[1]!, bass);
  return createSession("x", project);
}

const step = fc.integer({ min: 0, max: 31 });
const notes = (pitches: readonly number[], tag: string) =>
  fc
    .uniqueArray(fc.tuple(step, fc.constantFrom(...pitches)), {
      maxLength: 12,
      selector: ([at, pitch]) => `${at}/${pitch}`,
    })
    .map((list) =>
      list.map(([at, pitch], i) =>
        makeNote({ id: `${tag}${i}`, start: at * 240, pitch, length: 240 }),
      ),
    );

/** What is done: a command, after the caret or the selection was put somewhere. */
const move = fc.record({
  command: fc.constantFrom(...COMMANDS),
  track: fc.constantFrom("drums", "bass"),
  tick: step.map((at) => at * 240),
  select: fc.constantFrom("all", "half", "none"),
});

describe("any sequence of commands", () => {
  it("leaves no two notes at one place, and none past its loop without saying so", () => {
    const engine = { audition: () => Promise.resolve(), isPlaying: false, position: () => null };
    fc.assert(
      fc.property(
        notes([36, 38, 42], "d"),
        notes([36, 43, 48, 49], "b"),
        fc.array(move, { minLength: 1, maxLength: 6 }),
        (drums, bass, moves) => {
          const store = setUp(drums, bass, 2);
          for (const { command, track, tick, select } of moves) {
            const state = store.getState();
            state.setTrack(track);
            const own = partOf(state.project, { pattern: "a", track }).notes;
            if (select !== "none") {
              const ids = own.filter((_, i) => select === "all" || i % 2 === 0).map((n) => n.id);
              state.select(ids, { caret: { tick } });
            } else state.select([], { caret: { tick } });
            const beyond = () =>
              PLACES.reduce(
                (sum, place) => sum + notesPastLoop(store.getState().project, place).length,
                0,
              );
            const before = beyond();
            const player = new Player(store, engine as never);
            command.run({ store, engine: engine as never, player });
            const { announcement, project } = store.getState();
            if (beyond() > before)
              expect(announcement, command.id).toMatch(/past the loop|past the end/);
            for (const place of PLACES) {
              const at = partOf(project, place).notes.map((n) => `${n.start}/${n.pitch}`);
              expect(new Set(at).size, `${command.id}: ${announcement}`).toBe(at.length);
            }
          }
          // And all of it is undone to where it began.
          while (store.getState().history.past.length > 0) store.getState().undo();
          expect(
            PLACES.map((place) => partOf(store.getState().project, place).notes.length),
          ).toEqual([drums.length, bass.length]);
        },
      ),
      { numRuns: 250 },
    );
  });
});
