import type { Desk } from "../session/desk";
import type { SessionStore } from "../state/store";

/** Something a user can do, with its name, its keys and what it does. */
export interface Action {
  id: string;
  label: string;
  group: string;
  /** Keys in tinykeys' notation; `$mod` is ctrl or cmd. */
  keys: readonly string[];
  /** Other words of the trade that find it. */
  words: readonly string[];
  /** A key held down does it once, not again and again. */
  once: boolean;
  run(desk: Desk): void;
}

/** An action as its list says it: most have no more than a name, a key and a command. */
interface Line {
  id: string;
  label: string;
  /** One key, or several. */
  keys?: string | readonly string[];
  /** Words that find it, with a space between. */
  words?: string;
  once?: boolean;
  run(store: SessionStore, desk: Desk): void;
}

/** A list of actions of one group. With `needsTrack` they do nothing where there is no track. */
export function actions(
  group: string,
  lines: readonly Line[],
  { needsTrack = false }: { needsTrack?: boolean } = {},
): readonly Action[] {
  return lines.map(({ id, label, keys = [], words = "", once = false, run }) => ({
    id,
    label,
    group,
    keys: typeof keys === "string" ? [keys] : keys,
    words: words.split(" ").filter(Boolean),
    once,
    run: (desk) => {
      if (!needsTrack || desk.store.getState().track) run(desk.store, desk);
    },
  }));
}

/** What works on the current track. */
export const ON_TRACK = { needsTrack: true } as const;
