import type { Desk } from "../session/desk";

/** Something a user can do, with its name, its keys and what it does. One entry adds one. */
export interface Action {
  id: string;
  label: string;
  group: string;
  /** Keys in tinykeys' notation; `$mod` is ctrl or cmd. */
  keys: string[];
  /** How the first key is written for people. */
  shown: string;
  run(desk: Desk): void;
}

/** Groups of actions that work on the track in hand. */
const NEEDS_TRACK = new Set(["Caret", "Select", "Edit", "Transform", "Grid", "Track", "Melody"]);

export const action = (
  group: string,
  id: string,
  label: string,
  keys: string[],
  shown: string,
  run: (desk: Desk) => void,
): Action => ({
  id,
  label,
  group,
  keys,
  shown,
  // A project may have no track yet; then there is nothing for these to work on.
  run: (desk) => {
    if (!NEEDS_TRACK.has(group) || desk.store.getState().track) run(desk);
  },
});
