import { currentMetre } from "../../state/current";
import { nanoid } from "nanoid";
import { SOUNDS, soundOf } from "@/audio/sounds";
import * as edits from "@/core/edits";
import { type KitShape, lanesInMetre, makeTrack, trackOf } from "@/core/score";
import type { SessionStore } from "../../state/store";
import { modulo, nth } from "@/core/base";

/** Gives a track another sound. Its name goes along where it is still that of the sound it had. */
export function chooseSound(store: SessionStore, id: string, sound: string, group?: string): void {
  const { project, edit } = store.getState();
  const track = trackOf(project, id);
  const { label } = soundOf({ kind: track.kind, sound });
  const named = track.name === soundOf(track).label;
  edit(
    track.kind === "drums" ? "Kit" : "Sound",
    (project) => edits.changeTrack(project, id, { sound, ...(named && { name: label }) }),
    { group, message: label },
  );
}

/** Gives a drum track a kit kept under a name: its sound, and how its pads are shaped. */
export function takeKit(
  store: SessionStore,
  id: string,
  { sound, kit }: { sound: string; kit: KitShape },
  name: string,
): void {
  store
    .getState()
    .edit(`Kit: ${name}`, (project) => edits.setKit(project, id, sound, kit), { message: name });
}

/** Hears a track with another sound, or another kit whole, which is not chosen yet; null for its own. */
export function previewSound(
  store: SessionStore,
  track: string,
  sound: string | null,
  kit?: KitShape,
): void {
  const { soundPreview, setHearing } = store.getState();
  if (soundPreview ? soundPreview.sound === sound && soundPreview.kit === kit : sound === null)
    return;
  setHearing({ soundPreview: sound === null ? null : { track, sound, ...(kit && { kit }) } });
}

/** The next or previous sound of the current track's kind, kits among them, with the same notes. */
export function stepSound(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  const sounds = SOUNDS.filter((sound) => sound.kind === track.kind);
  const at = sounds.indexOf(soundOf(track));
  const { id } = nth(sounds, (at + by + sounds.length) % sounds.length);
  chooseSound(store, track.id, id, "key-sound");
}

/** Adds a track with a sound and makes it the current one. */
export function addTrack(store: SessionStore, soundId: string): void {
  const sound = SOUNDS.find(({ id }) => id === soundId);
  if (!sound) return;
  const made = makeTrack({ id: nanoid(8), kind: sound.kind, name: sound.label, sound: sound.id });
  const track = { ...made, lanes: lanesInMetre(made.lanes, currentMetre(store.getState())) };
  if (store.getState().edit("Add track", (project) => edits.addTrack(project, track)))
    store.getState().setTrack(track.id);
}

/** Gives a track another name. */
export function renameTrack(store: SessionStore, track: string, name: string): void {
  store.getState().edit("Rename", (project) => edits.changeTrack(project, track, { name }));
}

/** Moves a track to a place among the others, from 0. */
export function moveTrack(store: SessionStore, track: string, to: number): void {
  store.getState().edit("Move track", (project) => edits.moveTrack(project, track, to));
}

/** Makes the next track the current one, or the one before; past the last comes the first. */
export function stepTrack(store: SessionStore, by: 1 | -1): void {
  const { project, track, setTrack, announce } = store.getState();
  const at = project.tracks.findIndex(({ id }) => id === track);
  const next = project.tracks[modulo(at + by, project.tracks.length)];
  if (!next) return;
  setTrack(next.id);
  if (store.getState().track === next.id) announce(next.name);
}

/** Moves the current track up or down. */
export function moveCurrentTrack(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const at = state.project.tracks.findIndex((track) => track.id === state.track);
  state.edit("Move track", (project) => edits.moveTrack(project, state.track, at + by), {
    group: "key-track",
  });
}

/** Copies a track's part in the current pattern onto another track, in place of what it had there. */
export function copyPartTo(store: SessionStore, from: string, to: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, to);
  state.edit(
    `Copy part to ${name}`,
    (project) =>
      edits.copyPart(project, { pattern: state.pattern, track: from }, to, () => nanoid(8)),
    { selection: [], message: `Part copied to ${name}` },
  );
}

/** Puts another track's part into a track's own and empties the other. */
export function joinPartFrom(store: SessionStore, into: string, from: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, from);
  state.edit(
    `Join part of ${name}`,
    (project) =>
      edits.joinParts(project, { pattern: state.pattern, track: into }, [from], () => nanoid(8)),
    { selection: [], message: `Part of ${name} joined into this one` },
  );
}

/** Deletes a track with its parts. */
export function deleteTrack(store: SessionStore, id: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, id);
  state.edit(`Delete ${name}`, (project) => edits.deleteTrack(project, id), {
    message: `${name} deleted`,
  });
}
