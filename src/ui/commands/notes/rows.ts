import { clamp, nth, must, lastOf } from "@/core/base";
import { pitchName } from "@/core/pitch";
import { trackOf } from "@/core/score";
import {
  WINDOW_HEIGHTS,
  scrolledWindow,
  windowPitches,
  windowShowing,
} from "../../geometry/pitch-window";
import type { SessionStore } from "../../state/store";

/** Scrolls the rows of a melodic track by rows, up where positive. False where they do not move. */
export function scrollRows(store: SessionStore, track: string, rows: number): boolean {
  const { project, allRows, windows, setWindow } = store.getState();
  setWindow(track, (window) => scrolledWindow(window, rows, project.key, allRows));
  return store.getState().windows !== windows;
}

/** Scrolls the rows of the current track by about an octave, and says what is seen then. */
export function scrollOctave(store: SessionStore, way: 1 | -1): void {
  const state = store.getState();
  if (!state.track) return;
  if (trackOf(state.project, state.track).kind !== "melody") {
    state.announce("A kit has no rows to scroll: its lanes are all there");
    return;
  }
  scrollRows(store, state.track, way * (state.allRows ? 12 : 7));
  const { project, allRows, windows } = store.getState();
  const pitches = windowPitches(
    must(windows[state.track], "rows of the track"),
    project.key,
    allRows,
  );
  const [high, low] = [nth(pitches, 0), lastOf(pitches)];
  state.announce(`Rows ${pitchName(low, project.key)} to ${pitchName(high, project.key)}`);
}

/** Scrolls the rows of the current melodic track as little as is needed to show a pitch. */
export function revealPitch(store: SessionStore, pitch: number): void {
  const { project, allRows, track, setWindow } = store.getState();
  if (pitch < 0) return;
  setWindow(track, (window) => windowShowing(window, pitch, project.key, allRows));
}

/** Scrolls the rows of the current melodic track as little as is needed to show notes, the lowest ones at least. */
export function revealNotes(store: SessionStore, notes: readonly { pitch: number }[]): void {
  const { project, track } = store.getState();
  if (notes.length === 0 || trackOf(project, track).kind !== "melody") return;
  const pitches = notes.map(({ pitch }) => pitch);
  revealPitch(store, Math.max(...pitches));
  revealPitch(store, Math.min(...pitches));
}

/** Makes the rows of a melodic track take more room, or less, in pixels; what is on top stays there. */
export function resizeRows(store: SessionStore, track: string, height: number): void {
  const { min, max } = WINDOW_HEIGHTS;
  const held = Math.round(clamp(height, min, max));
  store
    .getState()
    .setWindow(track, (window) => (window.height === held ? window : { ...window, height: held }));
}
