"use client";
import { BoxSelect, Eraser, Pencil, Scissors, Spline, type LucideIcon } from "lucide-react";
import { Choice } from "../controls/choice";
import { useDesk, useSession } from "../session/context";
import { keyed } from "../person/keys";
import type { Tool } from "../state/tools";

/** What the pointer can do; on a kit there is nothing to cut and no line to draw freely. */
const POINTERS: readonly {
  id: Tool | "erase";
  label: string;
  title: string;
  /** The action that takes it up, if there is one. */
  action?: string;
  icon: LucideIcon;
  kits: boolean;
}[] = [
  {
    id: "draw",
    label: "Draw",
    title: "Draw: press for a note or hit, drag it to move, its end to lengthen",
    icon: Pencil,
    kits: true,
  },
  {
    id: "select",
    label: "Select",
    title: "Select: press a note, or drag a box (shift-drag with any pointer)",
    icon: BoxSelect,
    kits: true,
  },
  {
    id: "freehand",
    label: "Freehand",
    title: "Freehand: a stroke becomes notes, gaps included",
    action: "freehand",
    icon: Spline,
    kits: false,
  },
  {
    id: "cut",
    label: "Cut",
    title: "Cut notes at the grid, with alt anywhere",
    action: "knife",
    icon: Scissors,
    kits: false,
  },
  {
    id: "erase",
    label: "Erase",
    title: "Erase what is passed; the right button does so with any pointer",
    action: "erase",
    icon: Eraser,
    kits: true,
  },
];

/** What the pointer does on the sheet, for hands without a keyboard. */
export function Pointers({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const tool = useSession((state) => state.tool);
  const erasing = useSession((state) => state.erasing);
  const { setTools } = store.getState();
  const offered = POINTERS.filter(({ kits }) => kits || !drums);
  const known = offered.some(({ id }) => id === tool) ? tool : "draw";
  return (
    <Choice
      label="Pointer"
      className="flex"
      optionClass="grid h-[26px] w-[26px] place-items-center border-transparent"
      value={erasing ? "erase" : known}
      options={offered.map(({ id, label, title, action, icon: Icon }) => ({
        value: id,
        label,
        ...(action ? keyed(title, action) : { title }),
        shown: <Icon size={14} />,
      }))}
      onChange={(id) => setTools(id === "erase" ? { erasing: true } : { tool: id, erasing: false })}
    />
  );
}
