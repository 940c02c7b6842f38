import { SELECTORS, selectAll, selectBy, selectStretch } from "../../commands/notes/selectors";
import { walk, walkOffGrid } from "../../commands/notes/walking";
import { ON_TRACK, actions } from "../action";

export const SELECT = actions(
  "Select",
  [
    { id: "next", label: "Next note", keys: "n", run: (s) => walk(s, 1) },
    { id: "previous", label: "Previous note", keys: "b", run: (s) => walk(s, -1) },
    { id: "extend", label: "Add the next note", keys: "Alt+n", run: (s) => walk(s, 1, true) },
    {
      id: "extend-back",
      label: "Add the previous note",
      keys: "Alt+b",
      run: (s) => walk(s, -1, true),
    },
    { id: "all", label: "Select the lane, then the part", keys: "$mod+a", run: selectAll },
    {
      id: "column",
      label: "Select the step in all lanes",
      keys: "c",
      words: "column",
      run: (s) => selectStretch(s, "column"),
    },
    { id: "bar", label: "Select the bar", keys: "Shift+B", run: (s) => selectStretch(s, "bar") },
    {
      id: "lane",
      label: "Select the lane as a whole",
      keys: "Shift+C",
      run: (s) => selectStretch(s, "lane"),
    },
    {
      id: "off-grid",
      label: "Next hit off its grid",
      keys: "o",
      words: "drift late early timing",
      run: (s) => walkOffGrid(s, 1),
    },
    {
      id: "off-grid-before",
      label: "Previous hit off its grid",
      keys: "Shift+O",
      run: (s) => walkOffGrid(s, -1),
    },
    ...SELECTORS.map((selector) => ({
      id: `by-${selector.id}`,
      label: `Select: ${selector.label.toLowerCase()}`,
      run: (s: Parameters<typeof selectBy>[0]) => selectBy(s, selector),
    })),
  ],
  ON_TRACK,
);
