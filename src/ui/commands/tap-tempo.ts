import { LIMITS, edits, tappedTempo } from "@/core";
import type { SessionStore } from "../session/store";

/** After so long without a tap, the next one begins anew: three beats of the slowest tempo. */
const PAUSE_MS = (3 * 60_000) / LIMITS.tempo.min / 2;

const tapped = new WeakMap<SessionStore, { times: number[]; series: number }>();

/** A tap along with a beat, at a time in ms: from the second on the tempo is what is tapped. One undo step. */
export function tapTempo(store: SessionStore, time = performance.now()): void {
  const known = tapped.get(store);
  const goesOn = known && time - known.times.at(-1)! < PAUSE_MS;
  const times = goesOn ? [...known.times, time] : [time];
  const series = goesOn ? known.series : (known?.series ?? 0) + 1;
  tapped.set(store, { times, series });
  const { edit, say } = store.getState();
  const tempo = tappedTempo(times);
  if (!tempo) {
    say("Tap again, in time with the beat");
    return;
  }
  const said = `Tempo ${tempo.bpm.toFixed(1)}, from ${tempo.taps} taps`;
  const group = `tap-tempo-${series}`;
  if (!edit("Tap the tempo", (p) => edits.setTempo(p, tempo.bpm), { group, said })) say(said);
}

/** The tempo halved or doubled, as far as it goes; the notes stay as they are. */
export function scaleTempo(store: SessionStore, factor: 0.5 | 2): void {
  const { project, edit, say } = store.getState();
  const tempo = project.tempo * factor;
  const { min, max } = LIMITS.tempo;
  if (tempo < min || tempo > max) {
    say(`The tempo goes from ${min} to ${max}`);
    return;
  }
  const said = `Tempo ${tempo.toFixed(1)}`;
  edit(factor < 1 ? "Half the tempo" : "Twice the tempo", (p) => edits.setTempo(p, tempo), {
    said,
  });
}
