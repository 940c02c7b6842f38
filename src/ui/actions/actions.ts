import { nanoid } from "nanoid";
import { beatTicks, edits, patternTicks, stepGrid, trackOf, type GridKind } from "@/core";
import type { Session } from "../session/store";
import { toggleTheme } from "../controls/theme";
import * as clipboard from "../commands/clipboard";
import * as sheet from "../sheet/editing";
import * as lane from "../sheet/lane-edits";
import { leaveIdea } from "../commands/ideas";
import { transformNow } from "../commands/transforming";
import { action, type Action, type Desk } from "./action";
import { MELODY_ACTIONS } from "./melody-actions";
import { MAX_ZOOM, MIN_ZOOM, PAD, fitZoom, maxScroll } from "../geometry/view";
import { LINED_UP, lineUp, togglePin, userGrids, type LinedUp } from "../saving/user";

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
  const own = track.lanes.find((l) => l.pitch === state.caret.pitch);
  const label = what === "mute" ? "Mute" : "Solo";
  state.edit(label, (p) =>
    own
      ? edits.changeLane(p, track.id, own.id, { [what]: !own[what] })
      : edits.changeTrack(p, track.id, { [what]: !track[what] }),
  );
}

const toggleKind = (kind: GridKind) => (desk: Desk) =>
  sheet.changeGrid(desk.store, (g) => ({ ...g, kind: g.kind === kind ? "straight" : kind }));

/** What is seen of time: its width in pixels, ticks in all, pixels per tick. */
function timeInView({ store }: Desk) {
  const { zoom: chosen, project, pattern, sheetWidth: width } = store.getState();
  const total = patternTicks(
    project,
    project.patterns.find((p) => p.id === pattern)!,
  );
  return { width, total, zoom: chosen ?? fitZoom(width, total, project.metre) };
}

function show(desk: Desk, zoom: number, left: number): void {
  const { width, total } = timeInView(desk);
  const held = Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, zoom));
  const most = maxScroll(width, held, total);
  desk.store.setState({ zoom: held, scroll: Math.min(most, Math.max(0, left)) });
}

/** Zooms in time; the caret stays where it is on the screen. */
function zoom(desk: Desk, factor: number): void {
  const { caret, scroll } = desk.store.getState();
  const from = timeInView(desk).zoom;
  const next = Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, from * factor));
  show(desk, next, caret.tick - ((caret.tick - scroll) * from) / next);
}

/** As many bars as stay readable; when that is so already, all of them. */
function fit(desk: Desk): void {
  const { width, total } = timeInView(desk);
  if (desk.store.getState().zoom === null) show(desk, (width - 2 * PAD) / total, 0);
  else desk.store.setState({ zoom: null, scroll: 0 });
}

/** The beat of the caret, as wide as the sheet. */
function oneBeat(desk: Desk): void {
  const { caret, project } = desk.store.getState();
  const beat = beatTicks(project.metre);
  const { width } = timeInView(desk);
  show(desk, (width - 2 * PAD) / beat, Math.floor(caret.tick / beat) * beat);
}

function scrollBy(desk: Desk, views: number): void {
  const { width, zoom: now } = timeInView(desk);
  show(desk, now, desk.store.getState().scroll + (views * width) / now);
}

function hearCaret({ store, engine }: Desk): void {
  const state = store.getState();
  const note = sheet.toggleAtCaret(store);
  if (note && !state.playing) void engine.audition(state.track, note.pitch, note.velocity);
}

function leave({ store }: Desk): void {
  const state = store.getState();
  if (state.trial) leaveIdea(store);
  else store.setState({ selection: new Set(), erasing: false });
}

/** Transposes by semitones (melody) or tunes (drums). */
function semitones(desk: Desk, by: number): void {
  transformNow(desk.store, "transpose", { semitones: by }, "Transpose", "chosen", "key-transpose");
}

function pasteAtPlayhead({ store, engine }: Desk): void {
  const at = engine.position();
  const state = store.getState();
  const pattern = state.project.patterns.find((p) => p.id === state.pattern)!;
  const total = patternTicks(state.project, pattern);
  if (at?.pattern === state.pattern) clipboard.paste(store, at.tick % total);
  else clipboard.paste(store);
}

/** The grids one key away for the row in hand. */
export function linedUp(state: Session): LinedUp[] {
  const used = state.project.tracks.flatMap((track) => track.lanes.map((l) => l.grid));
  return lineUp(userGrids(), used);
}

function takeLinedUp({ store }: Desk, index: number): void {
  const found = linedUp(store.getState())[index];
  if (found) sheet.changeGrid(store, () => found.grid);
}

