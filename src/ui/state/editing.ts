import { plural, must } from "@/core/base";
import { type Project, partOf, rootId, trackOf } from "@/core/score";
import { same, withoutDuplicates, limitProblem } from "@/core/stored";
import type { ArrangingSlice } from "./arranging";
import type { EntrySlice } from "./entry";
import type { HearingSlice } from "./hearing";
import { type History, record, step } from "./history";
import { rootIn } from "../geometry/pitch-window";
import type { IdeasSlice } from "./ideas";
import { windowsFor, type LookSlice } from "./look";
import type { PerformSlice } from "./perform";
import { type SelectedNotes, selectedOn } from "../geometry/selected-on";
import type { ProjectSlice } from "./project";
import {
  NOTHING_SELECTED,
  selectedTracks,
  selecting,
  withCurrentTrack,
  type SelectedSlice,
  type Touched,
  type WithSelection,
} from "./selected";
import type { ToolsSlice } from "./tools";

/** What goes along with an edit, in the same notification. */
export interface Outcome extends WithSelection {
  /** Edits of the same group that follow one another are one step of the history. */
  group?: string;
  /** Selected afterwards; what is left out keeps the selection. */
  selection?: Iterable<string>;
  touched?: Partial<Touched>;
  message?: string;
}

/** What changes several slices at once. */
export interface Editing {
  /**
   * Does a named edit as one undo step and one notification, and keeps the rest of the session valid:
   * the current track and pattern exist, the selection holds notes that are there. An edit that
   * would exceed a limit of the model is refused with a notice, and nothing changes. No edit leaves two
   * notes at one place: the edited one stays, and that is said. `outcome` may be a function of the
   * project after the edit. True when the project changed.
   */
  edit(
    label: string,
    change: (project: Project) => Project,
    outcome?: Outcome | ((after: Project) => Outcome),
  ): boolean;
  undo(): void;
  redo(): void;
  /** The history of an earlier page was found, or none; what was pressed meanwhile is done. */
  foundHistory(found: History | null): void;
  /** Goes to where so many edits of the history are done: 0 is the state when the project was opened. */
  jump(done: number): void;
  /** Puts in what came by other means than an edit, such as another tab's changes. */
  replace(project: Project): void;
  /**
   * Makes a track the current one and, with it, one of its rows; refused while others are locked. Taking
   * another track or lane drops the selection; with `keepSelection` another lane does not, and with `beside` what
   * was selected on other tracks goes on being so.
   */
  setTrack(
    track: string,
    pitch?: number,
    options?: { keepSelection?: boolean; beside?: boolean },
  ): void;
  setPattern(pattern: string): void;
}

export type Session = ProjectSlice &
  SelectedSlice &
  ToolsSlice &
  LookSlice &
  HearingSlice &
  ArrangingSlice &
  EntrySlice &
  IdeasSlice &
  PerformSlice &
  Editing;

