import type { SessionStore } from "../../state/store";

type ToolFlag = "inScale" | "locked" | "walking" | "erasing";
type LookFlag = "allRows" | "showOthers" | "follow" | "tall" | "mixerOpen";
type ArrangingFlag = "stay" | "songOpen";
type Flag = ToolFlag | LookFlag | ArrangingFlag;

interface About {
  label: string;
  keys?: string;
  words?: string;
  /** What is said when it is on, and when it is off. */
  on: string;
  off: string;
}

const ARRANGING: ReadonlySet<Flag> = new Set<Flag>(["stay", "songOpen"]);
const LOOKS: ReadonlySet<Flag> = new Set<Flag>([
  "allRows",
  "showOthers",
  "follow",
  "tall",
  "mixerOpen",
]);

/** An action that switches something of the tools or the look, and says how it is then. */
export const toggle = (id: string, flag: Flag, { on, off, ...about }: About) => ({
  id,
  ...about,
  run: (store: SessionStore) => {
    const state = store.getState();
    const next = !state[flag];
    if (ARRANGING.has(flag)) state.setArranging({ [flag]: next });
    else if (LOOKS.has(flag)) state.setLook({ [flag]: next });
    else state.setTools({ [flag]: next });
    state.announce(next ? on : off);
  },
});
