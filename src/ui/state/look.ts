import type { Project } from "@/core/score";
import { firstWindow, type PitchWindow } from "../geometry/pitch-window";

/** How the sheet is looked at, and which lists over it are open. */
interface Look {
  /** Tracks shown large, besides the current one. */
  open: ReadonlySet<string>;
  /** Pixels per tick, null to fit the pattern; first tick in view. */
  zoom: number | null;
  scroll: number;
  /** Width of the sheet in pixels, as it was measured last. */
  sheetWidth: number;
  /** Which rows of melodic tracks are seen, by track. */
  windows: Readonly<Record<string, PitchWindow>>;
  /** Whether lanes of kits are higher. */
  tall: boolean;
  /** Whether melodic tracks show all twelve pitches of an octave, or those of the key. */
  allRows: boolean;
  /** Whether the other tracks' notes show behind those of the current melodic track. */
  showOthers: boolean;
  /** Whether the view turns the page with the playhead. */
  follow: boolean;
  /** Whether the list of edits is open. */
  historyOpen: boolean;
  /** Whether the sheet of ideas is open. */
  ideasOpen: boolean;
  /** Whether the mixer stands in place of the foot. */
  mixerOpen: boolean;
}

/** How the sheet is looked at, with its setters. */
export interface LookSlice extends Look {
  setLook(change: Partial<Look>): void;
  /** Shows a track large, or slim. */
  setOpen(track: string, open: boolean): void;
  /** Changes which rows of a melodic track are seen. */
  setWindow(track: string, change: (window: PitchWindow) => PitchWindow): void;
}

/** How many tracks are shown large when a project is opened. */
const OPEN_AT_FIRST = 2;

/** A window for each melodic track: the one it has, else one about its notes. */
export function windowsFor(
  project: Project,
  known: Readonly<Record<string, PitchWindow>>,
): Readonly<Record<string, PitchWindow>> {
  const fresh = project.tracks.filter((track) => track.kind === "melody" && !known[track.id]);
  if (fresh.length === 0) return known;
  return {
    ...known,
    ...Object.fromEntries(fresh.map((track) => [track.id, firstWindow(project, track)])),
  };
}

/** The whole pattern at first, its first tracks open. */
export const lookSlice = (
  project: Project,
  set: (change: Partial<Look>) => void,
  get: () => Look,
): LookSlice => ({
  open: new Set(project.tracks.slice(0, OPEN_AT_FIRST).map((track) => track.id)),
  zoom: null,
  scroll: 0,
  sheetWidth: 900,
  windows: windowsFor(project, {}),
  tall: false,
  allRows: false,
  showOthers: true,
  follow: true,
  historyOpen: false,
  ideasOpen: false,
  mixerOpen: false,

  setLook: set,
  setWindow(track, change) {
    const { windows } = get();
    const window = windows[track];
    const next = window && change(window);
    if (next && next !== window) set({ windows: { ...windows, [track]: next } });
  },
  setOpen(track, open) {
    const tracks = new Set(get().open);
    if (open) tracks.add(track);
    else tracks.delete(track);
    set({ open: tracks });
  },
});
