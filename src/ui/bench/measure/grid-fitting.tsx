"use client";
import { changeGrid } from "../../commands/tracks/grids";
import { ownIds } from "../../commands/notes/notes";
import { useMemo, useState } from "react";
import { plural } from "@/core/base";
import { barTicks, gridName } from "@/core/time";
import { padName } from "@/core/pitch";
import { type Note, trackOf } from "@/core/score";
import { describeFit, fitGrid } from "@/core/analysis";
import { useDesk, useSession } from "../../session/context";
import { currentPart, currentMetre } from "../../state/current";

const SCOPES = ["lane", "bar", "part", "selection"] as const;
type Scope = (typeof SCOPES)[number];
/** Half a sixteenth in ticks. */
const EARLY = 120;

/** Which grid the hits fit best, how well, which fit none, and an offer to set it. */
export function GridFitting() {
  const { store } = useDesk();
  const part = useSession(currentPart);
  const track = useSession((state) => trackOf(state.project, state.track));
  const pitch = useSession((state) => state.caret.pitch);
  const selection = useSession((state) => state.selection);
  const metre = useSession(currentMetre);
  const bar = barTicks(metre);
  const barAt = useSession((state) => Math.floor(state.caret.tick / bar) * bar);
  const [scope, setScope] = useState<Scope>("lane");
  const drums = track.kind === "drums";
  const notes = useMemo(() => {
    const inLane = (note: Note) => !drums || note.pitch === pitch;
    if (scope === "part") return part.notes;
    if (scope === "lane") return part.notes.filter(inLane);
    if (scope === "selection") {
      const ids = ownIds(selection);
      return part.notes.filter((note) => ids.has(note.id));
    }
    // A hit a little early belongs to the bar it leads into.
    const [from, to] = [barAt - EARLY, barAt + bar - EARLY];
    return part.notes.filter((note) => inLane(note) && note.start >= from && note.start < to);
  }, [part.notes, drums, pitch, scope, selection, bar, barAt]);
  const fit = useMemo(() => (notes.length > 2 ? fitGrid(notes, metre) : null), [notes, metre]);
  const lane = track.lanes.find((lane) => lane.pitch === pitch);
  const name = lane?.name ?? (drums ? padName(pitch) : track.name);
  const own = lane?.grid ?? part.grid;
  const clear = fit?.clear ?? false;
  const selectMisfits = () => {
    if (!fit) return;
    store.getState().select(fit.misfits);
    store.getState().announce(`${plural(fit.misfits.length, "hit")} off ${fit.name} selected`);
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
              {s === "lane" ? `lane ${name}` : s === "bar" ? "bar at the cursor" : s}
            </option>
          ))}
        </select>
      </label>
      {!fit || !clear ? (
        <p className="quiet mt-1.5">
          {notes.length <= 2
            ? "Three hits at least are needed to find a grid."
            : "No grid fits clearly."}
        </p>
      ) : (
        <>
          <p className="mt-1.5">
            <b className="figure text-[13px]">{describeFit(fit)}</b>
            <span className="quiet">
              {" "}
              {Math.round(fit.fit * 100)} % fit, {notes.length - fit.misfits.length} of{" "}
              {notes.length} hits.
            </span>
          </p>
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            {gridName(own) === fit.name ? (
              <span className="quiet">{name} has this grid already.</span>
            ) : (
              <button className="btn btn-xs" onClick={() => changeGrid(store, () => fit.grid)}>
                Set {name} to {fit.name}
              </button>
            )}
            {fit.misfits.length > 0 && (
              <button className="btn btn-xs" onClick={selectMisfits}>
                Select {fit.misfits.length} off-grid
              </button>
            )}
          </div>
        </>
      )}
    </div>
  );
}
