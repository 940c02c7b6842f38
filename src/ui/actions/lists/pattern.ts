import {
  addPattern,
  writeLoopsOut,
  choosePatternNumber,
  clearPattern,
  deletePattern,
  stepPattern,
} from "../../commands/song/patterns";
import type { SessionStore } from "../../state/store";
import { actions } from "../action";

export const PATTERN = actions("Pattern", [
  { id: "next-pattern", label: "Next pattern", keys: ".", run: (store) => stepPattern(store, 1) },
  {
    id: "previous-pattern",
    label: "Previous pattern",
    keys: ",",
    run: (store) => stepPattern(store, -1),
  },
  ...Array.from({ length: 9 }, (_, i) => ({
    id: `pattern-${i + 1}`,
    label: `Pattern ${i + 1}`,
    keys: `Alt+Shift+Digit${i + 1}`,
    words: "number go",
    run: (store: SessionStore) => choosePatternNumber(store, i + 1),
  })),
  {
    id: "duplicate-pattern",
    label: "Duplicate the pattern",
    keys: "Shift+D",
    words: "copy vary",
    run: (store) => addPattern(store, "copy"),
  },
  {
    id: "new-pattern",
    label: "Add an empty pattern",
    words: "new",
    run: (store) => addPattern(store, "empty"),
  },
  {
    id: "write-loops",
    label: "Write the loops of the pattern out",
    words: "repeat unroll copy bars",
    run: (store) => writeLoopsOut(store, store.getState().pattern),
  },
  {
    id: "patterns",
    label: "All patterns",
    keys: "Alt+y",
    words: "list names colours order rename",
    run: (store) => store.getState().request("patterns"),
  },
  { id: "clear-pattern", label: "Clear the pattern", words: "empty", run: clearPattern },
  { id: "delete-pattern", label: "Delete the pattern", words: "remove", run: deletePattern },
]);
