import { caretTo, ghostAtCaret, hearCaret, moveCaret } from "../commands/caret";
import * as clipboard from "../commands/clipboard";
import { pasteAtPlayhead } from "../commands/clipboard";
import { pinGrid, stepGridOf, takeLinedUp, toggleKind } from "../commands/grids";
import { leaveIdea } from "../commands/ideas";
import { addFillCard, moveLaneInHand, rotateLane } from "../commands/lanes";
import { copyBarOn, doubleLoop } from "../commands/loops";
import { addPattern, stepPattern } from "../commands/patterns";
import { togglePlay } from "../commands/play";
import {
  changeVelocity,
  lengthenChosen,
  moveChosen,
  moveToLine,
  nudgeChosen,
  rampBetween,
  removeChosen,
} from "../commands/selected";
import { selectAll, selectStretch } from "../commands/selectors";
import { fit, oneBeat, scrollBy, zoom } from "../commands/time";
import { moveTrackInHand, stepKit, toggleInHand } from "../commands/tracks";
import { transformNow } from "../commands/transforming";
import { walk, walkAcross, walkOffGrid } from "../commands/walking";
import { toggleTheme } from "../controls/theme";
import { LINED_UP } from "../saving/user";
import type { Desk } from "../session/desk";
import { action, type Action } from "./action";
import { MELODY_ACTIONS } from "./melody-actions";

function leave({ store }: Desk): void {
  const state = store.getState();
  if (state.trial) leaveIdea(store);
  else store.setState({ selection: new Set(), erasing: false });
}

/** Transposes by semitones (melody) or tunes (drums). */
function semitones(desk: Desk, by: number): void {
  transformNow(desk.store, "transpose", { semitones: by }, "Transpose", "chosen", "key-transpose");
}

