import { caretTo, moveCaret, toggleAtCaret } from "../../commands/notes/caret";
import { hearNote } from "../../commands/transport/play";
import { walk, walkAcross } from "../../commands/notes/walking";
import type { SessionStore } from "../../state/store";
import { ON_TRACK, actions } from "../action";

/** The arrows move the caret, or walk from note to note. */
const along = (store: SessionStore, way: 1 | -1) =>
  store.getState().walking ? walk(store, way) : moveCaret(store, way, 0);
const across = (store: SessionStore, up: 1 | -1) =>
  store.getState().walking ? walkAcross(store, up) : moveCaret(store, 0, -up);

export const CARET = actions(
  "Cursor",
  [
    {
      id: "left",
      label: "Cursor to the previous step",
      keys: "ArrowLeft",
      run: (store) => along(store, -1),
    },
    {
      id: "right",
      label: "Cursor to the next step",
      keys: "ArrowRight",
      run: (store) => along(store, 1),
    },
    { id: "up", label: "Cursor a row up", keys: "ArrowUp", run: (store) => across(store, 1) },
    {
      id: "down",
      label: "Cursor a row down",
      keys: "ArrowDown",
      run: (store) => across(store, -1),
    },
    {
      id: "put",
      label: "Add or delete at the cursor",
      keys: "Enter",
      words: "put draw hit note toggle step",
      run: (store, desk) => {
        const note = toggleAtCaret(store);
        if (note) hearNote(desk, note.pitch, note.velocity);
      },
    },
    {
      id: "home",
      label: "Cursor to the beginning",
      keys: "Home",
      run: (store) => caretTo(store, "start"),
    },
    {
      id: "end",
      label: "Cursor to the last step",
      keys: "End",
      run: (store) => caretTo(store, "end"),
    },
  ],
  ON_TRACK,
);
