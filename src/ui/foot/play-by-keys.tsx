"use client";
import { KeyboardMusic } from "lucide-react";
import { leaveEntry, startEntry } from "../commands/perform/entry";
import { useDesk, useSession } from "../session/context";
import { keyed } from "../person/keys";

/** Opens the surface to play by keys, or closes it. */
export function PlayByKeys() {
  const { store } = useDesk();
  const on = useSession((state) => state.entry?.mode === "play");
  return (
    <button
      className={`btn btn-xs h-[26px] min-h-0 px-1.5 ${on ? "border-primary bg-primary/15" : "btn-ghost border-base-300"}`}
      aria-label="Play by keys"
      aria-pressed={on}
      {...keyed("Play by the computer's keys or on the screen", "play-keys")}
      onClick={() => (on ? leaveEntry(store) : startEntry(store, "play"))}
    >
      <KeyboardMusic size={15} />
    </button>
  );
}
