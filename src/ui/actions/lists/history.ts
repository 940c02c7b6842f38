import { undoEdit } from "../../commands/perform/entry";
import { actions } from "../action";

export const HISTORY = actions("History", [
  {
    id: "undo",
    label: "Undo",
    keys: "$mod+z",
    words: "back",
    run: undoEdit,
  },
  {
    id: "redo",
    label: "Redo",
    keys: ["$mod+Shift+Z", "$mod+y"],
    words: "again forward",
    run: (store) => store.getState().redo(),
  },
  {
    id: "history",
    label: "History",
    keys: "Shift+H",
    words: "undo list edits steps",
    run: (store) => store.getState().setLook({ historyOpen: !store.getState().historyOpen }),
  },
]);
