import * as edits from "@/core/edits";
import { plural, nth } from "@/core/base";
import { type Condition, type Note, conditionName, withChance, withCondition } from "@/core/score";
import { currentPlace } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { selectedNotes } from "./selected";

/** Chances that the key goes through, in percent. */
const CHANCES = [75, 50, 25, 100] as const;
/** Conditions that the key goes through; null for every loop. */
const CONDITIONS: readonly (Condition | null)[] = ["1/2", "2/2", "4/4", "not-first", "last", null];

/** The next after a value of a list, its first for one that is none of it. */
const nextOf = <T>(list: readonly T[], value: T): T =>
  nth(list, (list.indexOf(value) + 1) % list.length);

/** Gives the selected notes the next of a few chances: 75, 50, 25 per cent, always. */
export function stepChance(store: SessionStore): void {
  const state = store.getState();
  const [first, ...others] = selectedNotes(state);
  if (!first) return;
  const chance = nextOf(CHANCES, (first.chance ?? 100) as (typeof CHANCES)[number]);
  changeLife(store, "Chance", (note) => withChance(note, chance), [first, ...others].length, {
    message: chance === 100 ? "always sound" : `sound in ${chance} of 100 loops`,
  });
}

/** Gives the selected notes the next of a few conditions. */
export function stepCondition(store: SessionStore): void {
  const own = selectedNotes(store.getState());
  const [first] = own;
  if (!first) return;
  const when = nextOf(CONDITIONS, first.when ?? null);
  changeLife(store, "Loops", (note) => withCondition(note, when), own.length, {
    message: when ? `sound ${conditionName(when)}` : "sound in every loop",
  });
}

function changeLife(
  store: SessionStore,
  label: string,
  change: (note: Note) => Note,
  count: number,
  { message }: { message: string },
): void {
  const state = store.getState();
  const ids = new Set(selectedNotes(state).map((note) => note.id));
  state.edit(label, (project) => edits.changeNotes(project, currentPlace(state), ids, change), {
    message: `${plural(count, "note")}: ${message}`,
  });
}
