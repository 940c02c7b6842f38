import type { Grid } from "../time";
import type { Project } from "../score";
import type { Picture } from "../analysis";

/** A project as it is kept and handed out; each change counts its revision up. */
export interface StoredProject {
  id: string;
  revision: number;
  /** Names this very save: two saves of one number can only come from two files. */
  stamp: string;
  /** Milliseconds since 1970. */
  updatedAt: number;
  project: Project;
}

/** A project's card in the library. */
export interface ProjectCard {
  id: string;
  name: string;
  tempo: number;
  metre: Project["metre"];
  key: Project["key"];
  updatedAt: number;
  /** Null while the library has not looked at it yet. */
  bars: number | null;
  picture: Picture | null;
  /** Why it cannot be opened; null where it can. */
  problem: string | null;
}

/** Grids the user worked with lately, newest first, and those that are pinned. */
export interface UserGrids {
  recent: Grid[];
  pinned: Grid[];
}

/**
 * Values kept under a name: of a transform by its id, of a sound's shape by `sound:` and its id, or a whole
 * kit, its sound and how its pads are shaped, under `kit`.
 */
export interface Preset {
  id: string;
  transform: string;
  name: string;
  params: Readonly<Record<string, unknown>>;
}

/** Cards of the library that are fetched at a time. */
export const CARDS_AT_A_TIME = 12;
