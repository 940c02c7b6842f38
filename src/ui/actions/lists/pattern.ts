import { addPattern, deletePattern, stepPattern } from "../../commands/patterns";
import { actions } from "../action";

export const PATTERN = actions("Pattern", [
  { id: "next-pattern", label: "Next pattern", keys: ".", run: (s) => stepPattern(s, 1) },
  { id: "previous-pattern", label: "Previous pattern", keys: ",", run: (s) => stepPattern(s, -1) },
  {
    id: "duplicate-pattern",
    label: "Duplicate the pattern",
    keys: "Shift+D",
    words: "copy vary",
    run: (s) => addPattern(s, true),
  },
  {
    id: "new-pattern",
    label: "Add an empty pattern",
    words: "new",
    run: (s) => addPattern(s, false),
  },
  { id: "delete-pattern", label: "Delete the pattern", words: "remove", run: deletePattern },
]);
