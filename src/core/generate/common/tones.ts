import { type Ticks, nth } from "../../base";
import { type Key, scaleSemitones } from "../../pitch";
import type { Harmony } from "./options";

export const TONES = ["chord tone", "root", "third", "fifth", "any"] as const;
export type Tone = (typeof TONES)[number];

/** Pitch classes of the key's own chord: root, third and fifth where the scale has them. */
export function chordTones(key: Key): Set<number> {
  const scale = scaleSemitones(key.scale);
  const third = [4, 3].filter((s) => scale.includes(s));
  const fifth = [7, 6, 8].find((s) => scale.includes(s));
  const minor = third.includes(3) && (!third.includes(4) || scale.length < 7);
  const tones = [0, minor ? 3 : third[0], fifth].filter((s) => s !== undefined);
  return new Set(tones.map((s) => (s + key.root) % 12));
}

const held = new WeakMap<readonly number[], Set<number>>();
const keys = new WeakMap<Key, Set<number>>();

/** Pitch classes of the chord that holds at a tick: of the chord line, else of the key. */
export function classesAt(o: Pick<Harmony, "chords" | "key">, tick: Ticks): Set<number> {
  const chord = o.chords.find((c) => tick >= c.from && tick < c.to);
  if (!chord || chord.classes.length === 0) {
    let own = keys.get(o.key);
    if (!own) keys.set(o.key, (own = chordTones(o.key)));
    return own;
  }
  let set = held.get(chord.classes);
  if (!set) held.set(chord.classes, (set = new Set(chord.classes)));
  return set;
}

/** Pitch classes that a first or last note may have; null for any. */
export function toneClasses(
  o: Pick<Harmony, "chords" | "key">,
  tone: Tone,
  tick: Ticks,
): ReadonlySet<number> | null {
  if (tone === "any") return null;
  const classes = classesAt(o, tick);
  if (tone === "chord tone") return classes;
  const all = [...classes];
  const root = nth(all, 0);
  const wanted = { root: [0], third: [3, 4, 2, 5], fifth: [7, 6, 8] }[tone];
  const above = (pc: number) => (pc - root + 12) % 12;
  const found = all.filter((pc) => wanted.includes(above(pc)));
  // A chord without a third or fifth: its root stands in.
  return new Set(found.length > 0 ? found : [root]);
}
