import { grid } from "@/core/time";
import {
  applyKeyedGrid,
  changeGrid,
  pinGrid,
  stepCurrentGrid,
  toggleKind,
} from "../../commands/tracks/grids";
import { KEYED_GRIDS } from "../../saving/user";
import type { SessionStore } from "../../state/store";
import { ON_TRACK, actions } from "../action";

/** Note values with a key of their own. */
const FIXED = [
  [4, "Alt+q", "quarter quarters"],
  [8, "Alt+e", "eighth eighths"],
  [16, "Alt+x", "sixteenth sixteenths"],
  [32, "Alt+i", "thirty-second"],
] as const;

export const GRID = actions(
  "Grid",
  [
    ...Array.from({ length: KEYED_GRIDS }, (_, i) => ({
      id: `keyed-grid-${i + 1}`,
      label: `Recent grid ${i + 1}`,
      keys: `Shift+Digit${i + 1}`,
      run: (store: SessionStore) => applyKeyedGrid(store, i),
    })),
    {
      id: "pin",
      label: "Pin or unpin this grid",
      keys: "Shift+P",
      words: "favourite keep",
      run: pinGrid,
    },
    {
      id: "grid-off",
      label: "Grid off or on",
      keys: "Shift+G",
      words: "free snap",
      run: (store) => toggleKind(store, "off"),
    },
    ...FIXED.map(([value, key, spoken]) => ({
      id: `grid-${value}`,
      label: `Grid 1/${value}`,
      keys: key,
      words: spoken,
      run: (store: SessionStore) => changeGrid(store, () => grid(value)),
    })),
    {
      id: "coarser",
      label: "Coarser grid",
      keys: "[",
      words: "larger value",
      run: (store) => stepCurrentGrid(store, -1),
    },
    {
      id: "finer",
      label: "Finer grid",
      keys: "]",
      words: "smaller value",
      run: (store) => stepCurrentGrid(store, 1),
    },
    {
      id: "triplet",
      label: "Triplet grid on or off",
      keys: "t",
      run: (store) => toggleKind(store, "triplet"),
    },
    {
      id: "dotted",
      label: "Dotted grid on or off",
      keys: "d",
      run: (store) => toggleKind(store, "dotted"),
    },
  ],
  ON_TRACK,
);
