import { useEffect } from "react";
import { KEY_LAYOUTS, keyAt } from "@/core/perform";
import {
  ENTRY_VALUES,
  leaveEntry,
  moveEntryCaret,
  moveKeys,
  rest,
  setMode,
  settle,
  stepBack,
  tie,
  toggleKind,
} from "../commands/perform/entry";
import {
  ACCENT,
  KEY_BEND,
  keyDown,
  keyUp,
  nextDynamic,
  pitchAt,
  releaseKeys,
} from "../commands/perform/keys";
import { keepLastLoop } from "../commands/perform/played";
import { toggleRecord, undoLastLoop } from "../commands/perform/record";
import { keepsKey } from "../controls/keeps-key";
import { useDesk, useSession } from "../session/context";
import type { Desk } from "../session/desk";
import type { Entry } from "../state/entry";
import type { Session, SessionStore } from "../state/store";
import { setSettings, settings } from "../person/settings";
import { nth } from "@/core/base";

/** What plays by the computer's keyboard, as the player knows it. */
export const KEYS = "keys";

type Command = (session: Session, entry: Entry, store: SessionStore) => void;

const leave: Readonly<Record<string, Command>> = { Escape: (_s, _e, store) => leaveEntry(store) };

/** Keys besides the piano's while notes are entered, by their place on the keyboard. One line adds one. */
const ENTERING: Readonly<Record<string, Command>> = {
  ...leave,
  ...Object.fromEntries(
    ENTRY_VALUES.map((value, i) => [
      `Digit${i + 1}`,
      (state: Session) => state.setEntry({ value }),
    ]),
  ),
  Digit9: (_s, _e, store) => toggleKind(store, "triplet"),
  Digit0: (_s, _e, store) => toggleKind(store, "dotted"),
  KeyZ: (_s, _e, store) => moveKeys(store, -1),
  KeyX: (_s, _e, store) => moveKeys(store, 1),
  KeyC: (state, entry) => state.setEntry({ velocity: nextDynamic(entry.velocity, -1) }),
  KeyV: (state, entry) => state.setEntry({ velocity: nextDynamic(entry.velocity, 1) }),
  KeyM: (state, entry) => state.setEntry({ insert: !entry.insert }),
  KeyB: (_, entry, store) => setMode(store, NEXT_MODE[entry.mode]),
  Enter: (_, entry, store) => (entry.open ? settle(store) : rest(store)),
  Equal: (_s, _e, store) => tie(store),
  Backspace: (_s, _e, store) => stepBack(store),
  ArrowLeft: (_s, _e, store) => moveEntryCaret(store, -1),
  ArrowRight: (_s, _e, store) => moveEntryCaret(store, 1),
  KeyI: (_s, _e, store) => leaveEntry(store),
};

/** Keys besides those that sound while playing. They lie where no layout has a key. */
const PLAYING: Readonly<Record<string, Command>> = {
  ...leave,
  ArrowDown: (_s, _e, store) => moveKeys(store, -1),
  ArrowUp: (_s, _e, store) => moveKeys(store, 1),
  ArrowLeft: (state) => louder(state, -1),
  ArrowRight: (state) => louder(state, 1),
  BracketLeft: (state) => layoutBy(state, -1),
  BracketRight: (state) => layoutBy(state, 1),
};

/** Keys of playing that need the sound too. */
const WITH_SOUND = new Map<string, (desk: Desk) => void>(
  Object.entries({
    Enter: (desk) => void toggleRecord(desk),
    Backspace: undoLastLoop,
    Backslash: keepLastLoop,
  }),
);

type Hold = (desk: Desk, key: "down" | "up", time: number) => void;

/** Bends while a key is down. One that comes up in another mode than it went down in has bent nothing. */
function bendTo(value: number): Hold {
  return ({ player }, key, time) => {
    if (key === "down" || player.isBent(KEYS)) player.bend(KEYS, key === "down" ? value : 0, time);
  };
}

/** Keys that act as long as they are held: down and up. */
const HELD = new Map<string, Hold>(
  Object.entries({
    Comma: bendTo(-KEY_BEND),
    Period: bendTo(KEY_BEND),
    Slash: ({ player }, key, time) => player.pedal(KEYS, key === "down", time),
  }),
);

