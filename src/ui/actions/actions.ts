import { nanoid } from "nanoid";
import type { Engine } from "@/audio/engine";
import { edits, stepGrid, trackOf, type GridKind } from "@/core";
import type { SessionStore } from "../session/store";
import { toggleTheme } from "../shared/theme";
import * as sheet from "../sheet/editing";

export interface Desk {
  store: SessionStore;
  engine: Engine;
}

/** Something a user can do, with its name, its keys and what it does. One entry adds one. */
export interface Action {
  id: string;
  label: string;
  group: string;
  /** Keys in tinykeys' notation; `$mod` is ctrl or cmd. */
  keys: string[];
  /** How the first key is written for people. */
  shown: string;
  run(desk: Desk): void;
}

/** Groups of actions that work on the track in hand. */
const NEEDS_TRACK = new Set(["Caret", "Select", "Edit", "Transform", "Grid", "Track"]);

const action = (
  group: string,
  id: string,
  label: string,
  keys: string[],
  shown: string,
  run: (desk: Desk) => void,
): Action => ({
  id,
  label,
  group,
  keys,
  shown,
  // A project may have no track yet; then there is nothing for these to work on.
  run: (desk) => {
    if (!NEEDS_TRACK.has(group) || desk.store.getState().track) run(desk);
  },
});

export async function togglePlay({ store, engine }: Desk): Promise<void> {
  if (engine.isPlaying) {
    engine.stop();
    store.setState({ playing: false });
    return;
  }
  store.setState({ playing: true });
  await engine.play(store.getState().pattern);
}

export function stepPattern({ store }: Desk, by: 1 | -1): void {
  const { project, pattern, takePattern } = store.getState();
  const at = project.patterns.findIndex((p) => p.id === pattern);
  const next = project.patterns[(at + by + project.patterns.length) % project.patterns.length]!;
  takePattern(next.id);
}

/** Adds a pattern after the others, a copy of the one in hand or empty, and takes it in hand. */
export function addPattern({ store }: Desk, copy: boolean): void {
  const id = nanoid(8);
  const state = store.getState();
  state.edit(copy ? "Duplicate the pattern" : "Add a pattern", (p) =>
    edits.addPattern(p, id, state.pattern, copy),
  );
  store.getState().takePattern(id);
}

function toggleInHand({ store }: Desk, what: "mute" | "solo"): void {
  const state = store.getState();
  if (!state.track) return;
  const track = trackOf(state.project, state.track);
  const lane = track.lanes.find((l) => l.pitch === state.caret.pitch);
  const label = what === "mute" ? "Mute" : "Solo";
  state.edit(label, (p) =>
    lane
      ? edits.changeLane(p, track.id, lane.id, { [what]: !lane[what] })
      : edits.changeTrack(p, track.id, { [what]: !track[what] }),
  );
}

const toggleKind = (kind: GridKind) => (desk: Desk) =>
  sheet.changeGrid(desk.store, (g) => ({ ...g, kind: g.kind === kind ? "straight" : kind }));

function zoom({ store }: Desk, factor: number): void {
  const state = store.getState();
  // Without a zoom of its own the sheet fits; the first step starts from about two bars in view.
  const from = state.zoom ?? 0.1;
  store.setState({ zoom: Math.min(0.8, Math.max(0.004, from * factor)) });
}

function hearCaret({ store, engine }: Desk): void {
  const state = store.getState();
  const note = sheet.toggleAtCaret(store);
  if (note && !state.playing) void engine.audition(state.track, note.pitch, note.velocity);
}

function leave({ store }: Desk): void {
  const state = store.getState();
  if (state.trial) store.setState({ trial: null });
  else store.setState({ selection: new Set(), erasing: false });
}

function octave(desk: Desk, by: number): void {
  sheet.transposeChosen(desk.store, by);
}

