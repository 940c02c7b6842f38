"use client";
import { type Grid, gridName } from "@/core/time";
import { ArrowLeft, ArrowRight, Pin } from "lucide-react";
import { useMemo } from "react";
import { leaveEntry, startEntry } from "../commands/perform/entry";
import { changeGrid } from "../commands/tracks/grids";
import { addFillCard, rotateLane } from "../commands/tracks/lanes";
import { copyBarToNext, doubleLoop } from "../commands/tracks/loops";
import { HEADER_WIDTH } from "../geometry/layout";
import { keyedFrom, togglePin, useUser } from "../saving/user";
import { useDesk, useSession } from "../session/context";
import { Toggle } from "../controls/toggle";
import { MelodyTools } from "./melody-tools";
import { PlayByKeys } from "./play-by-keys";
import { Pointers } from "./pointers";
import { keyed, shownKey } from "../person/keys";

/** Recent grids, one click or key away, and what is done to a lane as a whole. */
export function LaneStrip() {
  const { store } = useDesk();
  const tracks = useSession((state) => state.project.tracks);
  const grid = useSession((state): Grid | null => {
    const track = state.project.tracks.find((track) => track.id === state.track);
    const lane = track?.lanes.find((lane) => lane.pitch === state.caret.pitch);
    const pattern = state.project.patterns.find((pattern) => pattern.id === state.pattern);
    return lane?.grid ?? pattern?.parts.find((part) => part.track === state.track)?.grid ?? null;
  });
  const grids = useUser((user) => user.grids);
  const drums = useSession(
    (state) => state.project.tracks.find((track) => track.id === state.track)?.kind === "drums",
  );
  const list = useMemo(
    () =>
      keyedFrom(
        grids,
        tracks.flatMap((track) => track.lanes.map((lane) => lane.grid)),
      ),
    [grids, tracks],
  );
  const now = grid ? gridName(grid) : "";
  const pinned = grids.pinned.some((grid) => gridName(grid) === now);
  return (
    <div className="flex min-h-[30px] items-center border-t border-base-300 text-[12px]">
      <span
        className="quiet flex shrink-0 items-center justify-between pr-2 pl-4"
        style={{ width: HEADER_WIDTH }}
      >
        Recent grids
        <button
          className={`btn btn-ghost btn-xs h-6 min-h-0 w-6 px-0 ${pinned ? "text-primary" : ""}`}
          aria-label={`${pinned ? "Unpin" : "Pin"} ${now}`}
          aria-pressed={pinned}
          {...keyed(`${pinned ? "Unpin" : "Pin"} ${now}`, "pin")}
          disabled={!grid || grid.kind === "off"}
          onClick={() => grid && togglePin(grid)}
        >
          <Pin size={13} fill={pinned ? "currentColor" : "none"} />
        </button>
      </span>
      <div
        className="flex h-[24px] min-w-0 flex-1 flex-wrap gap-1.5 overflow-hidden px-2"
        role="group"
        aria-label="Recent grids"
      >
        {list.map(({ grid: g, pinned: held }, i) => {
          const name = gridName(g);
          return (
            <button
              key={name}
              className={`figure flex h-[24px] shrink-0 items-center gap-1 rounded-full border px-2 text-[12px] ${
                name === now
                  ? "border-primary bg-primary/10 font-semibold"
                  : "border-base-300 hover:border-base-content"
              }`}
              aria-pressed={name === now}
              aria-label={`Use ${name}${held ? ", pinned" : ""}`}
              {...keyed(name, `keyed-grid-${i + 1}`)}
              onClick={() => changeGrid(store, () => g)}
            >
              {held && <Pin size={10} fill="currentColor" />}
              {name}
              <kbd className="quiet text-[12px]">
                {shownKey(`keyed-grid-${i + 1}`).replace("shift ", "⇧")}
              </kbd>
            </button>
          );
        })}
      </div>
      <div className="flex shrink-0 items-center gap-1 pr-3 max-[1150px]:shrink max-[1150px]:flex-wrap max-[1150px]:justify-end">
        <LaneTools drums={drums} />
      </div>
    </div>
  );
}

/** What is done to the current lane as a whole, and ways to play. */
function LaneTools({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const entering = useSession((state) => state.entry !== null && state.entry.mode !== "play");
  const tools: { label: string; title: string; id: string; run(): void }[] = [
    {
      label: "Fill",
      title: "Fill the lane, as a card of the chain",
      id: "fill",
      run: () => addFillCard(store),
    },
    {
      label: "Double the loop",
      title: "Repeat the loop once more, to vary the second half",
      id: "double-loop",
      run: () => doubleLoop(store),
    },
    {
      label: "Copy bar to next",
      title: "Copy the bar onto the next",
      id: "copy-bar",
      run: () => copyBarToNext(store),
    },
  ];
  return (
    <>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Rotate earlier"
        {...keyed("Rotate the lane a step earlier in its loop", "rotate-earlier")}
        onClick={() => rotateLane(store, -1)}
      >
        <ArrowLeft size={13} />
      </button>
      <span className="quiet max-[1400px]:sr-only">Rotate</span>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Rotate later"
        {...keyed("Rotate the lane a step later in its loop", "rotate-later")}
        onClick={() => rotateLane(store, 1)}
      >
        <ArrowRight size={13} />
      </button>
      {!drums && <MelodyTools />}
      {drums && <Pointers drums />}
      {drums && <PlayByKeys />}
      {drums && (
        <Toggle
          label="Step entry"
          {...keyed("Enter hits step by step: the keys are pads", "entry")}
          on={entering}
          onClick={() => (entering ? leaveEntry(store) : startEntry(store))}
        />
      )}
      {drums &&
        tools.map(({ label, title, id, run }) => (
          <button
            key={label}
            className="btn btn-ghost btn-xs h-[26px] min-h-0 border-base-300 px-2 text-[12px] font-normal"
            {...keyed(title, id)}
            onClick={run}
          >
            {label}
          </button>
        ))}
    </>
  );
}
