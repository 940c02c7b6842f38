"use client";
import { Minus, Plus } from "lucide-react";
import { useDesk, useSession } from "../session/context";

/** The octave that the keys begin in. */
export function Octave({ keys }: { keys: string }) {
  const { store } = useDesk();
  const low = useSession((s) => s.entry?.low ?? 48);
  const to = (next: number) => store.getState().setEntry({ low: Math.min(108, Math.max(0, next)) });
  return (
    <span className="flex items-center" title={`Octave of the keys (${keys})`}>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Keys an octave down"
        onClick={() => to(low - 12)}
      >
        <Minus size={12} />
      </button>
      <span className="figure quiet">C{Math.floor(low / 12) - 1}</span>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Keys an octave up"
        onClick={() => to(low + 12)}
      >
        <Plus size={12} />
      </button>
    </span>
  );
}
