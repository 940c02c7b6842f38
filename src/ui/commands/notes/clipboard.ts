import * as edits from "@/core/edits";
import { plural, nth } from "@/core/base";
import { barTicks, beatTicks, gridTicks, lineAt, nearestLine, steppedGrid } from "@/core/time";
import {
  type PartAddress,
  type Project,
  changePart,
  patternOf,
  tickInPattern,
  trackOf,
} from "@/core/score";
import { type Clip, type Paste, makeClip, pasteClip } from "@/core/edits";
import { nanoid } from "nanoid";
import { currentMetre, currentPart, currentStretch, currentTicks } from "../../state/current";
import type { SoundDesk } from "../../session/desk";
import type { Session, SessionStore } from "../../state/store";
import { type PartNotes, deleteAll, notesByPart, countText, selectionOf } from "./by-part";
import { type TrackClip, keepClips, keptClips } from "./kept-clip";
import { withGrowthMessage } from "./past-loop";
import { currentRow } from "./current-row";
import { selectedNotes } from "./selected";
import { notesPastLoop } from "@/core/playback";

// One clipboard for the page; the browser keeps it for other tabs and the next page, where it has room.
let held: readonly TrackClip[] | null = null;

/** What was copied last, here or in another tab. */
const copied = (): readonly TrackClip[] | null => keptClips() ?? held;

/** Where notes begin and how far they reach, in whole steps of the grid of the first. */
function extent(all: readonly PartNotes[]): [from: number, span: number] {
  const firsts = all.map((of) => ({ of, first: nth(of.notes, 0) }));
  const { of, first } = firsts.reduce((a, b) => (b.first.start < a.first.start ? b : a));
  const grid = of.gridOf(first);
  const from = lineAt(grid, nearestLine(grid, first.start));
  const cell = grid.kind === "off" ? 1 : gridTicks(grid);
  const ends = all.flatMap(({ notes }) =>
    notes.map((note) => note.start + Math.max(note.length, 1)),
  );
  const end = ends.reduce((a, b) => Math.max(a, b));
  return [from, Math.max(cell, Math.ceil((end - from) / cell) * cell)];
}

/** What is copied of each track; a selected stretch is of the current one. */
function clipsOf(state: Session): TrackClip[] {
  const { track } = state;
  const stretch = currentStretch(state);
  if (stretch && track) {
    const notes = selectedNotes(state);
    const clip = makeClip(stretch.kind, notes, stretch.from, stretch.to - stretch.from);
    return [{ track, kind: trackOf(state.project, track).kind, clip }];
  }
  const all = notesByPart(state);
  if (all.length === 0) return [];
  const [from, span] = extent(all);
  return all.map(({ at, drums, notes }) => ({
    track: at.track,
    kind: drums ? "drums" : "melody",
    clip: makeClip("notes", notes, from, span),
  }));
}

const notesIn = (clips: readonly TrackClip[]): string => {
  const notes = plural(
    clips.reduce((sum, { clip }) => sum + clip.notes.length, 0),
    "note",
  );
  return clips.length > 1 ? `${notes} of ${plural(clips.length, "track")}` : notes;
};

/** Copies the selection, or the note at the caret; false where there is none. */
export function copy(store: SessionStore): boolean {
  const state = store.getState();
  const clips = clipsOf(state);
  const any = clips.length > 0;
  if (any) {
    held = clips;
    keepClips(clips);
  }
  state.announce(any ? `${notesIn(clips)} copied` : "Nothing selected to copy");
  return any;
}

/** Copies the selection and deletes it. */
export function cut(store: SessionStore): void {
  if (!copy(store)) return;
  const state = store.getState();
  const all = notesByPart(state);
  state.edit("Cut", (project) => deleteAll(project, all), {
    selection: [],
    message: `${countText(all)} cut`,
  });
}

/** Pastes at the caret, or at a tick of the pattern such as the playhead's. */
export function paste(store: SessionStore, tick?: number): void {
  const state = store.getState();
  const row = currentRow(state);
  const clips = copied();
  const [first] = clips ?? [];
  if (!clips || !first || !row) {
    state.announce("Nothing copied yet");
    return;
  }
  const { clip } = first;
  const at =
    tick === undefined ? anchor(state, clip) : lineAt(row.grid, nearestLine(row.grid, tick));
  // What is shown past the loop's end is its repeat: pasting there changes the loop itself.
  const { length } = currentPart(state);
  const single = clips.length === 1 && (clip.kind === "notes" || clip.kind === "lane");
  const period = single ? row.period : length;
  const found = placed(state, clips);
  put(store, found, at % period, { label: "Paste", without: clips.length - found.length });
}

