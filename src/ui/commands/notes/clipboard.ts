import * as edits from "@/core/edits";
import { plural, nth } from "@/core/base";
import { barTicks, beatTicks, gridTicks, lineAt, nearestLine, steppedGrid } from "@/core/time";
import {
  type Note,
  type Project,
  changePart,
  patternOf,
  tickInPattern,
  trackOf,
} from "@/core/score";
import { type Clip, makeClip, pasteClip } from "@/core/edits";
import { nanoid } from "nanoid";
import {
  currentMetre,
  currentPart,
  currentPlace,
  currentStretch,
  currentTicks,
} from "../../state/current";
import type { SoundDesk } from "../../session/desk";
import type { Session, SessionStore } from "../../state/store";
import { keepClip, keptClip } from "./kept-clip";
import { withGrowthMessage } from "./past-loop";
import { currentRow } from "./caret";
import { gridOfNote } from "./notes";
import { selectedIds, selectedNotes } from "./selected";
import { notesPastLoop } from "@/core/playback";

// One clipboard for the page; the browser keeps it for other tabs and the next page, where it has room.
let held: Clip | null = null;

/** What was copied last, here or in another tab. */
const copied = (): Clip | null => keptClip() ?? held;

/** Where notes begin and how far they reach, in whole steps of their own grids. */
function extent(state: Session, notes: readonly Note[]): [from: number, span: number] {
  const first = nth(notes, 0);
  const grid = gridOfNote(state, first);
  const from = lineAt(grid, nearestLine(grid, first.start));
  const cell = grid.kind === "off" ? 1 : gridTicks(grid);
  const end = Math.max(...notes.map((note) => note.start + Math.max(note.length, 1)));
  return [from, Math.max(cell, Math.ceil((end - from) / cell) * cell)];
}

function clipOf(state: Session): Clip | null {
  const notes = selectedNotes(state);
  const stretch = currentStretch(state);
  if (stretch) return makeClip(stretch.kind, notes, stretch.from, stretch.to - stretch.from);
  return notes.length === 0 ? null : makeClip("notes", notes, ...extent(state, notes));
}

/** Copies the selection, or the note at the caret; false where there is none. */
export function copy(store: SessionStore): boolean {
  const state = store.getState();
  const clip = clipOf(state);
  if (clip) {
    held = clip;
    keepClip(clip);
  }
  state.announce(clip ? `${plural(clip.notes.length, "note")} copied` : "Nothing selected to copy");
  return clip !== null;
}

/** Copies the selection and deletes it. */
export function cut(store: SessionStore): void {
  if (!copy(store)) return;
  const state = store.getState();
  const ids = selectedIds(state);
  state.edit("Cut", (project) => edits.deleteNotes(project, currentPlace(state), ids), {
    selection: [],
    message: `${plural(ids.size, "note")} cut`,
  });
}

/** Pastes at the caret, or at a tick of the pattern such as the playhead's. */
export function paste(store: SessionStore, tick?: number): void {
  const state = store.getState();
  const row = currentRow(state);
  const clip = copied();
  if (!clip || !row) {
    state.announce("Nothing copied yet");
    return;
  }
  const at =
    tick === undefined ? anchor(state, clip) : lineAt(row.grid, nearestLine(row.grid, tick));
  // What is shown past the loop's end is its repeat: pasting there changes the loop itself.
  const { length } = currentPart(state);
  const period = clip.kind === "notes" || clip.kind === "lane" ? row.period : length;
  put(store, clip, at % period, "Paste");
}

/** Pastes where the loop stands; at the caret where it does not play this pattern. */
export function pasteAtPlayhead({ store, engine }: SoundDesk): void {
  const at = engine.position();
  const state = store.getState();
  const pattern = patternOf(state.project, state.pattern);
  if (at?.pattern === state.pattern) paste(store, tickInPattern(state.project, pattern, at.tick));
  else paste(store);
}

/** Where a clip goes when pasted at the caret: bars to its bar, lanes to the beginning. */
function anchor(state: Session, clip: Clip): number {
  const row = currentRow(state)!;
  if (clip.kind === "lane") return 0;
  if (clip.kind === "bar") return Math.floor(state.caret.tick / clip.span) * clip.span;
  return lineAt(row.grid, nearestLine(row.grid, state.caret.tick));
}

function put(store: SessionStore, clip: Clip, at: number, label: "Paste" | "Duplicate"): void {
  const state = store.getState();
  const drums = trackOf(state.project, state.track).kind === "drums";
  // A lane, or hits of one lane, go to the current lane; what spans lanes keeps them.
  const single = clip.kind === "lane" || clip.kind === "notes";
  const pitch = drums && single && label === "Paste" ? state.caret.pitch : null;
  const place = currentPlace(state);
  let ids: string[] = [];
  let growth = "";
  state.edit(
    label,
    (project) => {
      const put = changePart(project, place, (part) => {
        const pasted = pasteClip(part, clip, { at, pitch, idOf: () => nanoid(8) });
        ids = pasted.ids;
        return pasted.part;
      });
      // What is put past the end of a loop would not be heard: the loop grows to hold it.
      const fresh = new Set(ids);
      if (!notesPastLoop(put, place).some((note) => fresh.has(note.id))) return put;
      const roomy = edits.growLoops(put, place, () => nanoid(8));
      growth = roomy.message;
      return roomy.project;
    },
    (after) => ({
      selection: ids,
      stretch: clip.kind === "notes" ? null : { kind: clip.kind, from: at, to: at + clip.span },
      caret: { tick: Math.min(lastStep(after, state), at + clip.span) },
      message: withGrowthMessage(
        `${plural(ids.length, "note")} ${label === "Paste" ? "pasted" : "duplicated"}`,
        growth,
      ),
    }),
  );
}

/** The last line of the current row's grid inside the pattern. */
function lastStep(project: Project, state: Session): number {
  const total = currentTicks({ project, pattern: state.pattern });
  const row = currentRow(state);
  if (!row) return total - 1;
  const grid = steppedGrid(row.grid);
  const gridLine = nearestLine(grid, total);
  return lineAt(grid, lineAt(grid, gridLine) < total ? gridLine : gridLine - 1);
}

/** Puts the selection again right after itself. */
export function duplicate(store: SessionStore): void {
  const state = store.getState();
  const clip = clipOf(state);
  if (!clip) {
    state.announce("Nothing selected to duplicate");
    return;
  }
  const stretch = currentStretch(state);
  if (stretch) {
    put(store, clip, stretch.to, "Duplicate");
    return;
  }
  // By whole beats of its bar, so that a figure falls on the same beats again.
  const notes = selectedNotes(state);
  const [from, span] = extent(state, notes);
  const metre = currentMetre(state);
  const [bar, beat] = [barTicks(metre), beatTicks(metre)];
  const base = Math.floor(from / bar) * bar;
  const first = base + Math.floor((from - base) / beat) * beat;
  const beats = Math.max(1, Math.ceil((from + span - first) / beat));
  put(store, clip, from + beats * beat, "Duplicate");
}
