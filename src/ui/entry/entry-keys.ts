import { keepsKey } from "../controls/keeps-key";
import { togglePlay } from "../commands/play";
import { useEffect } from "react";
import { snapPitch, trackOf } from "@/core";
import { useDesk, useSession } from "../session/context";
import type { Desk } from "../session/desk";
import type { Session, SessionStore } from "../session/store";
import {
  DYNAMICS,
  ENTRY_VALUES,
  leaveEntry,
  moveEntryCaret,
  onKit,
  press,
  rest,
  setMode,
  settle,
  stepBack,
  tie,
} from "../commands/entry";
import { endTap, givePitch, tapAt } from "../commands/taps";
import type { Entry } from "../session/entry";

/** Places on the keyboard that are keys of a piano, by their distance to the lowest C in semitones. */
export const KEY_PLACES: readonly string[] = [
  ...["KeyA", "KeyW", "KeyS", "KeyE", "KeyD", "KeyF", "KeyT", "KeyG", "KeyY"],
  ...["KeyH", "KeyU", "KeyJ", "KeyK", "KeyO", "KeyL", "KeyP", "Semicolon", "Quote"],
];

/** What a key of the surface does, on the screen or on the keyboard. */
export function keyDown(desk: Desk, semitone: number, velocity?: number): string | null {
  const { store, engine } = desk;
  const { entry, inScale, project, track } = store.getState();
  if (!entry) return null;
  if (onKit(store.getState())) return padDown(desk, semitone, velocity);
  if (entry.mode === "tap") return tapNow(desk, velocity);
  const plain = entry.low + semitone;
  const pitch = inScale ? snapPitch(project.key, plain) : plain;
  void engine.audition(track, pitch, velocity ?? entry.velocity);
  if (entry.mode === "pitches") givePitch(store, pitch);
  else press(store, pitch, velocity);
  return null;
}

/** On a kit the keys are its pads, in the order of its lanes. */
function padDown(desk: Desk, index: number, velocity?: number): string | null {
  const { store, engine } = desk;
  const { entry, project, track } = store.getState();
  const lane = trackOf(project, track).lanes[index];
  if (!entry || !lane) return null;
  void engine.audition(track, lane.pitch, velocity ?? entry.velocity);
  if (entry.mode === "tap") return tapNow(desk, velocity, lane.pitch);
  press(store, lane.pitch, velocity);
  return null;
}

/** A tap counts while the loop plays; the first one starts it, with the metronome. */
function tapNow(desk: Desk, velocity?: number, pad?: number): string | null {
  const { store, engine } = desk;
  const at = engine.position();
  if (!at) {
    if (!store.getState().playing) {
      store.getState().setHearing({ click: true });
      store.getState().say("Tap to the metronome");
      void togglePlay(desk);
    }
    return null;
  }
  return tapAt(store, Math.max(0, at.tick), velocity, pad);
}

/** A key that tapped comes up: its hit is as long as it was held. */
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
const COMMANDS: Readonly<
  Record<string, (session: Session, entry: Entry, store: SessionStore) => void>
> = {
  ...Object.fromEntries(
    ENTRY_VALUES.map((value, i) => [`Digit${i + 1}`, (s: Session) => s.setEntry({ value })]),
  ),
  Digit9: (s, e) => s.setEntry({ kind: e.kind === "triplet" ? "straight" : "triplet" }),
  Digit0: (s, e) => s.setEntry({ kind: e.kind === "dotted" ? "straight" : "dotted" }),
  KeyZ: (s, e) => s.setEntry({ low: Math.max(0, e.low - 12) }),
  KeyX: (s, e) => s.setEntry({ low: Math.min(108, e.low + 12) }),
  KeyC: (s, e) => s.setEntry({ velocity: louder(e, -1) }),
  KeyV: (s, e) => s.setEntry({ velocity: louder(e, 1) }),
  KeyM: (s, e) => s.setEntry({ insert: !e.insert }),
  KeyB: (_, e, store) => setMode(store, NEXT_MODE[e.mode]),
  Enter: (_, e, store) => (e.open ? settle(store) : rest(store)),
  Equal: (_s, _e, store) => tie(store),
  Backspace: (_s, _e, store) => stepBack(store),
  ArrowLeft: (_s, _e, store) => moveEntryCaret(store, -1),
  ArrowRight: (_s, _e, store) => moveEntryCaret(store, 1),
  KeyI: (_s, _e, store) => leaveEntry(store),
  Escape: (_s, _e, store) => leaveEntry(store),
};

const NEXT_MODE = { notes: "tap", tap: "pitches", pitches: "notes" } as const;

/** What a place on the keyboard does besides the piano, if anything. */
export const commandOf = (code: string) =>
  Object.hasOwn(COMMANDS, code) ? COMMANDS[code] : undefined;

/** While step entry is on, its keys come before all others. */
export function useEntryKeys(): void {
  const desk = useDesk();
  const on = useSession((s) => s.entry !== null);
  useEffect(() => {
    if (!on) return;
    const { store } = desk;
    // From whatever button was pressed last, enter would press it again.
    store.getState().call("sheet");
    const held = new Map<string, string | null>();
    const down = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
      if (event.defaultPrevented || keepsKey(event)) return;
      const entry = store.getState().entry;
      const semitone = KEY_PLACES.indexOf(event.code);
      const command = commandOf(event.code);
      if (!entry || (semitone < 0 && !command)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (semitone < 0) {
        command!(store.getState(), entry, store);
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