/**
 * Where clips go: one to the current track; several to the tracks they are of, where this project has them, else to
 * its kits and lines in their order. What has no track is left out.
 */
function placed(state: Session, clips: readonly TrackClip[]): TrackClip[] {
  const { tracks } = state.project;
  const [only] = clips;
  if (only && clips.length === 1) return [{ ...only, track: state.track }];
  const own = clips.every(({ track, kind }) =>
    tracks.some((one) => one.id === track && one.kind === kind),
  );
  if (own) return [...clips];
  const left = [...tracks];
  return clips.flatMap((one) => {
    const at = left.findIndex(({ kind }) => kind === one.kind);
    if (at < 0) return [];
    const [to] = left.splice(at, 1);
    return to ? [{ ...one, track: to.id }] : [];
  });
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

function put(
  store: SessionStore,
  clips: readonly TrackClip[],
  at: number,
  { label, without = 0 }: { label: "Paste" | "Duplicate"; without?: number },
): void {
  const state = store.getState();
  const [first] = clips;
  if (!first) {
    state.announce("Nothing pasted: this project has no track for it");
    return;
  }
  const { kind, span } = first.clip;
  const lost = without > 0 ? `; nothing for ${plural(without, "track")} of it here` : "";
  // A lane, or hits of one lane, go to the current lane; what spans lanes or tracks keeps them.
  const toLane = label === "Paste" && clips.length === 1 && (kind === "lane" || kind === "notes");
  let made: { at: PartAddress; ids: string[] }[] = [];
  let growth = "";
  state.edit(
    label,
    (project) => {
      [made, growth] = [[], ""];
      return clips.reduce((after, { track, clip }) => {
        const place = { pattern: state.pattern, track };
        const drums = trackOf(after, track).kind === "drums";
        const pitch = drums && toLane ? state.caret.pitch : null;
        const done = putInto(after, place, clip, { at, pitch, idOf: () => nanoid(8) });
        made.push({ at: place, ids: done.ids });
        growth ||= done.growth;
        return done.project;
      }, project);
    },
    (after) => ({
      ...selectionOf(state, made),
      stretch: kind === "notes" ? null : { kind, from: at, to: at + span },
      caret: { tick: Math.min(lastStep(after, state), at + span) },
      message: withGrowthMessage(
        `${notesIn(clips)} ${label === "Paste" ? "pasted" : "duplicated"}${lost}`,
        growth,
      ),
    }),
  );
}

/** A clip in a part, whose loop grows where it reaches past its end; the ids of its notes, and what grew in words. */
function putInto(
  project: Project,
  place: PartAddress,
  clip: Clip,
  paste: Paste,
): { project: Project; ids: string[]; growth: string } {
  let ids: string[] = [];
  const put = changePart(project, place, (part) => {
    const pasted = pasteClip(part, clip, paste);
    ids = pasted.ids;
    return pasted.part;
  });
  // What is put past the end of a loop would not be heard: the loop grows to hold it.
  const fresh = new Set(ids);
  if (!notesPastLoop(put, place).some((note) => fresh.has(note.id)))
    return { project: put, ids, growth: "" };
  const roomy = edits.growLoops(put, place, () => nanoid(8));
  return { project: roomy.project, ids, growth: roomy.message };
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
  const clips = clipsOf(state);
  if (clips.length === 0) {
    state.announce("Nothing selected to duplicate");
    return;
  }
  const stretch = currentStretch(state);
  if (stretch) {
    put(store, clips, stretch.to, { label: "Duplicate" });
    return;
  }
  // By whole beats of its bar, so that a figure falls on the same beats again.
  const [from, span] = extent(notesByPart(state));
  const metre = currentMetre(state);
  const [bar, beat] = [barTicks(metre), beatTicks(metre)];
  const base = Math.floor(from / bar) * bar;
  const first = base + Math.floor((from - base) / beat) * beat;
  const beats = Math.max(1, Math.ceil((from + span - first) / beat));
  put(store, clips, from + beats * beat, { label: "Duplicate" });
}