/** Puts the keyboard into a field of the page by its name. */
function focusField(label: string): void {
  const field = document.querySelector<HTMLInputElement>(`input[aria-label="${label}"]`);
  field?.focus();
  field?.select();
}

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
    d.store.getState().walking ? walk(d.store, -1) : moveCaret(d.store, -1, 0),
  ),
  action("Caret", "right", "Caret to the next step", ["ArrowRight"], "→", (d) =>
    d.store.getState().walking ? walk(d.store, 1) : moveCaret(d.store, 1, 0),
  ),
  action("Caret", "up", "Caret a row up", ["ArrowUp"], "↑", (d) =>
    d.store.getState().walking ? walkAcross(d.store, 1) : moveCaret(d.store, 0, -1),
  ),
  action("Caret", "down", "Caret a row down", ["ArrowDown"], "↓", (d) =>
    d.store.getState().walking ? walkAcross(d.store, -1) : moveCaret(d.store, 0, 1),
  ),
  action("Caret", "put", "Put or take away at the caret", ["Enter"], "enter", hearCaret),
  action("Select", "next", "Next note", ["n"], "N", (d) => walk(d.store, 1)),
  action("Select", "previous", "Note before", ["b"], "B", (d) => walk(d.store, -1)),
  action("Select", "all", "Select the lane, then the part", ["$mod+a"], "ctrl A", (d) =>
    selectAll(d.store),
  ),
  action("Select", "column", "Select the step in all lanes", ["c"], "C", (d) =>
    selectStretch(d.store, "column"),
  ),
  action("Select", "bar", "Select the bar", ["Shift+B"], "shift B", (d) =>
    selectStretch(d.store, "bar"),
  ),
  action("Select", "lane", "Select the lane as a whole", ["Shift+C"], "shift C", (d) =>
    selectStretch(d.store, "lane"),
  ),
  action("Select", "off-grid", "Next hit off its grid", ["o"], "O", (d) => walkOffGrid(d.store, 1)),
  action(
    "Select",
    "off-grid-before",
    "Hit before that is off its grid",
    ["Shift+O"],
    "shift O",
    (d) => walkOffGrid(d.store, -1),
  ),
  action("View", "none", "Select nothing, leave a trial", ["Escape"], "esc", leave),
  action("Edit", "remove", "Take the selection away", ["Delete", "Backspace"], "del", (d) =>
    removeChosen(d.store),
  ),
  action("Edit", "erase", "Eraser on or off", ["e"], "E", ({ store }) =>
    store.setState({ erasing: !store.getState().erasing }),
  ),
  action("Edit", "earlier", "A step earlier", ["Shift+ArrowLeft"], "shift ←", (d) =>
    moveChosen(d.store, -1, 0),
  ),
  action("Edit", "later", "A step later", ["Shift+ArrowRight"], "shift →", (d) =>
    moveChosen(d.store, 1, 0),
  ),
  action("Edit", "higher", "A degree up", ["Shift+ArrowUp"], "shift ↑", (d) =>
    moveChosen(d.store, 0, 1),
  ),
  action("Edit", "lower", "A degree down", ["Shift+ArrowDown"], "shift ↓", (d) =>
    moveChosen(d.store, 0, -1),
  ),
  action("Edit", "nudge-early", "Nudge a tick early", ["Alt+ArrowLeft"], "alt ←", (d) =>
    nudgeChosen(d.store, { ticks: -1 }),
  ),
  action("Edit", "nudge-late", "Nudge a tick late", ["Alt+ArrowRight"], "alt →", (d) =>
    nudgeChosen(d.store, { ticks: 1 }),
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
        (d) => nudgeChosen(d.store, { ms: ms * way }),
      );
    }),
  ),
  action("Edit", "line-before", "To the line before", ["$mod+ArrowLeft"], "ctrl ←", (d) =>
    moveToLine(d.store, -1),
  ),
  action("Edit", "line-after", "To the line after", ["$mod+ArrowRight"], "ctrl →", (d) =>
    moveToLine(d.store, 1),
  ),
  action(
    "Edit",
    "turn-early",
    "Shift round the loop, earlier",
    ["$mod+Shift+ArrowLeft"],
    "ctrl shift ←",
    (d) => rotateLane(d.store, -1),
  ),
  action(
    "Edit",
    "turn-late",
    "Shift round the loop, later",
    ["$mod+Shift+ArrowRight"],
    "ctrl shift →",
    (d) => rotateLane(d.store, 1),
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
    doubleLoop(d.store),
  ),
  action("Edit", "copy-bar-on", "Copy the bar onto the next", ["Shift+N"], "shift N", (d) =>
    copyBarOn(d.store),
  ),
  action("Edit", "ghost", "Ghost hit at the caret", ["g"], "G", (d) => ghostAtCaret(d.store)),
  action("Edit", "louder", "Louder", ["Alt+ArrowUp"], "alt ↑", (d) => changeVelocity(d.store, 4)),
  action("Edit", "softer", "Softer", ["Alt+ArrowDown"], "alt ↓", (d) =>
    changeVelocity(d.store, -4),
  ),
  action("Edit", "longer", "A step longer", ["l"], "L", (d) => lengthenChosen(d.store, 1)),
  action("Edit", "shorter", "A step shorter", ["k"], "K", (d) => lengthenChosen(d.store, -1)),
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
    addFillCard(d.store),
  ),
  ...[2, 4, 8].map((n) =>
    action("Transform", `fill-${n}`, `Fill every ${n}${n === 2 ? "nd" : "th"} step`, [], "", (d) =>
      transformNow(d.store, "fill", { every: n }, `Fill every ${n}`, "lane"),
    ),
  ),
  action("Transform", "ramp", "Velocity ramp from first to last", ["v"], "V", (d) =>
    rampBetween(d.store),
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
    moveLaneInHand(d.store, -1),
  ),
  action("Track", "lane-down", "Lane down", ["$mod+Shift+ArrowDown"], "ctrl shift ↓", (d) =>
    moveLaneInHand(d.store, 1),
  ),
  action("Track", "track-up", "Track up", ["Alt+Shift+ArrowUp"], "alt shift ↑", (d) =>
    moveTrackInHand(d.store, -1),
  ),
  action("Track", "track-down", "Track down", ["Alt+Shift+ArrowDown"], "alt shift ↓", (d) =>
    moveTrackInHand(d.store, 1),
  ),
  action("Track", "rename-lane", "Rename the lane", ["F2"], "F2", () =>
    // The lane's own menu begins with its name.
    document.querySelector<HTMLElement>("[data-in-hand] [aria-expanded]")?.click(),
  ),
  action("Track", "pad", "Shape the pad in hand", ["p"], "P", ({ store }) => {
    store.setState({ bench: "sound" });
    setTimeout(() => focusField("Pitch of the pad"), 60);
  }),
  action("Track", "next-kit", "Next kit", ["Shift+K"], "shift K", (d) => stepKit(d.store, 1)),
  action("Track", "previous-kit", "Kit before", ["Shift+J"], "shift J", (d) =>
    stepKit(d.store, -1),
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
    caretTo(d.store, "start"),
  ),
  action("Caret", "end", "Caret to the last step", ["End"], "end", (d) => caretTo(d.store, "end")),
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
