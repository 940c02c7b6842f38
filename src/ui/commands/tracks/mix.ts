import * as edits from "@/core/edits";
import type { Decibels } from "@/core/base";
import {
  type Mix,
  SEND_EFFECT_RANGES,
  type SendEffects,
  type SendEffectField,
  SYNCED,
  type Send,
  MIX_RANGES,
  type SyncedTime,
} from "@/core/sound";
import type { SessionStore } from "../../state/store";

/** Sets the level of a track, in dB; a run of them is one step of undo, as with all values here that are dragged. */
export function setTrackLevel(store: SessionStore, track: string, level: Decibels): void {
  store.getState().edit("Level", (project) => edits.changeTrack(project, track, { level }), {
    group: `level-${track}`,
  });
}

/** Sets the pan of a track, −1 (left) to 1. */
export function setTrackPan(store: SessionStore, track: string, pan: number): void {
  store.getState().edit("Pan", (project) => edits.changeTrack(project, track, { pan }), {
    group: `pan-${track}`,
  });
}

/** Sets how much of a track goes to the reverb or the echo, in dB. */
export function setSend(store: SessionStore, track: string, send: Send, level: Decibels): void {
  changeMix(store, track, { [send]: level }, { label: MIX_RANGES[send].label, field: send });
}

/** How a change is called in the history, and the field it belongs to where a run of them is one step. */
interface Change {
  label: string;
  field?: string;
}

/** Changes what a track goes through: shelves, drive, compressor, ducking, sends. */
export function changeMix(
  store: SessionStore,
  track: string,
  change: Mix,
  { label, field }: Change,
): void {
  store.getState().edit(label, (project) => edits.changeMix(project, track, change), {
    group: field && `mix-${track}-${field}`,
  });
}

/** Changes a value of the reverb or the echo that all tracks share; `of` is which of the two. */
export function changeSendEffects(
  store: SessionStore,
  change: SendEffects,
  { of, field }: { of: string; field: SendEffectField },
): void {
  store
    .getState()
    .edit(
      `${of} ${SEND_EFFECT_RANGES[field].label.toLowerCase()}`,
      (project) => edits.changeRoom(project, change),
      {
        group: `room-${field}`,
      },
    );
}

/** Lets the echo go back and forth between left and right, or not. */
export function setPingPong(store: SessionStore, pingPong: boolean): void {
  store.getState().edit("Ping-pong", (project) => edits.changeRoom(project, { pingPong }));
}

/** Lets a time of the reverb or the echo follow the tempo, as a note value by its name. */
export function syncSendEffect(store: SessionStore, time: SyncedTime, value: string): void {
  store
    .getState()
    .edit(`${SEND_EFFECT_RANGES[time].label}: ${value}`, (project) =>
      edits.changeRoom(project, { [SYNCED[time]]: value }),
    );
}

/** Sets the level of the whole mix, in dB. */
export function setMixLevel(store: SessionStore, level: Decibels): void {
  store.getState().edit("Level of the mix", (project) => edits.changeRoom(project, { level }), {
    group: "room-level",
  });
}
