import { keepsKey } from "../controls/keeps-key";
import { togglePlay } from "../commands/play";
import { useEffect } from "react";
import { snapPitch } from "@/core";
import { useDesk, useSession } from "../session/context";
import type { Desk } from "../session/desk";
import {
  DYNAMICS,
  ENTRY_VALUES,
  endTap,
  givePitch,
  leaveEntry,
  moveEntryCaret,
  press,
  rest,
  set,
  setMode,
  settle,
  stepBack,
  tapAt,
  tie,
} from "../commands/entry";
import type { Entry } from "../session/entry";

/** Places on the keyboard that are keys of a piano, by their distance to the lowest C in semitones. */
export const KEY_PLACES: readonly string[] = [
  ...["KeyA", "KeyW", "KeyS", "KeyE", "KeyD", "KeyF", "KeyT", "KeyG", "KeyY"],
  ...["KeyH", "KeyU", "KeyJ", "KeyK", "KeyO", "KeyL", "KeyP", "Semicolon", "Quote"],
];

/** What a key of the surface does, on the screen or on the keyboard. */
export function keyDown(desk: Desk, semitone: number, velocity?: number): string | null {
  const { store, engine } = desk;
  const { entry, inScale, project, track, playing } = store.getState();
  if (!entry) return null;
  if (entry.mode === "tap") return tapNow(desk, velocity);
  const plain = entry.low + semitone;
  const pitch = inScale ? snapPitch(project.key, plain) : plain;
  if (!playing) void engine.audition(track, pitch, velocity ?? entry.velocity);
  if (entry.mode === "pitches") givePitch(store, pitch);
  else press(store, pitch, velocity);
  return null;
}

/** A tap counts while the loop plays; the first one starts it, with the click. */
function tapNow(desk: Desk, velocity?: number): string | null {
  const { store, engine } = desk;
  const at = engine.position();
  if (!at) {
    if (!store.getState().playing) {
      store.setState({ click: true, said: "Tap to the click" });
      void togglePlay(desk);
    }
    return null;
  }
  return tapAt(store, Math.max(0, at.tick), velocity);
}

export function tapUp({ store, engine }: Desk, id: string): void {
  const at = engine.position();
  if (at) endTap(store, id, at.tick);
}

const louder = (entry: Entry, by: 1 | -1): number => {
  const nearest = DYNAMICS.reduce(
    (best, [, v], i) =>
      Math.abs(v - entry.velocity) < Math.abs(DYNAMICS[best]![1] - entry.velocity) ? i : best,
    0,
  );
  return DYNAMICS[Math.min(DYNAMICS.length - 1, Math.max(0, nearest + by))]![1];
};

/** Keys besides the piano's, by their place on the keyboard. One line adds one. */
const COMMANDS: Readonly<Record<string, (desk: Desk, entry: Entry) => void>> = {
  ...Object.fromEntries(
    ENTRY_VALUES.map((value, i) => [`Digit${i + 1}`, ({ store }: Desk) => set(store, { value })]),
  ),
  Digit9: ({ store }, e) => set(store, { kind: e.kind === "triplet" ? "straight" : "triplet" }),
  Digit0: ({ store }, e) => set(store, { kind: e.kind === "dotted" ? "straight" : "dotted" }),
  KeyZ: ({ store }, e) => set(store, { low: Math.max(0, e.low - 12) }),
  KeyX: ({ store }, e) => set(store, { low: Math.min(108, e.low + 12) }),
  KeyC: ({ store }, e) => set(store, { velocity: louder(e, -1) }),
  KeyV: ({ store }, e) => set(store, { velocity: louder(e, 1) }),
  KeyM: ({ store }, e) => set(store, { insert: !e.insert }),
  KeyB: ({ store }, e) =>
    setMode(store, e.mode === "notes" ? "tap" : e.mode === "tap" ? "pitches" : "notes"),
  Enter: ({ store }, e) => (e.open ? settle(store) : rest(store)),
  Equal: ({ store }) => tie(store),
  Backspace: ({ store }) => stepBack(store),
  ArrowLeft: ({ store }) => moveEntryCaret(store, -1),
  ArrowRight: ({ store }) => moveEntryCaret(store, 1),
  KeyI: ({ store }) => leaveEntry(store),
  Escape: ({ store }) => leaveEntry(store),
};

/** While step entry is on, its keys come before all others. */
export function useEntryKeys(): void {
  const desk = useDesk();
  const on = useSession((s) => s.entry !== null);
  useEffect(() => {
    if (!on) return;
    const { store } = desk;
    // From whatever button was pressed last, enter would press it again.
    document.querySelector<HTMLElement>("[role=application]")?.focus({ preventScroll: true });
    const held = new Map<string, string | null>();
    const down = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
      if (event.defaultPrevented || keepsKey(event)) return;
      const entry = store.getState().entry;
      const semitone = KEY_PLACES.indexOf(event.code);
      const command = COMMANDS[event.code];
      if (!entry || (semitone < 0 && !command)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (semitone < 0) {
        command!(desk, entry);
        return;
      }
      if (event.repeat || held.has(event.code)) return;
      held.set(event.code, keyDown(desk, semitone));
    };
    const release = (code: string) => {
      const tap = held.get(code);
      if (!held.delete(code)) return;
      if (tap) tapUp(desk, tap);
      if (held.size === 0 && !store.getState().entry?.gather) settle(store);
    };
    const up = (event: KeyboardEvent) => release(event.code);
    // A key let go in another window is never seen to come up.
    const all = () => [...held.keys()].forEach(release);
    window.addEventListener("keydown", down, { capture: true });
    window.addEventListener("keyup", up);
    window.addEventListener("blur", all);
    return () => {
      all();
      window.removeEventListener("keydown", down, { capture: true });
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", all);
    };
  }, [desk, on]);
}
