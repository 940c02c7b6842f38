import * as edits from "@/core/edits";
import { type Decibels, plural, nth } from "@/core/base";
import { PERCUSSION } from "@/core/pitch";
import { type Lane, type Project, makeLane, trackOf } from "@/core/score";
import { currentPart, workOf } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { addToChain } from "./chain";
import { scopesOf } from "./scopes";
import { transformNow } from "./transforming";

/** Rotates the lane or selection in its loop, later where positive; a selected stretch in itself. */
export function rotateLane(store: SessionStore, steps: number): void {
  const label = steps < 0 ? "Rotate earlier" : "Rotate later";
  transformNow(store, "rotate", { steps }, { label, on: "lane", group: "key-rotate" });
}

/** Adds a card for filling to the chain, for the current lane, to be set while it is heard. */
export function addFillCard(store: SessionStore): void {
  const state = store.getState();
  const scopes = scopesOf(workOf(state), currentPart(state));
  const lane = scopes.find(({ kind }) => kind === "lane" || kind === "part");
  addToChain(store, "fill", lane);
}

/** Moves the current lane up or down in its kit. */
export function moveCurrentLane(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const { lanes } = trackOf(state.project, state.track);
  const at = lanes.findIndex((lane) => lane.pitch === state.caret.pitch);
  if (at < 0) return;
  const { id } = nth(lanes, at);
  state.edit("Move lane", (project) => edits.moveLane(project, state.track, id, at + by), {
    group: "key-lane",
  });
}

/** Moves a lane to a place among those of its kit, from 0. */
export function moveLane(store: SessionStore, track: string, lane: string, to: number): void {
  store
    .getState()
    .edit("Move lane", (project) => edits.moveLane(project, track, lane, Math.max(0, to)));
}

/** Gives a lane another name. */
export function renameLane(store: SessionStore, track: string, lane: string, name: string): void {
  store
    .getState()
    .edit("Rename lane", (project) => edits.changeLane(project, track, lane, { name }));
}

/** Lets a lane loop after so many of its own steps; null for with its part. */
export function setLaneSteps(
  store: SessionStore,
  track: string,
  lane: string,
  steps: number | null,
): void {
  store
    .getState()
    .edit("Loop length", (project) => edits.changeLane(project, track, lane, { steps }));
}

/** Pads of the percussion map that the kit has no lane for yet; all of them for an empty name. */
export function freePads(project: Project, track: string): number[] {
  const lanes = track ? trackOf(project, track).lanes : [];
  const taken = new Set(lanes.map((lane) => lane.pitch));
  return Object.keys(PERCUSSION)
    .map(Number)
    .filter((pitch) => !taken.has(pitch));
}

/** Adds a lane for a pad and makes it the current one. */
export function addLane(store: SessionStore, track: string, pitch: number): void {
  const { edit, setTrack } = store.getState();
  if (edit("Add lane", (project) => edits.addLane(project, track, makeLane(pitch))))
    setTrack(track, pitch);
}

/** Deletes a lane with its hits; the one below becomes the current one. */
export function deleteLane(store: SessionStore, track: string, laneId: string): void {
  const state = store.getState();
  const { lanes } = trackOf(state.project, track);
  const at = lanes.findIndex((lane) => lane.id === laneId);
  const lane = lanes[at];
  if (!lane) return;
  const hits = state.project.patterns.reduce(
    (sum, { parts }) =>
      sum +
      parts
        .filter((part) => part.track === track)
        .reduce(
          (count, part) => count + part.notes.filter((h) => h.pitch === lane.pitch).length,
          0,
        ),
    0,
  );
  const next = lanes[at + 1] ?? lanes[at - 1];
  const message = `${lane.name} deleted, ${plural(hits, "hit")} with it`;
  state.edit(`Delete ${lane.name}`, (project) => edits.deleteLane(project, track, laneId), {
    message,
  });
  if (next) store.getState().setTrack(track, next.pitch);
}

/** Sets the level of a lane's pad, in dB; a run of them is one step of undo. */
export function setLaneLevel(
  store: SessionStore,
  track: string,
  { id, pitch }: Pick<Lane, "id" | "pitch">,
  level: Decibels,
): void {
  store
    .getState()
    .edit("Lane level", (project) => edits.changePad(project, track, pitch, { level }), {
      group: `lane-level-${id}`,
    });
}