/** The actions that change several slices at once. */
export const editing = (set: (change: Partial<Session>) => void, get: () => Session): Editing => ({
  edit(label, change, outcome = {}) {
    const state = get();
    const before = state.project;
    const given = change(before);
    // What is equal in value is no edit: undo would have nothing to show for it.
    const made = given !== before && same(before, given) ? before : given;
    const asked = typeof outcome === "function" ? outcome(made) : outcome;
    const kept = asked.selection ? selecting(state, asked.selection, asked) : state;
    const wanted = everyId({ track: state.track, selection: kept.selection, beside: kept.beside });
    const { project: after, replaced } = withoutDuplicates(before, made, wanted);
    const along = replaced > 0 ? withoutGone(state, asked, after, replaced, label) : asked;
    const problem = after === before ? null : limitProblem(before, after);
    if (problem) {
      const text = `${label}: not done. ${problem} Nothing was changed.`;
      set({ announcement: text, notice: { text } });
      return false;
    }
    const changed = after !== before;
    // A selection that is replaced need not be looked through first.
    const held = along.selection ? { ...state, ...NOTHING_SELECTED } : state;
    const next = { ...(changed && valid(held, after)), ...selection(state, along) };
    const selected = next.selection ?? state.selection;
    const entry = { label, before, after, group: along.group ?? null, selection: selected };
    set({
      ...next,
      ...(changed && {
        history: record(state.history, entry, state.selection),
        // What is changed is the current state: it is heard again.
        hearingBefore: false,
      }),
      ...(along.touched && { touched: { ...state.touched, ...along.touched } }),
      // A message belongs to its edit: it goes with the next one.
      ...(changed && { announcement: "" }),
      ...(along.message !== undefined && { announcement: along.message }),
    });
    return changed;
  },
  undo() {
    const { awaited, history } = get();
    if (awaited !== null && history.past.length === 0) set({ awaited: awaited + 1 });
    else set(stepped(get(), "back"));
  },
  redo() {
    const { awaited, history } = get();
    if (awaited !== null && history.future.length === 0) set({ awaited: awaited - 1 });
    else set(stepped(get(), "forward"));
  },
  foundHistory(found) {
    const { awaited, history } = get();
    if (awaited === null) return;
    if (found)
      set({
        history: {
          past: [...found.past, ...history.past],
          // What was done here meanwhile comes after all that was: nothing is left to redo.
          future: history.past.length > 0 ? history.future : [...history.future, ...found.future],
        },
      });
    set({ awaited: null });
    for (let i = 0; i < Math.abs(awaited); i++)
      set(stepped(get(), awaited > 0 ? "back" : "forward"));
  },
  jump(done) {
    let state = get();
    const direction = done < state.history.past.length ? "back" : "forward";
    while (state.history.past.length !== done) {
      const next = stepped(state, direction);
      if (!next.history) break;
      state = { ...state, ...next };
    }
    set(state);
  },
  replace: (project) => set(valid(get(), project)),
  setTrack(track, pitch, { keepSelection = false, beside = false } = {}) {
    const state = get();
    const same = state.track === track;
    if (!same && state.locked) {
      const { name } = trackOf(state.project, state.track);
      set({ announcement: `Locked to ${name}: other tracks stay as they are` });
      return;
    }
    const row =
      pitch ??
      (same ? state.caret.pitch : firstRow(state.project, state.pattern, track, state.windows));
    const otherLane =
      row !== state.caret.pitch && trackOf(state.project, track).kind === "drums" && !keepSelection;
    set({
      track,
      caret: { ...state.caret, pitch: row },
      open: state.open.has(track) ? state.open : new Set([...state.open, track]),
      ...(otherLane && NOTHING_SELECTED),
      ...(!same && {
        ...(beside ? withCurrentTrack(state, track) : NOTHING_SELECTED),
        preview: null,
        touched: { ...state.touched, length: null },
      }),
    });
  },
  setPattern(pattern) {
    const state = get();
    if (pattern === state.pattern) return;
    set({
      pattern,
      ...NOTHING_SELECTED,
      preview: null,
      scroll: 0,
      playStart: 0,
      caret: { ...state.caret, tick: 0 },
    });
  },
});

/** Ids of all selected notes, of whatever track. */
const everyId = (state: SelectedNotes): ReadonlySet<string> =>
  state.beside.size === 0
    ? state.selection
    : new Set(selectedTracks(state).flatMap((track) => [...selectedOn(state, track)]));

/** What goes along with an edit that replaced notes: it says so, and selects none of those. */
function withoutGone(
  { pattern, track }: Session,
  along: Outcome,
  after: Project,
  replaced: number,
  label: string,
): Outcome {
  const message = `${along.message ?? label}; ${plural(replaced, "note")} at the same place replaced`;
  if (!along.selection || !track) return { ...along, message };
  const there = new Set(partOf(after, { pattern, track }).notes.map((note) => note.id));
  return { ...along, message, selection: [...along.selection].filter((id) => there.has(id)) };
}

