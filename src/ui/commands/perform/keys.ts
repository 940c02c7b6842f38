import { trackOf } from "@/core/score";
import { type KeyPlace, keyPitch } from "@/core/perform";
import type { Desk } from "../../session/desk";
import type { Press } from "../../session/player";
import type { Session, SessionStore } from "../../state/store";
import { DYNAMICS, onKit, press, settle } from "./entry";
import { togglePlay } from "../transport/play";
import { endTap, givePitch, tapAt } from "./taps";
import { settings } from "../../person/settings";
import { nth, lastOf } from "@/core/base";

/** An accent is louder by so much. */
export const ACCENT = 28;
/** How far the keys of the computer bend: all the way. */
export const KEY_BEND = 8191;

/** Keys that are down while a mode besides playing is on, with the tap that each made. */
const pressed = new WeakMap<SessionStore, Map<string, string | null>>();

function pressedOf(store: SessionStore): Map<string, string | null> {
  let map = pressed.get(store);
  if (!map) pressed.set(store, (map = new Map()));
  return map;
}

/** What a key of the surface sounds on the current track: a pitch or a pad; null where it has none. */
export function pitchAt(state: Session, place: Pick<KeyPlace, "row" | "column" | "index">) {
  const { entry, project, track, inScale } = state;
  if (!track) return null;
  const { layout, rowStep } = settings();
  // Notes are entered and tapped on a piano, or the pads of a kit.
  const how = entry && entry.mode !== "play" ? "piano" : layout;
  // A kit has its lanes in order, however the keys lie.
  if (onKit(state)) return trackOf(project, track).lanes[place.index]?.pitch ?? null;
  return keyPitch(how, place, { key: project.key, low: entry?.low ?? 48, rowStep, inScale });
}

/**
 * A key goes down, of whatever device: it sounds on the current track, is remembered, and does what the
 * surface is there for just now.
 */
export function keyDown(desk: Desk, source: string, key: string, note: Press): void {
  const { store, player } = desk;
  player.press(source, key, note);
  const { entry } = store.getState();
  if (!entry || entry.mode === "play") return;
  const id = `${source}/${key}`;
  const { pitch, velocity } = note;
  if (entry.mode === "tap") {
    pressedOf(store).set(id, tapNow(desk, note));
    return;
  }
  pressedOf(store).set(id, null);
  if (entry.mode === "pitches") givePitch(store, pitch);
  else press(store, pitch, velocity);
}

/** A key comes up: its note ends, its tap is as long as it was held, a step whose keys are all up is done. */
export function keyUp(
  { store, engine, player }: Desk,
  source: string,
  key: string,
  time: number,
): void {
  player.lift(source, key, time);
  const keys = pressedOf(store);
  const id = `${source}/${key}`;
  if (!keys.has(id)) return;
  const tap = keys.get(id);
  keys.delete(id);
  const at = engine.playedAt(time);
  if (tap && at) endTap(store, tap, at.tick);
  if (keys.size === 0 && !store.getState().entry?.gather) settle(store);
}

/** Lets go of all that a source holds: it was lost sight of. */
export function releaseKeys(desk: Desk, source: string): void {
  for (const id of [...pressedOf(desk.store).keys()]) {
    if (id.startsWith(`${source}/`))
      keyUp(desk, source, id.slice(source.length + 1), performance.now());
  }
  desk.player.release(source);
}

/** A tap counts while the loop plays; the first one starts it, with the metronome. */
function tapNow(desk: Desk, { pitch, velocity, time }: Press): string | null {
  const { store, engine } = desk;
  const at = engine.playedAt(time);
  if (!at) {
    if (!store.getState().playing) {
      store.getState().setHearing({ click: true });
      store.getState().announce("Tap to the metronome");
      void togglePlay(desk);
    }
    return null;
  }
  const pad = onKit(store.getState()) ? pitch : undefined;
  return tapAt(store, Math.max(0, at.tick), velocity, pad);
}

/** The next dynamic louder or softer than a velocity. */
export function nextDynamic(velocity: number, by: 1 | -1): number {
  const levels = DYNAMICS.map(([, level]) => level);
  const next =
    by > 0
      ? levels.find((level) => level > velocity)
      : levels.findLast((level) => level < velocity);
  return next ?? (by > 0 ? lastOf(levels) : nth(levels, 0));
}
