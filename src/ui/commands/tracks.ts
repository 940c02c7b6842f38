import type { Desk } from "../session/desk";
import { kitOf, KITS } from "@/audio/kits/registry";
import { edits, trackOf } from "@/core";
import { nanoid } from "nanoid";
import type { SessionStore } from "../session/store";
/** The next kit of all, with the same hits. */
export function stepKit(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const track = trackOf(state.project, state.track);
  if (track.kind !== "drums") return;
  const at = KITS.indexOf(kitOf(track.sound));
  const kit = KITS[(at + by + KITS.length) % KITS.length]!;
  state.edit("Kit", (p) => edits.changeTrack(p, track.id, { sound: kit.id }), "key-kit");
  store.setState({ said: kit.label });
}

/** Moves the track in hand up or down. */
export function moveTrackInHand(store: SessionStore, by: 1 | -1): void {
  const state = store.getState();
  const at = state.project.tracks.findIndex((track) => track.id === state.track);
  state.edit("Move track", (p) => edits.moveTrack(p, state.track, at + by), "key-track");
}

/** Puts what a track plays in the pattern in hand onto another, in place of what it had there. */
export function copyPartTo(store: SessionStore, from: string, to: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, to);
  state.edit(`Copy the part to ${name}`, (p) =>
    edits.copyPart(p, { pattern: state.pattern, track: from }, to, () => nanoid(8)),
  );
  store.setState({ selection: new Set(), said: `${name} plays it too` });
}

/** Puts what another track plays into a track's part and empties the other. */
export function joinPartFrom(store: SessionStore, into: string, from: string): void {
  const state = store.getState();
  const { name } = trackOf(state.project, from);
  state.edit(`Join the part of ${name}`, (p) =>
    edits.joinParts(p, { pattern: state.pattern, track: into }, [from], () => nanoid(8)),
  );
  store.setState({ selection: new Set(), said: `${name} is joined into it` });
}

export function toggleInHand({ store }: Desk, what: "mute" | "solo"): void {
  const state = store.getState();
  if (!state.track) return;
  const track = trackOf(state.project, state.track);
  const own = track.lanes.find((l) => l.pitch === state.caret.pitch);
  const label = what === "mute" ? "Mute" : "Solo";
  state.edit(label, (p) =>
    own
      ? edits.changeLane(p, track.id, own.id, { [what]: !own[what] })
      : edits.changeTrack(p, track.id, { [what]: !track[what] }),
  );
}
