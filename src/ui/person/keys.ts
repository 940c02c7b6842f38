import { settings } from "./settings";
import { plainPress, shownPress, type Press } from "./presses";

/** Keys of the actions as they are at first, by id: told by the registry of actions. */
let first: ReadonlyMap<string, readonly Press[]> = new Map();

/** Tells which keys the actions have at first. */
export function tellKeys(actions: readonly { id: string; keys: readonly Press[] }[]): void {
  first = new Map(actions.map(({ id, keys }) => [id, keys]));
}

/** The keys of an action: a person's own, else as at first. */
export const keysOf = (id: string): readonly Press[] => settings().keys[id] ?? first.get(id) ?? [];

/** Whether a person gave it keys of their own. */
export const isOwnKey = (id: string): boolean => id in settings().keys;

/** The first key of an action as people read it: `ctrl shift ←`; nothing where it has none. */
export function shownKey(id: string): string {
  const [press] = keysOf(id);
  return press === undefined ? "" : shownPress(press);
}

/** Ids of the other actions that have a press, too. */
export function othersWith(press: Press, id: string): string[] {
  const wanted = plainPress(press);
  return [...first.keys()].filter(
    (other) => other !== id && keysOf(other).some((one) => plainPress(one) === wanted),
  );
}

/** What a control says on hover, with the key of what it does; help shows the key on it. */
export function keyed(title: string, id: string): { title: string; "data-key"?: string } {
  const key = shownKey(id);
  return key === "" ? { title } : { title: `${title} (${key})`, "data-key": key };
}
