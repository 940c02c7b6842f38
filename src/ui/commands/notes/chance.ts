import { plural, nth } from "@/core/base";
import { type Condition, type Note, conditionName, withChance, withCondition } from "@/core/score";
import type { SessionStore } from "../../state/store";
import { changeEach, countOf, notesByPart } from "./by-part";

/** Chances that the key goes through, in percent. */
const CHANCES = [75, 50, 25, 100] as const;
/** Conditions that the key goes through; null for every loop. */
const CONDITIONS: readonly (Condition | null)[] = ["1/2", "2/2", "4/4", "not-first", "last", null];

/** The next after a value of a list, its first for one that is none of it. */
const nextOf = <T>(list: readonly T[], value: T): T =>
  nth(list, (list.indexOf(value) + 1) % list.length);

const firstSelected = (store: SessionStore): Note | undefined =>
  notesByPart(store.getState())[0]?.notes[0];

/** Gives the selected notes the next of a few chances: 75, 50, 25 per cent, always. */
export function stepChance(store: SessionStore): void {
  const first = firstSelected(store);
  if (!first) return;
  const chance = nextOf(CHANCES, (first.chance ?? 100) as (typeof CHANCES)[number]);
  changeLife(store, "Chance", (note) => withChance(note, chance), {
    message: chance === 100 ? "always sound" : `sound in ${chance} of 100 loops`,
  });
}

/** Gives the selected notes the next of a few conditions. */
export function stepCondition(store: SessionStore): void {
  const first = firstSelected(store);
  if (!first) return;
  const when = nextOf(CONDITIONS, first.when ?? null);
  changeLife(store, "Loops", (note) => withCondition(note, when), {
    message: when ? `sound ${conditionName(when)}` : "sound in every loop",
  });
}

function changeLife(
  store: SessionStore,
  label: string,
  change: (note: Note) => Note,
  { message }: { message: string },
): void {
  const state = store.getState();
  const held = notesByPart(state);
  state.edit(label, (project) => changeEach(project, held, change), {
    message: `${plural(countOf(held), "note")}: ${message}`,
  });
}
