"use client";
import { toast } from "sonner";
import { useState } from "react";
import { loopText, loopTyped } from "../commands/song/song";
import { useDesk, useSession } from "../session/context";

/** The stretch that is looped, typed in bars of what plays; empty for all of it. */
export function LoopField() {
  const { store } = useDesk();
  const shown = useSession(loopText);
  const song = useSession((state) => state.plays === "song");
  const [typed, setTyped] = useState<string | null>(null);
  const finish = () => {
    const text = typed;
    setTyped(null);
    if (text === null || text.trim() === shown || loopTyped(store, text)) return;
    toast.error(`Loop: “${text.trim()}” is no stretch of what plays. Type bars, such as 3–4.`, {
      id: "loop",
    });
  };
  return (
    <label className="flex items-center gap-1 pl-2">
      <span className="quiet text-[12px]">{song ? "Loop bars of the song" : "Loop bars"}</span>
      <input
        className="figure w-[78px] rounded bg-transparent px-1 hover:bg-base-300/50 focus:bg-base-100"
        aria-label="Bars that are looped"
        title="Bars that are looped, such as 3–4; in a pattern also 1.1.1–2.3.1. Empty: all"
        placeholder="all"
        maxLength={40}
        value={typed ?? shown}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={finish}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") {
            setTyped(null);
            event.stopPropagation();
          }
          if (!event.ctrlKey && !event.metaKey) event.stopPropagation();
        }}
      />
    </label>
  );
}
