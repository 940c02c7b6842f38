import { SELECTORS, selectAll, selectBy, selectStretch } from "../../commands/notes/selectors";
import { walk, walkOffGrid } from "../../commands/notes/walking";
import { ON_TRACK, actions } from "../action";

export const SELECT = actions(
  "Select",
  [
    { id: "next", label: "Next note", keys: "n", run: (store) => walk(store, 1) },
    { id: "previous", label: "Previous note", keys: "b", run: (store) => walk(store, -1) },
    {
      id: "extend",
      label: "Add the next note",
      keys: "Alt+n",
      run: (store) => walk(store, 1, { extend: true }),
    },
    {
      id: "extend-back",
      label: "Add the previous note",
      keys: "Alt+b",
      run: (store) => walk(store, -1, { extend: true }),
    },
    { id: "all", label: "Select the lane, then the part", keys: "$mod+a", run: selectAll },
    {
      id: "column",
      label: "Select the step in all lanes",
      keys: "c",
      words: "column",
      run: (store) => selectStretch(store, "column"),
    },
    {
      id: "bar",
      label: "Select the bar",
      keys: "Shift+B",
      run: (store) => selectStretch(store, "bar"),
    },
    {
      id: "lane",
      label: "Select the lane as a whole",
      keys: "Shift+C",
      run: (store) => selectStretch(store, "lane"),
    },
    {
      id: "off-grid",
      label: "Next hit off its grid",
      keys: "o",
      words: "drift late early timing",
      run: (store) => walkOffGrid(store, 1),
    },
    {
      id: "off-grid-before",
      label: "Previous hit off its grid",
      keys: "Shift+O",
      run: (store) => walkOffGrid(store, -1),
    },
    ...SELECTORS.map((selector) => ({
      id: `by-${selector.id}`,
      label: `Select: ${selector.label.toLowerCase()}`,
      run: (store: Parameters<typeof selectBy>[0]) => selectBy(store, selector),
    })),
  ],
  ON_TRACK,
);
