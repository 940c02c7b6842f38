"use client";
import { useState } from "react";
import { barTicks, fitGrid, gridName, padName, partOf, trackOf, type Note } from "@/core";
import { useDesk, useSession } from "../session/context";
import { place, type Session } from "../session/store";
import { changeGrid, ownIds } from "../sheet/editing";

const SCOPES = ["lane", "bar", "part", "selection"] as const;
type Scope = (typeof SCOPES)[number];
/** Below this a grid is no better than chance would have it. */
const CLEAR = 0.35;

function notesIn(state: Session, scope: Scope): readonly Note[] {
  const { notes } = partOf(state.project, place(state));
  const drums = trackOf(state.project, state.track).kind === "drums";
  const inLane = (note: Note) => !drums || note.pitch === state.caret.pitch;
  if (scope === "part") return notes;
  if (scope === "lane") return notes.filter(inLane);
  if (scope === "selection") {
    const ids = ownIds(state.selection);
    return notes.filter((note) => ids.has(note.id));
  }
  const bar = barTicks(state.project.metre);
  const at = Math.floor(state.caret.tick / bar) * bar;
  return notes.filter(
    (note) => inLane(note) && note.start >= at - 120 && note.start < at + bar - 120,
  );
}

/** Which grid the hits fit best, how well, which fit none, and an offer to set it. */
export function GridFitting() {
  const { store } = useDesk();
  const state = useSession((s) => s);
  const [scope, setScope] = useState<Scope>("lane");
  const notes = notesIn(state, scope);
  const fit = notes.length > 2 ? fitGrid(notes) : null;
  const track = trackOf(state.project, state.track);
  const lane = track.lanes.find((l) => l.pitch === state.caret.pitch);
  const name = lane?.name ?? (track.kind === "drums" ? padName(state.caret.pitch) : track.name);
  const own = lane?.grid ?? partOf(state.project, place(state)).grid;
  const clear = fit !== null && fit.fit >= CLEAR;
  const take = () => {
    const ids = new Set(fit!.misfits);
    store.setState({ selection: ids, said: `${ids.size} fit no line of ${fit!.name}` });
  };
  return (
    <div className="mt-2 mb-2 rounded-box border border-base-300 p-2.5" data-testid="grid-fit">
      <label className="flex items-center gap-2">
        <span className="quiet">Best grid for the</span>
        <select
          className="select select-xs min-w-0 flex-1"
          aria-label="Best grid for"
          value={scope}
          onChange={(event) => setScope(event.target.value as Scope)}
        >
          {SCOPES.map((s) => (
            <option key={s} value={s}>
              {s === "lane" ? `lane ${name}` : s === "bar" ? "bar at the caret" : s}
            </option>
          ))}
        </select>
      </label>
      {!clear ? (
        <p className="quiet mt-1.5">
          {notes.length <= 2
            ? "Three hits at least are needed to tell."
            : "They fit no grid clearly."}
        </p>
      ) : (
        <>
          <p className="mt-1.5">
            <b className="figure text-[14px]">{fit.name}</b>
            <span className="quiet">
              {" "}
              fits {Math.round(fit.fit * 100)} % of the way, {notes.length - fit.misfits.length} of{" "}
              {notes.length} hits.
            </span>
          </p>
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            {gridName({ ...own, swing: 50 }) === fit.name ? (
              <span className="quiet">{name} is on it already.</span>
            ) : (
              <button className="btn btn-xs" onClick={() => changeGrid(store, () => fit.grid)}>
                Set {name} to {fit.name}
              </button>
            )}
            {fit.misfits.length > 0 && (
              <button className="btn btn-xs" onClick={take}>
                Select the {fit.misfits.length} that fit none
              </button>
            )}
          </div>
        </>
      )}
    </div>
  );
}
