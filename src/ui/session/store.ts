import { createStore } from "zustand/vanilla";
import {
  edits,
  heardPart,
  partOf,
  patternOf,
  trackOf,
  type Note,
  type Place,
  type Project,
} from "@/core";
import type { Entry } from "./entry";
import { EMPTY_HISTORY, record, step, type History } from "./history";
import type { SaveState } from "../saving/saver";

/** Where the keyboard stands on the sheet: a row (pitch or pad) and a tick of the pattern. */
export interface Caret {
  pitch: number;
  tick: number;
}

/** Notes on trial in place of a part's own: heard and drawn, not written. */
export interface Trial {
  place: Place;
  notes: readonly Note[];
  label: string;
}

/** A stretch of time that was selected as a whole: a column, a bar. It holds while `of` is the selection. */
export interface Stretch {
  kind: "lane" | "column" | "bar";
  from: number;
  to: number;
  of: ReadonlySet<string>;
}

/** What the profile under the sheet shows and sets. */
export type ProfileKind = "velocity" | "tune" | "pan";

/** What a press on an open melodic track does: one note, a stroke of notes, or a cut. */
export type Tool = "draw" | "freehand" | "cut";

export type BenchTab = "transform" | "generate" | "sound" | "measure";

export interface SessionState {
  id: string;
  project: Project;
  history: History;
  save: SaveState;
  saveMessage: string;
  /** Pattern and track in hand. */
  pattern: string;
  track: string;
  /** Tracks shown large, besides the one in hand. */
  open: ReadonlySet<string>;
  caret: Caret;
  /** Ids of selected notes of the part in hand. */
  selection: ReadonlySet<string>;
  stretch: Stretch | null;
  profile: ProfileKind;
  /** Whether the list of what was done is open. */
  historyOpen: boolean;
  /** What a new note takes over from the last touched one; length null until one was touched. */
  touched: { length: number | null; velocity: number };
  /** Pixels per tick, null to fit the pattern; first tick in view. */
  zoom: number | null;
  scroll: number;
  /** Width of the sheet in pixels, as it was measured last. */
  sheetWidth: number;
  trial: Trial | null;
  /** Whether the part in hand is heard and drawn as it is without its chain. */
  comparing: boolean;
  playing: boolean;
  bench: BenchTab;
  /** Whether the pointer erases. */
  erasing: boolean;
  tool: Tool;
  /** Whether melodic tracks show all twelve pitches of an octave, or those of the key. */
  allRows: boolean;
  /** Whether what is drawn, moved and played in is held to the scale. */
  inScale: boolean;
  /** Whether the other tracks' notes show behind those of the melodic track in hand. */
  behind: boolean;
  /** Whether all tracks but the one in hand are locked. */
  locked: boolean;
  /** Whether the arrows walk from note to note. */
  walking: boolean;
  /** The state last kept, to be heard against the present one; and whether it is heard now. */
  kept: Project | null;
  hearingKept: boolean;
  /** Whether the click is heard. */
  click: boolean;
  /** Step entry, while it is on. */
  entry: Entry | null;
  /** Whether the sheet of ideas is open. */
  ideasOpen: boolean;
  /** Said to screen readers when it changes. */
  said: string;
}

export interface SessionActions {
  /** Does a named edit as one undo step; edits with the same `group` become one step. */
  edit(label: string, change: (project: Project) => Project, group?: string): void;
  undo(): void;
  redo(): void;
  /** Goes to where so many edits of the history are done: 0 is the state when the project was opened. */
  jump(done: number): void;
  set(state: Partial<SessionState>): void;
  /** Takes a track in hand and, with it, one of its rows. */
  takeTrack(track: string, pitch?: number): void;
  takePattern(pattern: string): void;
}

export type Session = SessionState & SessionActions;
export type SessionStore = ReturnType<typeof createSession>;

/** What panels that work on the part in hand depend on: not how the sheet is looked at. */
const WORK = [
  ...(["id", "project", "pattern", "track", "open", "caret", "selection", "trial"] as const),
  ...(["comparing", "hearingKept", "ideasOpen"] as const),
] as const;
export type Work = Pick<Session, (typeof WORK)[number]>;

export const workOf = (state: Session): Work =>
  Object.fromEntries(WORK.map((field) => [field, state[field]])) as unknown as Work;

