import { edits, makeLane, PERCUSSION, trackOf, TRANSFORMS } from "@/core";
import { nanoid } from "nanoid";
import { place, type Session, type SessionStore } from "../session/store";
import { transformNow } from "./transforming";
/** Turns the lane or selection round its loop; a selected stretch in itself. */
export function rotateLane(store: SessionStore, steps: number): void {
  transformNow(store, "rotate", { steps }, "Shift round the loop", "lane", "key-rotate");
}

/** Puts a card for filling on the lane in hand, to be turned while it is heard. */
export function addFillCard(store: SessionStore): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  const lane = track.kind === "drums" ? { lane: state.caret.pitch } : {};
  const step = {
    id: nanoid(8),
    transform: "fill",
    on: true,
    params: { ...TRANSFORMS.fill!.defaults },
    scope: null,
    ...lane,
  };
  state.edit("Add Fill", (p) => edits.addStep(p, place(state), step));
  store.setState({ bench: "transform" });
}

/** Moves the lane in hand up or down in its kit. */
export function moveLaneInHand(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const { lanes } = trackOf(state.project, state.track);
  const at = lanes.findIndex((lane) => lane.pitch === state.caret.pitch);
  if (at < 0) return;
  const id = lanes[at]!.id;
  state.edit("Move lane", (p) => edits.moveLane(p, state.track, id, at + by), "key-lane");
}

/** Pads of the percussion map that the kit has no lane for yet. */
export function freePads(state: Session, track: string): number[] {
  const taken = new Set(trackOf(state.project, track).lanes.map((lane) => lane.pitch));
  return Object.keys(PERCUSSION)
    .map(Number)
    .filter((pitch) => !taken.has(pitch));
}

/** Adds a lane for a pad and takes it in hand. */
export function addLane(store: SessionStore, track: string, pitch: number): void {
  store.getState().edit("Add a lane", (p) => edits.addLane(p, track, makeLane(pitch)));
  store.getState().takeTrack(track, pitch);
}

export function removeLane(store: SessionStore, track: string, laneId: string): void {
  const state = store.getState();
  const { lanes } = trackOf(state.project, track);
  const at = lanes.findIndex((lane) => lane.id === laneId);
  if (at < 0) return;
  const lane = lanes[at]!;
  const next = lanes[at + 1] ?? lanes[at - 1];
  state.edit(`Remove ${lane.name}`, (p) => edits.removeLane(p, track, laneId));
  store.setState({ selection: new Set() });
  if (next) store.getState().takeTrack(track, next.pitch);
}
