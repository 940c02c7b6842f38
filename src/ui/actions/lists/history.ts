import { actions } from "../action";

export const HISTORY = actions("History", [
  { id: "undo", label: "Undo", keys: "$mod+z", words: "back", run: (s) => s.getState().undo() },
  {
    id: "redo",
    label: "Redo",
    keys: ["$mod+Shift+Z", "$mod+y"],
    words: "again forward",
    run: (s) => s.getState().redo(),
  },
  {
    id: "history",
    label: "History",
    keys: "Shift+H",
    words: "undo list edits steps",
    run: (s) => s.getState().setLook({ historyOpen: !s.getState().historyOpen }),
  },
]);
