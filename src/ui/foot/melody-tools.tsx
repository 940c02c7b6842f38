"use client";
import { Brush, Eraser, Pencil, Scissors, type LucideIcon } from "lucide-react";
import { useCallback, useRef, useState } from "react";
import { leaveEntry, startEntry } from "../commands/entry";
import { joinChosen, toggleSlide } from "../commands/selected";
import { SELECTORS, select, selectNth } from "../commands/selectors";
import { Toggle } from "../controls/toggle";
import { useDismiss } from "../controls/use-dismiss";
import { useDesk, useSession } from "../session/context";
import type { Tool } from "../session/store";

const TOOLS: readonly { id: Tool; label: string; title: string; icon: LucideIcon }[] = [
  { id: "draw", label: "Draw", title: "Draw, move and lengthen notes", icon: Pencil },
  {
    id: "freehand",
    label: "Freehand",
    title: "Paint a line; a fast stroke leaves gaps (U)",
    icon: Brush,
  },
  {
    id: "cut",
    label: "Cut",
    title: "Cut notes at the grid, with alt anywhere (Y)",
    icon: Scissors,
  },
];

/** What the pointer does on a melodic track, what is seen of it, and what is done to its notes. */
export function MelodyTools() {
  const { store } = useDesk();
  const tool = useSession((s) => s.tool);
  const erasing = useSession((s) => s.erasing);
  const inScale = useSession((s) => s.inScale);
  const allRows = useSession((s) => s.allRows);
  const behind = useSession((s) => s.behind);
  const locked = useSession((s) => s.locked);
  const entry = useSession((s) => s.entry !== null);
  const set = store.setState;
  return (
    <div className="flex shrink-0 items-center gap-1">
      <span role="radiogroup" aria-label="Pointer" className="flex">
        {TOOLS.map(({ id, label, title, icon: Icon }) => {
          const on = tool === id && !erasing;
          return (
            <button
              key={id}
              role="radio"
              aria-checked={on}
              aria-label={label}
              title={title}
              className={`grid h-[24px] w-[26px] place-items-center rounded-lg ${on ? "bg-primary/15 text-primary" : "quiet hover:bg-base-200"}`}
              onClick={() => set({ tool: id, erasing: false })}
            >
              <Icon size={14} />
            </button>
          );
        })}
        <button
          role="radio"
          aria-checked={erasing}
          aria-label="Erase"
          title="Erase (E)"
          className={`grid h-[24px] w-[26px] place-items-center rounded-lg ${erasing ? "bg-primary/15 text-primary" : "quiet hover:bg-base-200"}`}
          onClick={() => set({ erasing: !erasing })}
        >
          <Eraser size={14} />
        </button>
      </span>
      <Toggle
        label="In scale"
        title="Hold what is drawn, moved and played in to the scale"
        on={inScale}
        onClick={() => set({ inScale: !inScale })}
      />
      <Toggle
        label="All 12"
        title="Show all twelve pitches, not those of the key alone"
        on={allRows}
        onClick={() => set({ allRows: !allRows })}
      />
      <Toggle
        label="Others"
        title="Other tracks' notes behind these, in outline"
        on={behind}
        onClick={() => set({ behind: !behind })}
      />
      <Toggle
        label="Lock rest"
        title="Lock the notes of all tracks but this one (shift M)"
        on={locked}
        onClick={() => set({ locked: !locked })}
      />
      <SelectMenu />
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
        title="Make chosen notes of one pitch into one (J)"
        onClick={() => joinChosen(store)}
      >
        Join
      </button>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
        title="Chosen notes slide into the next (Z)"
        onClick={() => toggleSlide(store)}
      >
        Slide
      </button>
      <Toggle
        label="Step entry"
        title="Enter notes with the keyboard or on the screen (I)"
        on={entry}
        onClick={() => (entry ? leaveEntry(store) : startEntry(store))}
      />
    </div>
  );
}

function SelectMenu() {
  const { store } = useDesk();
  const [open, setOpen] = useState(false);
  const [n, setN] = useState(5);
  const root = useRef<HTMLDivElement>(null);
  const close = useCallback(() => setOpen(false), []);
  useDismiss(root, open, close);
  return (
    <div ref={root} className="relative">
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
        aria-expanded={open}
        title="Select notes by what they are"
        onClick={() => setOpen(!open)}
      >
        Select
      </button>
      {open && (
        <div
          role="group"
          aria-label="Select"
          className="rounded-box absolute right-0 bottom-7 z-30 flex w-48 flex-col border border-base-300 bg-base-100 p-1.5 shadow-lg"
        >
          {SELECTORS.map((selector) => (
            <button
              key={selector.id}
              className="rounded-lg px-2 py-1 text-left hover:bg-base-200"
              onClick={() => {
                select(store, selector);
                close();
              }}
            >
              {selector.label}
            </button>
          ))}
          <form
            className="flex items-center gap-1 px-2 pt-1"
            onSubmit={(event) => {
              event.preventDefault();
              selectNth(store, n);
              close();
            }}
          >
            Every
            <input
              type="number"
              className="input input-xs w-14"
              aria-label="Every n-th"
              min={1}
              max={99}
              value={n}
              onChange={(event) =>
                setN(Math.min(99, Math.max(1, Math.round(Number(event.target.value)) || 1)))
              }
            />
            -th
            <button className="btn btn-xs ml-auto">Select</button>
          </form>
        </div>
      )}
    </div>
  );
}
