import * as edits from "@/core/edits";
import { LIMITS } from "@/core/score";
import { tappedTempo } from "@/core/perform";
import type { SessionStore } from "../../state/store";
import { lastOf } from "@/core/base";

/** After so long without a tap, the next one begins anew: one and a half beats of the slowest tempo. */
const PAUSE_MS = (1.5 * 60_000) / LIMITS.tempo.min;

/** When the taps that go on were, in ms. */
const tapped = new WeakMap<SessionStore, readonly number[]>();

/** A tap along with a beat, at a time in ms: from the second on the tempo is what is tapped. One undo step. */
export function tapTempo(store: SessionStore, time = performance.now()): void {
  const known = tapped.get(store);
  const times = known && time - lastOf(known) < PAUSE_MS ? [...known, time] : [time];
  tapped.set(store, times);
  const { edit, announce } = store.getState();
  const tempo = tappedTempo(times);
  if (!tempo) {
    announce("Tap again, in time with the beat");
    return;
  }
  const message = `Tempo ${tempo.bpm.toFixed(1)}, from ${tempo.taps} taps`;
  const group = `tap-tempo-${times[0]}`;
  if (!edit("Tap the tempo", (project) => edits.setTempo(project, tempo.bpm), { group, message }))
    announce(message);
}

/** The tempo halved or doubled, as far as it goes; the notes stay as they are. */
export function scaleTempo(store: SessionStore, factor: 0.5 | 2): void {
  const { project, edit, announce } = store.getState();
  const tempo = project.tempo * factor;
  const { min, max } = LIMITS.tempo;
  if (tempo < min || tempo > max) {
    announce(`The tempo goes from ${min} to ${max}`);
    return;
  }
  const message = `Tempo ${tempo.toFixed(1)}`;
  edit(
    factor < 1 ? "Half the tempo" : "Twice the tempo",
    (project) => edits.setTempo(project, tempo),
    {
      message,
    },
  );
}