function pinGrid({ store }: Desk): void {
  const row = sheet.rowInHand(store.getState());
  if (row) togglePin(row.grid);
}

/** Puts the keyboard into a field of the page by its name. */
function focusField(label: string): void {
  const field = document.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`);
  field?.focus();
  field?.select();
}

export type { Action, Desk };

export const ACTIONS: readonly Action[] = [
  action("Play", "play", "Play or stop", ["Space"], "space", (d) => void togglePlay(d)),
  action("History", "undo", "Undo", ["$mod+z"], "ctrl Z", (d) => d.store.getState().undo()),
  action("History", "redo", "Redo", ["$mod+Shift+Z", "$mod+y"], "ctrl shift Z", (d) =>
    d.store.getState().redo(),
  ),
  action("View", "history", "What was done", ["Shift+H"], "shift H", ({ store }) =>
    store.setState({ historyOpen: !store.getState().historyOpen }),
  ),
  ...(["velocity", "tune", "pan"] as const).map((profile) =>
    action("View", `profile-${profile}`, `Profile: ${profile}`, [], "", ({ store }) =>
      store.setState({ profile }),
    ),
  ),
  action("Caret", "left", "Caret to the step before", ["ArrowLeft"], "←", (d) =>
    d.store.getState().walking ? sheet.walk(d.store, -1) : sheet.moveCaret(d.store, -1, 0),
  ),
  action("Caret", "right", "Caret to the next step", ["ArrowRight"], "→", (d) =>
    d.store.getState().walking ? sheet.walk(d.store, 1) : sheet.moveCaret(d.store, 1, 0),
  ),
  action("Caret", "up", "Caret a row up", ["ArrowUp"], "↑", (d) =>
    d.store.getState().walking ? sheet.walkAcross(d.store, 1) : sheet.moveCaret(d.store, 0, -1),
  ),
  action("Caret", "down", "Caret a row down", ["ArrowDown"], "↓", (d) =>
    d.store.getState().walking ? sheet.walkAcross(d.store, -1) : sheet.moveCaret(d.store, 0, 1),
  ),
  action("Caret", "put", "Put or take away at the caret", ["Enter"], "enter", hearCaret),
  action("Select", "next", "Next note", ["n"], "N", (d) => sheet.walk(d.store, 1)),
  action("Select", "previous", "Note before", ["b"], "B", (d) => sheet.walk(d.store, -1)),
  action("Select", "all", "Select the lane, then the part", ["$mod+a"], "ctrl A", (d) =>
    sheet.selectAll(d.store),
  ),
  action("Select", "column", "Select the step in all lanes", ["c"], "C", (d) =>
    lane.selectStretch(d.store, "column"),
  ),
  action("Select", "bar", "Select the bar", ["Shift+B"], "shift B", (d) =>
    lane.selectStretch(d.store, "bar"),
  ),
  action("Select", "lane", "Select the lane as a whole", ["Shift+C"], "shift C", (d) =>
    lane.selectStretch(d.store, "lane"),
  ),
  action("Select", "off-grid", "Next hit off its grid", ["o"], "O", (d) =>
    lane.walkOffGrid(d.store, 1),
  ),
  action(
    "Select",
    "off-grid-before",
    "Hit before that is off its grid",
    ["Shift+O"],
    "shift O",
    (d) => lane.walkOffGrid(d.store, -1),
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
    sheet.nudgeChosen(d.store, { ticks: -1 }),
  ),
  action("Edit", "nudge-late", "Nudge a tick late", ["Alt+ArrowRight"], "alt →", (d) =>
    sheet.nudgeChosen(d.store, { ticks: 1 }),
  ),
  ...([1, 5] as const).flatMap((ms) =>
    ([-1, 1] as const).map((way) => {
      const [arrow, sign, word] = way < 0 ? ["Left", "←", "early"] : ["Right", "→", "late"];
      const mod = ms === 1 ? "Shift" : "$mod";
      return action(
        "Edit",
        `nudge-${word}-${ms}`,
        `Nudge ${ms} ms ${word}`,
        [`Alt+${mod}+Arrow${arrow}`],
        `alt ${ms === 1 ? "shift" : "ctrl"} ${sign}`,
        (d) => sheet.nudgeChosen(d.store, { ms: ms * way }),
      );
    }),
  ),
  action("Edit", "line-before", "To the line before", ["$mod+ArrowLeft"], "ctrl ←", (d) =>
    sheet.moveToLine(d.store, -1),
  ),
  action("Edit", "line-after", "To the line after", ["$mod+ArrowRight"], "ctrl →", (d) =>
    sheet.moveToLine(d.store, 1),
  ),
  action(
    "Edit",
    "turn-early",
    "Shift round the loop, earlier",
    ["$mod+Shift+ArrowLeft"],
    "ctrl shift ←",
    (d) => lane.rotateLane(d.store, -1),
  ),
  action(
    "Edit",
    "turn-late",
    "Shift round the loop, later",
    ["$mod+Shift+ArrowRight"],
    "ctrl shift →",
    (d) => lane.rotateLane(d.store, 1),
  ),
  action("Edit", "copy", "Copy", ["$mod+c"], "ctrl C", (d) => clipboard.copy(d.store)),
  action("Edit", "cut", "Cut", ["$mod+x"], "ctrl X", (d) => clipboard.cut(d.store)),
  action("Edit", "paste", "Paste at the caret", ["$mod+v"], "ctrl V", (d) =>
    clipboard.paste(d.store),
  ),
  action(
    "Edit",
    "paste-playhead",
    "Paste at the playhead",
    ["$mod+Shift+V"],
    "ctrl shift V",
    pasteAtPlayhead,
  ),
  action("Edit", "duplicate", "Duplicate after itself", ["$mod+d"], "ctrl D", (d) =>
    clipboard.duplicate(d.store),
  ),
  action("Edit", "double-loop", "Double the loop", ["Shift+L"], "shift L", (d) =>
    lane.doubleLoop(d.store),
  ),
  action("Edit", "copy-bar-on", "Copy the bar onto the next", ["Shift+N"], "shift N", (d) =>
    lane.copyBarOn(d.store),
  ),
  action("Edit", "ghost", "Ghost hit at the caret", ["g"], "G", (d) => lane.ghostAtCaret(d.store)),
  action("Edit", "louder", "Louder", ["Alt+ArrowUp"], "alt ↑", (d) =>
    sheet.changeVelocity(d.store, 4),
  ),
  action("Edit", "softer", "Softer", ["Alt+ArrowDown"], "alt ↓", (d) =>
    sheet.changeVelocity(d.store, -4),
  ),
  action("Edit", "longer", "A step longer", ["l"], "L", (d) => sheet.lengthenChosen(d.store, 1)),
  action("Edit", "shorter", "A step shorter", ["k"], "K", (d) => sheet.lengthenChosen(d.store, -1)),
  action("Edit", "semitone-up", "A semitone up", ["$mod+ArrowUp"], "ctrl ↑", (d) =>
    semitones(d, 1),
  ),
  action("Edit", "semitone-down", "A semitone down", ["$mod+ArrowDown"], "ctrl ↓", (d) =>
    semitones(d, -1),
  ),
  action("Edit", "octave-up", "An octave up", ["PageUp"], "page up", (d) => semitones(d, 12)),
  action("Edit", "octave-down", "An octave down", ["PageDown"], "page down", (d) =>
    semitones(d, -12),
  ),
  action("Transform", "snap", "Snap the selection to the scale", ["a"], "A", (d) =>
    transformNow(d.store, "snap-to-scale", {}, "Snap to scale"),
  ),
  action("Transform", "humanize", "Humanize the selection", ["h"], "H", (d) =>
    transformNow(d.store, "humanize", { seed: Math.floor(Math.random() * 10000) }, "Humanize"),
  ),
  ...[2, 3, 4, 5, 6, 7, 8].map((n) =>
    action("Transform", `roll-${n}`, `Roll in ${n}`, [`${n}`], `${n}`, (d) =>
      transformNow(d.store, "roll", { count: n }, `Roll in ${n}`),
    ),
  ),
  action("Transform", "reverse", "Reverse the selection", ["r"], "R", (d) =>
    transformNow(d.store, "reverse", {}, "Reverse"),
  ),
  action("Transform", "quantize", "Quantize the selection", ["q"], "Q", (d) =>
    transformNow(d.store, "quantize", {}, "Quantize"),
  ),
  action("Transform", "roll-n", "Roll in any number", ["Shift+R"], "shift R", () =>
    focusField("Cut into"),
  ),
  action("Transform", "fill", "Fill the lane, with a card to turn", ["f"], "F", (d) =>
    lane.addFillCard(d.store),
  ),
  ...[2, 4, 8].map((n) =>
    action("Transform", `fill-${n}`, `Fill every ${n}${n === 2 ? "nd" : "th"} step`, [], "", (d) =>
      transformNow(d.store, "fill", { every: n }, `Fill every ${n}`, "lane"),
    ),
  ),
  action("Transform", "ramp", "Velocity ramp from first to last", ["v"], "V", (d) =>
    lane.rampBetween(d.store),
  ),
  action("Transform", "level", "Level velocities by half", ["Shift+V"], "shift V", (d) =>
    transformNow(d.store, "velocity", { way: "level" }, "Level", "lane"),
  ),
  action("Transform", "accent", "Accent the first beats", ["Shift+A"], "shift A", (d) =>
    transformNow(d.store, "velocity", { way: "accent", beats: "1" }, "Accent", "lane"),
  ),
  action("Transform", "accent-back", "Accent beats 2 and 4", [], "", (d) =>
    transformNow(d.store, "velocity", { way: "accent", beats: "2 4" }, "Accent", "lane"),
  ),
  action("Transform", "pan", "Alternate pan", ["x"], "X", (d) =>
    transformNow(d.store, "alternate-pan", {}, "Alternate pan", "lane"),
  ),
  action("Transform", "thin", "Thin by chance, beats kept", ["Shift+T"], "shift T", (d) =>
    transformNow(d.store, "thin", { seed: Math.floor(Math.random() * 10000) }, "Thin", "lane"),
  ),
  ...Array.from({ length: LINED_UP }, (_, i) =>
    action(
      "Grid",
      `lined-up-${i + 1}`,
      `Grid ${i + 1} of those used lately`,
      [`Shift+Digit${i + 1}`],
      `shift ${i + 1}`,
      (d) => takeLinedUp(d, i),
    ),
  ),
  action("Grid", "pin", "Pin this grid, or take the pin out", ["Shift+P"], "shift P", pinGrid),
  action("Grid", "grid-off", "Grid off or on", ["Shift+G"], "shift G", toggleKind("off")),
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
  action("Track", "lane-up", "Lane up", ["$mod+Shift+ArrowUp"], "ctrl shift ↑", (d) =>
    lane.moveLaneInHand(d.store, -1),
  ),
  action("Track", "lane-down", "Lane down", ["$mod+Shift+ArrowDown"], "ctrl shift ↓", (d) =>
    lane.moveLaneInHand(d.store, 1),
  ),
  action("Track", "track-up", "Track up", ["Alt+Shift+ArrowUp"], "alt shift ↑", (d) =>
    lane.moveTrackInHand(d.store, -1),
  ),
  action("Track", "track-down", "Track down", ["Alt+Shift+ArrowDown"], "alt shift ↓", (d) =>
    lane.moveTrackInHand(d.store, 1),
  ),
  action("Track", "rename-lane", "Rename the lane", ["F2"], "F2", () =>
    // The lane's own menu begins with its name.
    document.querySelector<HTMLElement>("[data-in-hand] [aria-expanded]")?.click(),
  ),
  action("Track", "pad", "Shape the pad in hand", ["p"], "P", ({ store }) => {
    store.setState({ bench: "sound" });
    setTimeout(() => focusField("Pitch of the pad"), 60);
  }),
  action("Track", "next-kit", "Next kit", ["Shift+K"], "shift K", (d) => lane.stepKit(d.store, 1)),
  action("Track", "previous-kit", "Kit before", ["Shift+J"], "shift J", (d) =>
    lane.stepKit(d.store, -1),
  ),
  action("Pattern", "next-pattern", "Next pattern", ["."], ".", (d) => stepPattern(d, 1)),
  action("Pattern", "previous-pattern", "Pattern before", [","], ",", (d) => stepPattern(d, -1)),
  action("Pattern", "duplicate-pattern", "Duplicate the pattern", ["Shift+D"], "shift D", (d) =>
    addPattern(d, true),
  ),
  action("View", "zoom-in", "Zoom in", ["+", "="], "+", (d) => zoom(d, 1.4)),
  action("View", "zoom-out", "Zoom out", ["-"], "−", (d) => zoom(d, 1 / 1.4)),
  action("View", "fit", "Fit the pattern; again for all bars", ["0"], "0", fit),
  action("View", "beat", "One beat in view", ["9"], "9", oneBeat),
  action("View", "scroll-back", "Half a view back", ["Shift+PageUp"], "shift page up", (d) =>
    scrollBy(d, -0.5),
  ),
  action("View", "scroll-on", "Half a view on", ["Shift+PageDown"], "shift page down", (d) =>
    scrollBy(d, 0.5),
  ),
  action("Caret", "home", "Caret to the beginning", ["Home"], "home", (d) =>
    sheet.caretTo(d.store, "start"),
  ),
  action("Caret", "end", "Caret to the last step", ["End"], "end", (d) =>
    sheet.caretTo(d.store, "end"),
  ),
  ...MELODY_ACTIONS,
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
