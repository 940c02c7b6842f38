import type { Params, Project } from "./score/model";
import type { Grid } from "./time/grid";

/** A project as it is kept and handed out; each change counts its revision up. */
export interface StoredProject {
  id: string;
  revision: number;
  /** Milliseconds since 1970. */
  updatedAt: number;
  project: Project;
}

/** Grids the user worked with lately, newest first, and those that are pinned. */
export interface UserGrids {
  recent: Grid[];
  pinned: Grid[];
}

/** Values of a transform, kept under a name. */
export interface Preset {
  id: string;
  transform: string;
  name: string;
  params: Params;
}
