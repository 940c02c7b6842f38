"use client";
import { Minus, Plus } from "lucide-react";
import { moveKeys } from "../commands/perform/entry";
import { useDesk, useSession } from "../session/context";

/** The octave that the keys begin in. */
export function Octave({ keys }: { keys: string }) {
  const { store } = useDesk();
  const low = useSession((state) => state.entry?.low ?? 48);
  return (
    <span className="flex items-center" title={`Octave of the keys (${keys})`}>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Keys an octave down"
        onClick={() => moveKeys(store, -1)}
      >
        <Minus size={12} />
      </button>
      <span className="figure quiet">C{Math.floor(low / 12) - 1}</span>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Keys an octave up"
        onClick={() => moveKeys(store, 1)}
      >
        <Plus size={12} />
      </button>
    </span>
  );
}
