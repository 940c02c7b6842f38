import { ghostAtCaret } from "../../commands/notes/caret";
import { copy, cut, duplicate, paste, pasteAtPlayhead } from "../../commands/notes/clipboard";
import { stepChance, stepCondition } from "../../commands/notes/chance";
import { rotateLane } from "../../commands/tracks/lanes";
import { copyBarToNext, doubleLoop } from "../../commands/tracks/loops";
import {
  changeVelocity,
  cutAtCaret,
  deleteSelected,
  joinSelected,
  lengthenFront,
  lengthenSelected,
  moveSelected,
  moveToLine,
  nudgeSelected,
  toggleSlide,
} from "../../commands/notes/selected";
import type { SessionStore } from "../../state/store";
import { ON_TRACK, actions } from "../action";
import { toggle } from "./toggle";

const nudges = ([1, 5] as const).flatMap((ms) =>
  ([-1, 1] as const).map((way) => {
    const word = way < 0 ? "early" : "late";
    return {
      id: `nudge-${word}-${ms}`,
      label: `Nudge ${ms} ms ${word}`,
      keys: `Alt+${ms === 1 ? "Shift" : "$mod"}+Arrow${way < 0 ? "Left" : "Right"}`,
      words: "timing feel offset",
      run: (store: SessionStore) => nudgeSelected(store, { ms: ms * way }),
    };
  }),
);

export const EDIT = actions(
  "Edit",
  [
    {
      id: "delete",
      label: "Delete the selection",
      keys: ["Delete", "Backspace"],
      words: "remove clear",
      run: deleteSelected,
    },
    toggle("erase", "erasing", {
      label: "Eraser on or off",
      keys: "e",
      words: "erase rubber delete",
      on: "Eraser on",
      off: "Eraser off",
    }),
    {
      id: "earlier",
      label: "A step earlier",
      keys: "Shift+ArrowLeft",
      words: "move left",
      run: (store) => moveSelected(store, -1, 0),
    },
    {
      id: "later",
      label: "A step later",
      keys: "Shift+ArrowRight",
      words: "move right",
      run: (store) => moveSelected(store, 1, 0),
    },
    {
      id: "higher",
      label: "A degree up",
      keys: "Shift+ArrowUp",
      words: "move pitch",
      run: (store) => moveSelected(store, 0, 1),
    },
    {
      id: "lower",
      label: "A degree down",
      keys: "Shift+ArrowDown",
      words: "move pitch",
      run: (store) => moveSelected(store, 0, -1),
    },
    {
      id: "nudge-early",
      label: "Nudge a tick early",
      keys: "Alt+ArrowLeft",
      words: "timing feel offset",
      run: (store) => nudgeSelected(store, { ticks: -1 }),
    },
    {
      id: "nudge-late",
      label: "Nudge a tick late",
      keys: "Alt+ArrowRight",
      words: "timing feel offset",
      run: (store) => nudgeSelected(store, { ticks: 1 }),
    },
    ...nudges,
    {
      id: "line-before",
      label: "To the previous line",
      keys: "$mod+ArrowLeft",
      words: "snap grid",
      run: (store) => moveToLine(store, -1),
    },
    {
      id: "line-after",
      label: "To the next line",
      keys: "$mod+ArrowRight",
      words: "snap grid",
      run: (store) => moveToLine(store, 1),
    },
    {
      id: "rotate-earlier",
      label: "Rotate earlier",
      keys: "$mod+Shift+ArrowLeft",
      words: "shift loop wrap",
      run: (store) => rotateLane(store, -1),
    },
    {
      id: "rotate-later",
      label: "Rotate later",
      keys: "$mod+Shift+ArrowRight",
      words: "shift loop wrap",
      run: (store) => rotateLane(store, 1),
    },
    {
      id: "copy",
      label: "Copy",
      keys: "$mod+c",
      words: "clipboard",
      run: (store) => void copy(store),
    },
    { id: "cut", label: "Cut", keys: "$mod+x", words: "clipboard", run: cut },
    {
      id: "paste",
      label: "Paste at the cursor",
      keys: "$mod+v",
      words: "clipboard",
      run: (store) => paste(store),
    },
    {
      id: "paste-playhead",
      label: "Paste at the playhead",
      keys: "$mod+Shift+V",
      words: "clipboard",
      run: (_, desk) => pasteAtPlayhead(desk),
    },
    {
      id: "duplicate",
      label: "Duplicate after itself",
      keys: "$mod+d",
      words: "repeat copy",
      run: duplicate,
    },
    {
      id: "double-loop",
      label: "Double the loop",
      keys: "Shift+L",
      words: "length repeat longer",
      run: doubleLoop,
    },
    {
      id: "copy-bar",
      label: "Copy bar to next",
      keys: "Shift+N",
      words: "duplicate measure",
      run: copyBarToNext,
    },
    {
      id: "ghost",
      label: "Ghost hit at the cursor",
      keys: "g",
      words: "soft quiet",
      run: ghostAtCaret,
    },
    {
      id: "chance",
      label: "Chance of the selected: 75, 50, 25, always",
      keys: "Alt+c",
      words: "probability random percent loops rounds",
      run: stepChance,
    },
    {
      id: "condition",
      label: "Loops the selected sound in: next condition",
      keys: "Alt+v",
      words: "every nth first last loop condition trig",
      run: stepCondition,
    },
    {
      id: "louder",
      label: "Louder",
      keys: "Alt+ArrowUp",
      words: "velocity",
      run: (store) => changeVelocity(store, 4),
    },
    {
      id: "softer",
      label: "Softer",
      keys: "Alt+ArrowDown",
      words: "velocity quieter",
      run: (store) => changeVelocity(store, -4),
    },
    {
      id: "longer",
      label: "A step longer",
      keys: "l",
      words: "length duration",
      run: (store) => lengthenSelected(store, 1),
    },
    {
      id: "shorter",
      label: "A step shorter",
      keys: "k",
      words: "length duration",
      run: (store) => lengthenSelected(store, -1),
    },
    {
      id: "front-earlier",
      label: "Longer at the front",
      keys: "Alt+l",
      words: "length start",
      run: (store) => lengthenFront(store, 1),
    },
    {
      id: "front-later",
      label: "Shorter at the front",
      keys: "Alt+k",
      words: "length start",
      run: (store) => lengthenFront(store, -1),
    },
    {
      id: "join",
      label: "Join selected notes of one pitch",
      keys: "j",
      words: "glue merge",
      run: joinSelected,
    },
    {
      id: "cut-notes",
      label: "Cut notes at the cursor",
      keys: "Shift+Y",
      words: "split slice knife",
      run: cutAtCaret,
    },
    {
      id: "slide",
      label: "Slide into the next, or not",
      keys: "z",
      words: "glide portamento",
      run: toggleSlide,
    },
  ],
  ON_TRACK,
);
