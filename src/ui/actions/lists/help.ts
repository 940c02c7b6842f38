import { actions } from "../action";

/** Finding one's way: help, keys, settings. */
export const HELP = actions("Help", [
  {
    id: "palette",
    label: "Find an action",
    keys: "$mod+k",
    words: "all actions commands search list",
    run: (store) => store.getState().request("palette"),
  },
  {
    id: "help",
    label: "Help: keys on the controls, hands on the sheet",
    keys: "?",
    words: "shortcuts mouse pointer gestures",
    run: (store) => store.getState().request("help"),
  },
  {
    id: "keys",
    label: "Keys: all on one page",
    words: "shortcut shortcuts keyboard print cheat",
    run: (store) => store.getState().request("keys"),
  },
  {
    id: "first-beat",
    label: "A first beat, shown step by step",
    words: "lesson tutorial learn begin",
    run: (store) => store.getState().setTools({ lesson: "beat" }),
  },
  {
    id: "settings",
    label: "Settings",
    keys: "$mod+,",
    words: "preferences options change shortcut latency defaults",
    run: (store) => store.getState().request("settings"),
  },
]);