function selection(state: Session, along: Outcome): Partial<Session> {
  if (along.selection) return selecting(state, along.selection, along);
  return along.caret ? { caret: { ...state.caret, ...along.caret } } : {};
}

/** The row the caret takes on a track: its first lane, its first note's, or a root among those seen. */
function firstRow(
  project: Project,
  pattern: string,
  track: string,
  windows: Session["windows"],
): number {
  const { kind, lanes } = trackOf(project, track);
  if (kind === "drums") return lanes[0]?.pitch ?? 36;
  const first = partOf(project, { pattern, track }).notes[0];
  const window = must(windowsFor(project, windows)[track], "rows of the track");
  return first?.pitch ?? rootIn(window, project.key);
}

function stepped(state: Session, direction: "back" | "forward"): Partial<Session> {
  const done = step(state.history, state.project, direction);
  if (!done) return {};
  const word = direction === "back" ? "Undone" : "Redone";
  return {
    ...valid(state, done.project),
    history: done.history,
    stretch: null,
    announcement: `${word}: ${done.label}`,
  };
}

/** Of a list the item itself, else the one that has come to stand in its place. */
function stillThere(
  id: string,
  before: readonly { id: string }[],
  now: readonly { id: string }[],
): string {
  if (now.some((item) => item.id === id)) return id;
  const at = before.findIndex((item) => item.id === id);
  return now[Math.max(0, Math.min(at, now.length - 1))]?.id ?? "";
}

/** The rest of the session as it must be when this project takes the place of the one there was. */
function valid(state: Session, project: Project): Partial<Session> {
  const windows = windowsFor(project, state.windows);
  return {
    ...stillValid(state, project),
    ...(windows !== state.windows && { windows }),
    ...sectionThere(state, project),
  };
}

/** A current section that is gone gives way to the one that stands in its place. */
function sectionThere({ section, project: before }: Session, { song }: Project): Partial<Session> {
  if (section === null || song === before.song) return {};
  const now = stillThere(section, before.song, song) || null;
  return now === section ? {} : { section: now, sections: new Set(now === null ? [] : [now]) };
}

function stillValid(state: Session, project: Project): Partial<Session> {
  const before = state.project;
  const pattern = stillThere(state.pattern, before.patterns, project.patterns);
  const track = stillThere(state.track, before.tracks, project.tracks);
  if (pattern !== state.pattern || track !== state.track) {
    const row =
      track && track !== state.track ? firstRow(project, pattern, track, state.windows) : null;
    return {
      project,
      pattern,
      track,
      ...NOTHING_SELECTED,
      preview: null,
      ...(row !== null && { caret: { ...state.caret, pitch: row } }),
    };
  }
  const tracks = selectedTracks(state);
  const kept = new Map(tracks.map((one) => [one, stillSelected(state, project, one)]));
  if (tracks.every((one) => kept.get(one) === selectedOn(state, one))) return { project };
  const own = kept.get(track) ?? [];
  kept.delete(track);
  return { project, ...selecting(state, own, { beside: kept, touch: state.onlyTouched }) };
}

/** What of a track's selection is still there; the very set where all is. */
function stillSelected(state: Session, project: Project, track: string): ReadonlySet<string> {
  const selected = selectedOn(state, track);
  const { project: before, pattern } = state;
  if (!project.tracks.some(({ id }) => id === track)) return new Set();
  const { notes } = partOf(project, { pattern, track });
  if (before.tracks.length > 0 && partOf(before, { pattern, track }).notes === notes)
    return selected;
  const there = new Set(notes.map((note) => note.id));
  // Pieces that the chain makes are selected by ids of their own.
  const kept = [...selected].filter((id) => there.has(id) || there.has(rootId(id)));
  return kept.length === selected.size ? selected : new Set(kept);
}