/** The state of one open project. */
export function createSession(id: string, project: Project) {
  const drums = project.tracks.find((t) => t.kind === "drums");
  const first = drums ?? project.tracks[0];
  return createStore<Session>()((set, get) => ({
    id,
    project,
    history: EMPTY_HISTORY,
    save: "opening",
    saveMessage: "",
    pattern: project.patterns[0]!.id,
    track: first?.id ?? "",
    open: new Set(project.tracks.slice(0, 2).map((t) => t.id)),
    caret: { pitch: first?.lanes[0]?.pitch ?? 60, tick: 0 },
    selection: new Set<string>(),
    stretch: null,
    profile: "velocity",
    historyOpen: false,
    touched: { length: null, velocity: 96 },
    zoom: null,
    scroll: 0,
    sheetWidth: 900,
    trial: null,
    comparing: false,
    playing: false,
    bench: "transform",
    erasing: false,
    tool: "draw",
    allRows: false,
    inScale: true,
    behind: true,
    locked: false,
    walking: false,
    kept: project,
    hearingKept: false,
    click: false,
    entry: null,
    ideasOpen: false,
    said: "",

    edit(label, change, group) {
      // What is changed is the present state: it is heard again.
      if (get().hearingKept) set({ hearingKept: false });
      const before = get().project;
      const after = change(before);
      if (after === before) return;
      const entry = { label, before, after, group: group ?? null };
      set({ project: after, history: record(get().history, entry) });
    },
    undo: () => set(stepped(get(), "back")),
    redo: () => set(stepped(get(), "forward")),
    jump(done) {
      const direction = done < get().history.past.length ? "back" : "forward";
      while (get().history.past.length !== done) {
        const next = stepped(get(), direction);
        if (!next.history) return;
        set(next);
      }
    },
    set: (state) => set(state),
    takeTrack(track, pitch) {
      const state = get();
      const same = state.track === track;
      if (!same && state.locked) {
        const { name } = trackOf(state.project, state.track);
        set({ said: `Locked to ${name}: other tracks stay as they are` });
        return;
      }
      const row =
        pitch ?? (same ? state.caret.pitch : firstRow(state.project, state.pattern, track));
      set({
        track,
        caret: { ...state.caret, pitch: row },
        open: state.open.has(track) ? state.open : new Set([...state.open, track]),
        selection: same ? state.selection : new Set(),
        trial: same ? state.trial : null,
        touched: same ? state.touched : { ...state.touched, length: null },
      });
    },
    takePattern(pattern) {
      if (pattern === get().pattern) return;
      set({
        pattern,
        selection: new Set(),
        trial: null,
        scroll: 0,
        caret: { ...get().caret, tick: 0 },
      });
    },
  }));
}

function firstRow(project: Project, pattern: string, track: string): number {
  const { kind, lanes } = trackOf(project, track);
  if (kind === "drums") return lanes[0]?.pitch ?? 36;
  return partOf(project, { pattern, track }).notes[0]?.pitch ?? 60;
}

function stepped(state: Session, direction: "back" | "forward"): Partial<Session> {
  const done = step(state.history, state.project, direction);
  if (!done) return {};
  const word = direction === "back" ? "Undone" : "Done again";
  return {
    ...settled(state, done.project),
    history: done.history,
    stretch: null,
    said: `${word}: ${done.label}`,
  };
}

/** Keeps what is in hand pointing at things that exist in a project. */
export function settled(state: Session, project: Project): Partial<Session> {
  const pattern = project.patterns.some((p) => p.id === state.pattern)
    ? state.pattern
    : project.patterns[0]!.id;
  const track = project.tracks.some((t) => t.id === state.track)
    ? state.track
    : (project.tracks[0]?.id ?? "");
  const same = pattern === state.pattern && track === state.track;
  return { project, pattern, track, trial: same ? state.trial : null };
}

/** The selected stretch, where there is one and the selection is still its own. */
export const stretchInHand = (state: Session): Stretch | null =>
  state.stretch?.of === state.selection ? state.stretch : null;

/** The part in hand; null when the project has no tracks. */
export const place = (state: Pick<Session, "pattern" | "track">): Place => ({
  pattern: state.pattern,
  track: state.track,
});

let last: {
  state: Pick<Session, "project" | "trial" | "comparing" | "track" | "pattern">;
  heard: Project;
} | null = null;

/** The project as it is heard and drawn: with notes on trial, or without the chain while comparing. */
export function heardProject(state: Session): Project {
  const { project, trial, comparing, track, pattern, kept, hearingKept } = state;
  // Patterns that came later are not in the kept state; then there is nothing to compare.
  if (hearingKept && kept?.patterns.some((p) => p.id === pattern)) return kept;
  if (!trial && !comparing) return project;
  if (
    last?.state.project === project &&
    last.state.trial === trial &&
    last.state.comparing === comparing &&
    last.state.track === track &&
    last.state.pattern === pattern
  ) {
    return last.heard;
  }
  let heard = project;
  if (comparing) {
    heard = edits.changePart(heard, place(state), (part) => ({ ...part, chain: [] }));
  } else if (trial) {
    heard = edits.changePart(heard, trial.place, (part) => ({
      ...part,
      notes: trial.notes,
      chain: [],
    }));
  }
  last = { state: { project, trial, comparing, track, pattern }, heard };
  return heard;
}

/** The notes of the part in hand as heard, and what its chain did. */
export function heardInHand(state: Session) {
  const project = heardProject(state);
  const track = trackOf(project, state.track);
  const pattern = patternOf(project, state.pattern);
  return heardPart(project, track, partOf(project, place(state)), pattern.bars);
}
