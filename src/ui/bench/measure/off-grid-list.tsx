"use client";
import { formatPosition, ticksToMs } from "@/core/time";
import { padName, pitchName } from "@/core/pitch";
import { trackOf } from "@/core/score";
import { offGridHits, selectNote } from "../../commands/notes/walking";
import { useDesk, useSession } from "../../session/context";
import { currentMetre } from "../../state/current";

/** As many as can be read; the keys walk through all. */
const SHOWN = 200;

/** Hits that stand beside the lines of their own grids, with how far: click or walk through them. */
export function OffGridList() {
  const { store } = useDesk();
  const state = useSession((state) => state);
  const list = offGridHits(state);
  const track = trackOf(state.project, state.track);
  const nameOf = (pitch: number) =>
    track.kind === "melody"
      ? pitchName(pitch, state.project.key)
      : (track.lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch));
  if (list.length === 0) return null;
  return (
    <section aria-label="Off the grid" className="mt-2">
      <h3 className="mb-1 flex items-baseline justify-between text-[13px] font-semibold">
        Off the grid, {list.length}
        <kbd className="figure quiet text-[12px] font-normal">O, shift O</kbd>
      </h3>
      <ol className="max-h-44 overflow-y-auto">
        {list.slice(0, SHOWN).map(({ note, drift }) => (
          <li key={note.id}>
            <button
              className={`figure flex min-h-[24px] w-full items-center gap-2 rounded px-1 text-left text-[12px] hover:bg-base-200 ${
                state.selection.has(note.id) ? "bg-primary/10 font-semibold" : ""
              }`}
              onClick={() => selectNote(store, note)}
            >
              <span className="w-20 truncate font-sans">{nameOf(note.pitch)}</span>
              <span className="flex-1">{formatPosition(note.start, currentMetre(state))}</span>
              <span>
                {drift > 0 ? "+" : "−"}
                {ticksToMs(Math.abs(drift), state.project.tempo).toFixed(1)} ms
              </span>
              <span className="quiet w-14 text-right">
                {drift > 0 ? "+" : "−"}
                {Math.abs(drift)} t
              </span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