export const ACTIONS: readonly Action[] = [
  action("Play", "play", "Play or stop", ["Space"], "space", (d) => void togglePlay(d)),
  action("History", "undo", "Undo", ["$mod+z"], "ctrl Z", (d) => d.store.getState().undo()),
  action("History", "redo", "Redo", ["$mod+Shift+Z", "$mod+y"], "ctrl shift Z", (d) =>
    d.store.getState().redo(),
  ),
  action("Caret", "left", "Caret to the step before", ["ArrowLeft"], "←", (d) =>
    sheet.moveCaret(d.store, -1, 0),
  ),
  action("Caret", "right", "Caret to the next step", ["ArrowRight"], "→", (d) =>
    sheet.moveCaret(d.store, 1, 0),
  ),
  action("Caret", "up", "Caret a row up", ["ArrowUp"], "↑", (d) => sheet.moveCaret(d.store, 0, -1)),
  action("Caret", "down", "Caret a row down", ["ArrowDown"], "↓", (d) =>
    sheet.moveCaret(d.store, 0, 1),
  ),
  action("Caret", "put", "Put or take away at the caret", ["Enter"], "enter", hearCaret),
  action("Select", "next", "Next note", ["n"], "N", (d) => sheet.walk(d.store, 1)),
  action("Select", "previous", "Note before", ["b"], "B", (d) => sheet.walk(d.store, -1)),
  action("Select", "all", "Select the lane, then the part", ["$mod+a"], "ctrl A", (d) =>
    sheet.selectAll(d.store),
  ),
  action("View", "none", "Select nothing, leave a trial", ["Escape"], "esc", leave),
  action("Edit", "remove", "Take the selection away", ["Delete", "Backspace"], "del", (d) =>
    sheet.removeChosen(d.store),
  ),
  action("Edit", "erase", "Eraser on or off", ["e"], "E", ({ store }) =>
    store.setState({ erasing: !store.getState().erasing }),
  ),
  action("Edit", "earlier", "A step earlier", ["Shift+ArrowLeft"], "shift ←", (d) =>
    sheet.moveChosen(d.store, -1, 0),
  ),
  action("Edit", "later", "A step later", ["Shift+ArrowRight"], "shift →", (d) =>
    sheet.moveChosen(d.store, 1, 0),
  ),
  action("Edit", "higher", "A degree up", ["Shift+ArrowUp"], "shift ↑", (d) =>
    sheet.moveChosen(d.store, 0, 1),
  ),
  action("Edit", "lower", "A degree down", ["Shift+ArrowDown"], "shift ↓", (d) =>
    sheet.moveChosen(d.store, 0, -1),
  ),
  action("Edit", "nudge-early", "Nudge a tick early", ["Alt+ArrowLeft"], "alt ←", (d) =>
    sheet.nudgeChosen(d.store, -1),
  ),
  action("Edit", "nudge-late", "Nudge a tick late", ["Alt+ArrowRight"], "alt →", (d) =>
    sheet.nudgeChosen(d.store, 1),
  ),
  action("Edit", "louder", "Louder", ["Alt+ArrowUp"], "alt ↑", (d) =>
    sheet.changeVelocity(d.store, 4),
  ),
  action("Edit", "softer", "Softer", ["Alt+ArrowDown"], "alt ↓", (d) =>
    sheet.changeVelocity(d.store, -4),
  ),
  action("Edit", "longer", "A step longer", ["l"], "L", (d) => sheet.lengthenChosen(d.store, 1)),
  action("Edit", "shorter", "A step shorter", ["k"], "K", (d) => sheet.lengthenChosen(d.store, -1)),
  action("Edit", "semitone-up", "A semitone up", ["$mod+ArrowUp"], "ctrl ↑", (d) => octave(d, 1)),
  action("Edit", "semitone-down", "A semitone down", ["$mod+ArrowDown"], "ctrl ↓", (d) =>
    octave(d, -1),
  ),
  action("Edit", "octave-up", "An octave up", ["PageUp"], "page up", (d) => octave(d, 12)),
  action("Edit", "octave-down", "An octave down", ["PageDown"], "page down", (d) => octave(d, -12)),
  action("Transform", "snap", "Snap the selection to the scale", ["a"], "A", (d) =>
    sheet.transformChosen(d.store, "snap-to-scale", {}, "Snap to scale"),
  ),
  action("Transform", "humanize", "Humanize the selection", ["h"], "H", (d) =>
    sheet.transformChosen(
      d.store,
      "humanize",
      { seed: Math.floor(Math.random() * 10000) },
      "Humanize",
    ),
  ),
  ...[2, 3, 4, 5, 6, 7, 8].map((n) =>
    action("Transform", `roll-${n}`, `Roll in ${n}`, [`${n}`], `${n}`, (d) =>
      sheet.rollChosen(d.store, n),
    ),
  ),
  action("Transform", "reverse", "Reverse the selection", ["r"], "R", (d) =>
    sheet.transformChosen(d.store, "reverse", {}, "Reverse"),
  ),
  action("Transform", "quantize", "Quantize the selection", ["q"], "Q", (d) =>
    sheet.transformChosen(d.store, "quantize", {}, "Quantize"),
  ),
  action("Grid", "coarser", "Coarser grid", ["["], "[", (d) => stepGridOf(d, -1)),
  action("Grid", "finer", "Finer grid", ["]"], "]", (d) => stepGridOf(d, 1)),
  action("Grid", "triplet", "Triplet grid on or off", ["t"], "T", toggleKind("triplet")),
  action("Grid", "dotted", "Dotted grid on or off", ["d"], "D", toggleKind("dotted")),
  action("Track", "mute", "Mute the lane or track in hand", ["m"], "M", (d) =>
    toggleInHand(d, "mute"),
  ),
  action("Track", "solo", "Solo the lane or track in hand", ["s"], "S", (d) =>
    toggleInHand(d, "solo"),
  ),
  action("Pattern", "next-pattern", "Next pattern", ["."], ".", (d) => stepPattern(d, 1)),
  action("Pattern", "previous-pattern", "Pattern before", [","], ",", (d) => stepPattern(d, -1)),
  action("Pattern", "duplicate-pattern", "Duplicate the pattern", ["Shift+D"], "shift D", (d) =>
    addPattern(d, true),
  ),
  action("View", "zoom-in", "Zoom in", ["+", "="], "+", (d) => zoom(d, 1.4)),
  action("View", "zoom-out", "Zoom out", ["-"], "−", (d) => zoom(d, 1 / 1.4)),
  action("View", "fit", "Fit the pattern", ["0"], "0", ({ store }) =>
    store.setState({ zoom: null, scroll: 0 }),
  ),
  action("View", "theme", "Light or dark", [], "", () => toggleTheme()),
  ...(["transform", "generate", "sound", "measure"] as const).map((bench, i) =>
    action(
      "View",
      `bench-${bench}`,
      `Bench: ${bench}`,
      [`Alt+Digit${i + 1}`],
      `alt ${i + 1}`,
      ({ store }) => store.setState({ bench }),
    ),
  ),
];

function stepGridOf(desk: Desk, by: 1 | -1): void {
  sheet.changeGrid(desk.store, (g) => stepGrid(g, by));
}
