"use client";
import { CUTS, cutCurrentPattern, isLong } from "../commands/song/song";
import { useDesk, useSession } from "../session/context";

/** Offers to cut a long pattern, such as an imported piece, into patterns that the song is made of. */
export function CutPattern() {
  const { store } = useDesk();
  const long = useSession((state) =>
    state.project.patterns.find((pattern) => pattern.id === state.pattern && isLong(pattern)),
  );
  if (!long) return null;
  return (
    <span className="flex items-center gap-1" role="group" aria-label="Cut the pattern">
      <span className="quiet whitespace-nowrap">
        Cut {long.name} ({long.bars} bars) into
      </span>
      {CUTS.map((bars) => (
        <button
          key={bars}
          className="btn btn-ghost btn-xs figure h-6 min-h-0 px-1.5"
          aria-label={`Split into patterns of ${bars} bars`}
          title={`Patterns of ${bars} bars, equal ones once, and the song of them`}
          onClick={() => cutCurrentPattern(store, bars)}
        >
          {bars}
        </button>
      ))}
      <span className="quiet">bars</span>
    </span>
  );
}
