import type { Project } from "@/core/score";
import type { SaveState } from "../saving/saver";
import { EMPTY_HISTORY, type History } from "./history";

/** What is worked on, how it came to be, whether it is saved, and what was said last. */
export interface ProjectSlice {
  id: string;
  project: Project;
  history: History;
  /** While the history of an earlier page is looked for: how many steps back were asked for meanwhile; else null. */
  awaited: number | null;
  save: SaveState;
  saveMessage: string;
  /** Said to screen readers, and shown for a while, when it changes. */
  announcement: string;
  /** Said so that it is not overlooked: an edit that was refused. Each is an object of its own. */
  notice: { text: string } | null;

  setSave(save: SaveState, message?: string): void;
  /** Puts in the history of an earlier page. */
  setHistory(history: History): void;
  /** A history is looked for from now on: undo waits for it where there is none yet. */
  awaitHistory(): void;
  announce(text: string): void;
}

type Set = (change: Partial<ProjectSlice>) => void;

/** A project as it was opened. */
export const projectSlice = (id: string, project: Project, set: Set): ProjectSlice => ({
  id,
  project,
  history: EMPTY_HISTORY,
  awaited: null,
  save: "opening",
  saveMessage: "",
  announcement: "",
  notice: null,

  setSave: (save, saveMessage = "") => set({ save, saveMessage }),
  setHistory: (history) => set({ history }),
  awaitHistory: () => set({ awaited: 0 }),
  announce: (announcement) => set({ announcement }),
});
