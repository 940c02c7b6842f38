import type { Desk } from "../session/desk";
import { chosen } from "./selected";
import { gridOfNote } from "./notes";
import { rowInHand } from "./caret";
import { nanoid } from "nanoid";
import {
  edits,
  gridTicks,
  lineAt,
  makeClip,
  nearestLine,
  partOf,
  pasteClip,
  patternOf,
  patternTicks,
  trackOf,
  type Clip,
  type Note,
} from "@/core";
import { place, stretchInHand, type Session, type SessionStore } from "../session/store";

// One clipboard for the page, so that what is copied in one project can be pasted in another.
let held: Clip | null = null;

const notesChosen = (state: Session): Note[] => {
  const ids = chosen(state);
  return partOf(state.project, place(state)).notes.filter((note) => ids.has(note.id));
};

/** Where chosen notes begin and how far they reach, in whole steps of their own grids. */
function extent(state: Session, notes: readonly Note[]): [from: number, span: number] {
  const first = notes[0]!;
  const grid = gridOfNote(state, first);
  const from = lineAt(grid, nearestLine(grid, first.start));
  const cell = grid.kind === "off" ? 1 : gridTicks(grid);
  const end = Math.max(...notes.map((note) => note.start + Math.max(note.length, 1)));
  return [from, Math.max(cell, Math.ceil((end - from) / cell) * cell)];
}

function take(state: Session): Clip | null {
  const notes = notesChosen(state);
  const stretch = stretchInHand(state);
  if (stretch) {
    return makeClip(stretch.kind, notes, stretch.from, stretch.to - stretch.from);
  }
  if (notes.length === 0) return null;
  return makeClip("notes", notes, ...extent(state, notes));
}

/** Copies the selection (or the hit at the caret). */
export function copy(store: SessionStore): void {
  const clip = take(store.getState());
  if (!clip) {
    store.setState({ said: "Nothing is selected to copy" });
    return;
  }
  held = clip;
  store.setState({ said: `${clip.notes.length} copied` });
}

export function cut(store: SessionStore): void {
  copy(store);
  const state = store.getState();
  const ids = chosen(state);
  state.edit("Cut", (p) => edits.removeNotes(p, place(state), ids));
  store.setState({ selection: new Set() });
}

/** Pastes at the caret, or at a tick of the pattern such as the playhead's. */
export function paste(store: SessionStore, tick?: number): void {
  const state = store.getState();
  const row = rowInHand(state);
  if (!held || !row) {
    store.setState({ said: "Nothing is copied yet" });
    return;
  }
  const at =
    tick === undefined ? anchor(state, held) : lineAt(row.grid, nearestLine(row.grid, tick));
  // What is shown past the loop's end is its repeat: pasting there changes the loop itself.
  const { length } = partOf(state.project, place(state));
  const period = held.kind === "notes" || held.kind === "lane" ? row.period : length;
  put(store, held, at % period, "Paste");
}

/** Where a clip goes when pasted at the caret: bars to its bar, lanes to the beginning. */
function anchor(state: Session, clip: Clip): number {
  const row = rowInHand(state)!;
  if (clip.kind === "lane") return 0;
  if (clip.kind === "bar") return Math.floor(state.caret.tick / clip.span) * clip.span;
  return lineAt(row.grid, nearestLine(row.grid, state.caret.tick));
}

function put(store: SessionStore, clip: Clip, at: number, label: string): void {
  const state = store.getState();
  const drums = trackOf(state.project, state.track).kind === "drums";
  const total = patternTicks(state.project, patternOf(state.project, state.pattern));
  if (at >= total) {
    store.setState({ said: "There is no room after this: the pattern ends here" });
    return;
  }
  // A lane, or hits of one lane, go to the lane in hand; what spans lanes keeps them.
  const single = clip.kind === "lane" || clip.kind === "notes";
  const pitch = drums && single && label === "Paste" ? state.caret.pitch : null;
  let ids: string[] = [];
  state.edit(label, (project) =>
    edits.changePart(project, place(state), (part) => {
      const pasted = pasteClip(part, clip, { at, pitch, idOf: () => nanoid(8) });
      ids = pasted.ids;
      // What is put past the end of a shorter loop would not be heard: the loop grows to hold it.
      const length = Math.max(part.length, Math.min(total, at + clip.span));
      return { ...pasted.part, length: at >= part.length ? length : part.length };
    }),
  );
  const of = new Set(ids);
  const stretch =
    clip.kind === "notes" ? null : { kind: clip.kind, from: at, to: at + clip.span, of };
  const caret = { ...state.caret, tick: Math.min(total - 1, at + clip.span) };
  store.setState({ selection: of, stretch, caret, said: `${of.size} pasted` });
}

/** Puts the selection again right after itself. */
export function duplicate(store: SessionStore): void {
  const state = store.getState();
  const clip = take(state);
  const notes = notesChosen(state);
  if (!clip || (notes.length === 0 && !stretchInHand(state))) {
    store.setState({ said: "Nothing is selected to duplicate" });
    return;
  }
  const from = stretchInHand(state)?.from ?? extent(state, notes)[0];
  put(store, clip, from + clip.span, "Duplicate");
}

export function pasteAtPlayhead({ store, engine }: Desk): void {
  const at = engine.position();
  const state = store.getState();
  const pattern = state.project.patterns.find((p) => p.id === state.pattern)!;
  const total = patternTicks(state.project, pattern);
  if (at?.pattern === state.pattern) paste(store, at.tick % total);
  else paste(store);
}
