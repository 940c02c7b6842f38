import type { Tool } from "../state/tools";

/** What hands do on the sheet with one pointer: pairs of a press and what it does. */
export interface Hands {
  id: string;
  label: string;
  /** Whether it is about tracks of pitches, about kits, or both. */
  on: "kit" | "pitches" | "both";
  lines: readonly (readonly [press: string, does: string])[];
}

const ERASE = ["right-drag", "erases what it passes"] as const;
const BOX = ["shift-drag", "selects what is in the box"] as const;

/** By pointer; the first that fits is the one at hand. */
const POINTERS: readonly (Hands & { pointer: Tool | "erase" })[] = [
  {
    id: "draw-kit",
    pointer: "draw",
    label: "Draw, on a kit",
    on: "kit",
    lines: [
      ["press a step", "adds a hit; dragged on, a stroke of them"],
      ["alt-press a step", "adds a soft hit, a ghost"],
      ["press a hit", "deletes it, or selects it where the settings say so"],
      ["drag a hit up or down", "sets its velocity"],
      ["drag a hit sideways", "moves it; with alt to other lanes too"],
      ERASE,
      BOX,
    ],
  },
  {
    id: "draw-pitches",
    pointer: "draw",
    label: "Draw, on pitches",
    on: "pitches",
    lines: [
      ["press an empty place", "adds a note; dragged on, a longer one"],
      ["drag a note", "moves it in time and pitch"],
      ["drag an end of a note", "lengthens or shortens it; with alt off the grid"],
      ["alt-drag a note up or down", "sets its velocity"],
      ERASE,
      BOX,
    ],
  },
  {
    id: "select",
    pointer: "select",
    label: "Select",
    on: "both",
    lines: [
      ["press a note", "selects it"],
      ["drag from an empty place", "selects what is in the box"],
      ["drag a selected note", "moves all that is selected"],
      ERASE,
    ],
  },
  {
    id: "freehand",
    pointer: "freehand",
    label: "Freehand",
    on: "pitches",
    lines: [
      ["drag", "a stroke becomes notes; where the hand rests off the rows, gaps"],
      ERASE,
      BOX,
    ],
  },
  {
    id: "cut",
    pointer: "cut",
    label: "Cut",
    on: "pitches",
    lines: [
      ["press a note", "cuts it at the line of the grid under the pointer"],
      ["alt-press a note", "cuts it right there"],
      ERASE,
      BOX,
    ],
  },
  {
    id: "erase",
    pointer: "erase",
    label: "Erase",
    on: "both",
    lines: [["press or drag", "erases what it passes"]],
  },
];

/** With every pointer. */
const ALWAYS: readonly Hands[] = [
  {
    id: "selecting",
    label: "Selecting more",
    on: "both",
    lines: [
      ["ctrl-press a note", "adds it to what is selected, or lets go of it"],
      ["ctrl shift-drag", "adds what is in the box, of other tracks too"],
      ["alt shift-drag", "takes what is in the box out of what is selected"],
    ],
  },
  {
    id: "wheel",
    label: "Wheel",
    on: "both",
    lines: [
      ["over a hit or note", "velocity; with alt its chance"],
      ["elsewhere", "up and down through the tracks"],
      ["with shift", "through time"],
      ["with ctrl", "zooms; two fingers do so too"],
      ["middle button, dragged", "moves the sheet itself"],
    ],
  },
  {
    id: "ruler",
    label: "Ruler",
    on: "both",
    lines: [
      ["press", "playing starts there"],
      ["shift-drag", "loops the stretch; a press alone loops all again"],
    ],
  },
];

/** All of it, for the page of keys. */
export const HANDS: readonly Hands[] = [...POINTERS, ...ALWAYS];

/** What hands do with the pointer at hand on a kind of track. */
export function handsWith(pointer: Tool | "erase", kit: boolean): readonly Hands[] {
  const on = kit ? "kit" : "pitches";
  const fits = ({ on: kind }: Hands) => kind === "both" || kind === on;
  const at = POINTERS.find((one) => one.pointer === pointer && fits(one));
  const draw = POINTERS.find((one) => one.pointer === "draw" && fits(one));
  return [...(at ? [at] : draw ? [draw] : []), ...ALWAYS];
}
