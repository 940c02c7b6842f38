"use client";
import { clamp } from "@/core/base";
import { Lock } from "lucide-react";
import { useState } from "react";
import { leaveEntry, startEntry } from "../commands/perform/entry";
import { joinSelected, toggleSlide } from "../commands/notes/selected";
import { SELECTORS, selectBy, selectNth } from "../commands/notes/selectors";
import { CommandList } from "../controls/menu";
import { SwitchField } from "../controls/labelled";
import { Popover } from "../controls/popover";
import { Toggle } from "../controls/toggle";
import { useDesk, useSession } from "../session/context";
import { PlayByKeys } from "./play-by-keys";
import { Pointers } from "./pointers";
import { keyed } from "../person/keys";

/** What the pointer does on a melodic track, what is seen of it, and what is done to its notes. */
export function MelodyTools() {
  const { store } = useDesk();
  const inScale = useSession((state) => state.inScale);
  const entry = useSession((state) => state.entry !== null && state.entry.mode !== "play");
  const { setTools } = store.getState();
  return (
    <div className="flex shrink-0 items-center gap-0.5 max-[1150px]:shrink max-[1150px]:flex-wrap max-[1150px]:justify-end">
      <Pointers drums={false} />
      <Toggle
        label="In scale"
        title="Hold what is drawn, moved and played in to the scale"
        on={inScale}
        onClick={() => setTools({ inScale: !inScale })}
      />
      <ShownMenu />
      <SelectMenu />
      <button
        className="btn btn-ghost btn-xs h-[26px] min-h-0 border-base-300 px-1.5 text-[12px] font-normal"
        {...keyed("Join selected notes of one pitch into one", "join")}
        onClick={() => joinSelected(store)}
      >
        Join
      </button>
      <button
        className="btn btn-ghost btn-xs h-[26px] min-h-0 border-base-300 px-1.5 text-[12px] font-normal"
        {...keyed("Selected notes slide into the next", "slide")}
        onClick={() => toggleSlide(store)}
      >
        Slide
      </button>
      <PlayByKeys />
      <Toggle
        label="Step entry"
        {...keyed("Enter notes with the keyboard or on the screen", "entry")}
        on={entry}
        onClick={() => (entry ? leaveEntry(store) : startEntry(store, "notes"))}
      />
    </div>
  );
}

/** What is seen of the line and of other tracks beside it. */
function ShownMenu() {
  const { store } = useDesk();
  const allRows = useSession((state) => state.allRows);
  const showOthers = useSession((state) => state.showOthers);
  const locked = useSession((state) => state.locked);
  const { setTools, setLook } = store.getState();
  return (
    <Popover
      label="What is shown"
      side="top"
      align="end"
      className="w-60 gap-2 p-3"
      trigger={
        <button
          className="btn btn-ghost btn-xs h-[26px] min-h-0 border-base-300 px-1.5 text-[12px] font-normal"
          title="All pitches or those of the key, other tracks behind, and whether these are locked"
        >
          {locked && <Lock size={12} />} Shown
        </button>
      }
    >
      <SwitchField
        label="All 12 pitches"
        value={allRows}
        onChange={(on) => setLook({ allRows: on })}
      />
      <SwitchField
        label={keyed("Other tracks behind", "behind").title}
        value={showOthers}
        onChange={(on) => setLook({ showOthers: on })}
      />
      <SwitchField
        label={keyed("Lock other tracks", "lock").title}
        value={locked}
        onChange={(on) => setTools({ locked: on })}
      />
    </Popover>
  );
}

function SelectMenu() {
  const { store } = useDesk();
  const [n, setN] = useState(5);
  const [open, setOpen] = useState(false);
  return (
    <Popover
      label="Select"
      open={open}
      onOpenChange={setOpen}
      side="top"
      align="end"
      className="w-52 p-1.5"
      trigger={
        <button
          className="btn btn-ghost btn-xs h-[26px] min-h-0 border-base-300 px-1.5 text-[12px] font-normal"
          title="Select notes by what they are"
        >
          Select
        </button>
      }
    >
      <CommandList
        label="Select"
        onDone={() => setOpen(false)}
        items={SELECTORS.map((selector) => ({
          label: selector.label,
          run: () => selectBy(store, selector),
        }))}
      />
      <form
        className="flex items-center gap-1 px-2 pt-1"
        onSubmit={(event) => {
          event.preventDefault();
          selectNth(store, n);
          setOpen(false);
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
          onChange={(event) => setN(clamp(Math.round(Number(event.target.value)) || 1, 1, 99))}
        />
        -th
        <button className="btn btn-xs ml-auto">Select</button>
      </form>
    </Popover>
  );
}