const NEXT_MODE = { play: "notes", notes: "tap", tap: "pitches", pitches: "notes" } as const;

function louder(state: Session, by: 1 | -1): void {
  setSettings({ velocity: nextDynamic(settings().velocity, by) });
}

function layoutBy(state: Session, by: 1 | -1): void {
  const at = KEY_LAYOUTS.indexOf(settings().layout) + by;
  setSettings({ layout: nth(KEY_LAYOUTS, (at + KEY_LAYOUTS.length) % KEY_LAYOUTS.length) });
}

const LETTERS = /^(Key[A-Z]|Digit\d|Semicolon|Quote|Minus|Equal)$/;

/** What a place on the keyboard does besides sounding, if anything. */
export function commandOf(code: string, mode: Entry["mode"]): Command | undefined {
  const commands = mode === "play" ? PLAYING : ENTERING;
  return Object.hasOwn(commands, code) ? commands[code] : undefined;
}

/** A key goes down while the surface is open; whether it was one of the surface's. */
export function surfaceDown(
  desk: Desk,
  event: Pick<KeyboardEvent, "code" | "shiftKey" | "repeat" | "timeStamp">,
): boolean {
  const { store } = desk;
  const state = store.getState();
  const { entry } = state;
  if (!entry) return false;
  const playing = entry.mode === "play";
  const { code, shiftKey, repeat, timeStamp } = event;
  // Shift is an accent while playing; elsewhere it belongs to the sheet.
  if (shiftKey && !playing) return false;
  const place = keyAt(playing ? settings().layout : "piano", code);
  if (place) {
    if (repeat) return true;
    const pitch = pitchAt(state, place);
    const plain = playing ? settings().velocity : entry.velocity;
    const velocity = shiftKey ? Math.min(127, plain + ACCENT) : plain;
    if (pitch !== null) keyDown(desk, KEYS, code, { pitch, velocity, time: timeStamp });
    return true;
  }
  const held = playing && HELD.get(code);
  if (held) {
    if (!repeat) held(desk, "down", timeStamp);
    return true;
  }
  const withSound = playing && WITH_SOUND.get(code);
  if (withSound) {
    if (!repeat) withSound(desk);
    return true;
  }
  const command = commandOf(code, entry.mode);
  command?.(state, entry, store);
  // While playing, a key beside those of the layout is a slip, and no command to the sheet.
  return command !== undefined || (playing && LETTERS.test(code));
}

/** A key comes up. Keys are known by their place: what they sounded ends, whatever changed meanwhile. */
export function surfaceUp(desk: Desk, code: string, time: number): void {
  keyUp(desk, KEYS, code, time);
  HELD.get(code)?.(desk, "up", time);
}

/** While the surface is open, its keys come before all others. */
export function useSurfaceKeys(): void {
  const desk = useDesk();
  const on = useSession((state) => state.entry !== null);
  useEffect(() => {
    if (!on) return;
    const { store } = desk;
    // The first key is to be heard as soon as those after it. What keeps sound away is said when it is pressed.
    desk.engine.wakeUp().catch(() => undefined);
    // From whatever button was pressed last, enter would press it again.
    store.getState().request("sheet");
    const down = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      // What has opened over the desk has its own keys, escape first.
      const opened = event.target instanceof Element && event.target.closest("[role=dialog]");
      if (opened || event.defaultPrevented || keepsKey(event)) return;
      if (!surfaceDown(desk, event)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
    };
    const up = (event: KeyboardEvent) => surfaceUp(desk, event.code, event.timeStamp);
    // A key let go in another window is never seen to come up.
    const lost = () => releaseKeys(desk, KEYS);
    const hidden = () => document.hidden && lost();
    window.addEventListener("keydown", down, { capture: true });
    window.addEventListener("keyup", up);
    window.addEventListener("blur", lost);
    document.addEventListener("visibilitychange", hidden);
    return () => {
      lost();
      window.removeEventListener("keydown", down, { capture: true });
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", lost);
      document.removeEventListener("visibilitychange", hidden);
    };
  }, [desk, on]);
}
