import type { Project } from "@/core/score";
import { nth } from "@/core/base";
import { NO_IDS, type ByTrack, type SelectedNotes } from "../geometry/selected-on";

/** Where the keyboard stands on the sheet: a row (pitch or pad) and a tick of the pattern. */
export interface Caret {
  pitch: number;
  tick: number;
}

/** A stretch of time that was selected as a whole: a column, a bar. It holds while `of` is the selection. */
export interface Stretch {
  kind: "lane" | "column" | "bar";
  from: number;
  to: number;
  of: ReadonlySet<string>;
}

/** What a new note takes over from the last touched one; length null until one was touched. */
export interface Touched {
  length: number | null;
  velocity: number;
}

const NO_TRACKS: ByTrack = new Map();

/** What may be set together with a selection. */
export interface WithSelection {
  stretch?: Omit<Stretch, "of"> | null;
  caret?: Partial<Caret>;
  /** What is selected on other tracks; nothing where it is left out. */
  beside?: ByTrack;
  /** The notes were only touched: their values are shown, but they are no selection to work on. */
  touch?: boolean;
}

/** The current pattern, track and row, and what of it is selected. */
export interface SelectedSlice {
  pattern: string;
  track: string;
  caret: Caret;
  /** Ids of selected notes of the current part. */
  selection: ReadonlySet<string>;
  /** Ids of notes of other tracks of the pattern that are selected too; no track is in it with none. */
  beside: ByTrack;
  /**
   * Whether what is selected was only touched, as by putting or dragging a hit: commands for a lane and
   * new transforms leave it aside.
   */
  onlyTouched: boolean;
  stretch: Stretch | null;
  touched: Touched;

  /** Selects notes of the current part in place of those that were. */
  select(ids: Iterable<string>, also?: WithSelection): void;
  setCaret(caret: Partial<Caret>): void;
  setTouched(touched: Partial<Touched>): void;
}

type Set = (change: Partial<SelectedSlice>) => void;

/** The fields that a selection sets: a stretch belongs to the very selection it came with. */
export function selecting(
  state: Pick<SelectedSlice, "caret">,
  ids: Iterable<string>,
  { stretch, caret, beside = NO_TRACKS, touch = false }: WithSelection = {},
): Pick<SelectedSlice, "selection" | "beside" | "onlyTouched" | "stretch" | "caret"> {
  const selection = new Set(ids);
  return {
    selection,
    beside: withoutEmpty(beside),
    onlyTouched: touch,
    stretch: stretch ? { ...stretch, of: selection } : null,
    caret: caret ? { ...state.caret, ...caret } : state.caret,
  };
}

/** The first pattern and its first drum track at first, nothing selected. */
export function selectedSlice(project: Project, set: Set, get: () => SelectedSlice): SelectedSlice {
  const first = project.tracks.find((track) => track.kind === "drums") ?? project.tracks[0];
  return {
    pattern: nth(project.patterns, 0).id,
    track: first?.id ?? "",
    caret: { pitch: first?.lanes[0]?.pitch ?? 60, tick: 0 },
    selection: NO_IDS,
    beside: NO_TRACKS,
    onlyTouched: false,
    stretch: null,
    touched: { length: null, velocity: 96 },

    select: (ids, also) => set(selecting(get(), ids, also)),
    setCaret: (caret) => set({ caret: { ...get().caret, ...caret } }),
    setTouched: (touched) => set({ touched: { ...get().touched, ...touched } }),
  };
}

const withoutEmpty = (by: ByTrack): ByTrack =>
  by.size === 0 ? NO_TRACKS : new Map([...by].filter(([, ids]) => ids.size > 0));

/** A session in which nothing is selected. */
export const NOTHING_SELECTED: Pick<SelectedSlice, "selection" | "beside" | "stretch"> = {
  selection: NO_IDS,
  beside: NO_TRACKS,
  stretch: null,
};

/** The tracks on which something is selected, the current one first. */
export const selectedTracks = ({ track, selection, beside }: SelectedNotes): readonly string[] => [
  ...(selection.size > 0 ? [track] : []),
  ...beside.keys(),
];

/** The selection with another track as the current one: what was selected on that before lies beside it. */
export function withCurrentTrack(
  state: SelectedNotes & Pick<SelectedSlice, "onlyTouched">,
  track: string,
): Pick<SelectedSlice, "selection" | "beside" | "onlyTouched"> {
  const beside = new Map(state.beside);
  const selection = beside.get(track) ?? NO_IDS;
  beside.delete(track);
  // What was only touched is no selection to go on with.
  if (!state.onlyTouched) beside.set(state.track, state.selection);
  return { selection, beside: withoutEmpty(beside), onlyTouched: false };
}

/** What was selected on purpose: with a box, a key or a command; empty where nothing was. */
export const selectedOnPurpose = (
  state: Pick<SelectedSlice, "selection" | "onlyTouched">,
): ReadonlySet<string> => (state.onlyTouched ? NO_IDS : state.selection);
