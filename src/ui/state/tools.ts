import type { Params } from "@/core/params";
import type { ProfileKind } from "../geometry/profiles";

/** What a press on an open track does: a note, a selection, a stroke of notes, or a cut. */
export type Tool = "draw" | "select" | "freehand" | "cut";

export type BenchTab = "transform" | "generate" | "sound" | "measure";

/** What pointer and keys do on the sheet, and which panel stands beside it. */
interface Tools {
  tool: Tool;
  /** Whether the pointer erases. */
  erasing: boolean;
  /** Whether what is drawn, moved and played in is held to the scale. */
  inScale: boolean;
  /** Whether all tracks but the current one are locked. */
  locked: boolean;
  /** Whether the arrows walk from note to note. */
  walking: boolean;
  bench: BenchTab;
  /** Whether the bench is open where the window is too narrow for it to stand beside the sheet. */
  benchOpen: boolean;
  /** Whether the chord line is shown where it has no chords yet. */
  chordsOpen: boolean;
  /** Values that transforms were applied with last, by transform. */
  lastParams: Readonly<Record<string, Params>>;
  profile: ProfileKind;
  /** Whether a bend is drawn as a line, or level over each step of the grid. */
  bendAs: "line" | "steps";
  /** The lesson that goes on, by its id; null for none. */
  lesson: string | null;
  /** A field or menu that is to have the keyboard now, by its id; see `useCalled`. */
  requested: { id: string; at: number } | null;
}

/** Tools and panels, with their setters. */
export interface ToolsSlice extends Tools {
  setTools(change: Partial<Tools>): void;
  /** Gives the keyboard to a field of a panel, or opens a menu, by its id. */
  request(id: string): void;
}

/** Drawing at first, held to the scale. */
export const toolsSlice = (set: (change: Partial<Tools>) => void): ToolsSlice => ({
  tool: "draw",
  erasing: false,
  inScale: true,
  locked: false,
  walking: false,
  bench: "transform",
  benchOpen: false,
  chordsOpen: false,
  lastParams: {},
  profile: "velocity",
  bendAs: "line",
  lesson: null,
  requested: null,

  // A page of the bench that is asked for is to be seen.
  setTools: (change) => set(change.bench ? { benchOpen: true, ...change } : change),
  request: (id) => set({ requested: { id, at: Date.now() } }),
});
