import * as edits from "@/core/edits";
import { LIMITS } from "@/core/score";
import { tempoBeatName, tempoOfTold } from "@/core/time";
import { tappedTempo } from "@/core/perform";
import { currentMetre } from "../../state/current";
import type { SessionStore } from "../../state/store";
import { type Bpm, lastOf } from "@/core/base";

/** After so long without a tap, the next one begins anew. */
const PAUSE_MS = 2000;

/** Taps that go on: when they were, in ms, and the tempo they gave, null before the second. */
interface Tapped {
  times: readonly number[];
  bpm: Bpm | null;
}
const tapped = new WeakMap<SessionStore, Tapped>();

/**
 * A tap along with a beat, at a time in ms: from the second on the tempo is what is tapped. One undo step; once that
 * is undone, or the tempo is another, the next tap begins anew.
 */
export function tapTempo(store: SessionStore, time = performance.now()): void {
  const known = tapped.get(store);
  const { edit, announce, project } = store.getState();
  const goesOn =
    known &&
    time - lastOf(known.times) < PAUSE_MS &&
    (known.bpm === null || known.bpm === project.tempo);
  const metre = currentMetre(store.getState());
  const times = goesOn ? [...known.times, time] : [time];
  const tempo = tappedTempo(times);
  // What is tapped is the felt beat.
  const bpm = tempo && Math.round(tempoOfTold(tempo.bpm, metre) * 100) / 100;
  tapped.set(store, { times, bpm });
  if (!tempo || bpm === null) {
    announce("Tap again, in time with the beat");
    return;
  }
  const beat = tempoBeatName(metre);
  const unit = beat === "quarter" ? "" : ` ${beat}s a minute`;
  const message = `Tempo ${tempo.bpm.toFixed(1)}${unit}, from ${tempo.taps} taps`;
  const group = `tap-tempo-${times[0]}`;
  if (!edit("Tap the tempo", (project) => edits.setTempo(project, bpm), { group, message }))
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
