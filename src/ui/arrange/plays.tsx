"use client";
import { Pin, Repeat } from "lucide-react";
import { loopSelected, switchPlays } from "../commands/song/song";
import { Choice } from "../controls/choice";
import { useDesk, useSession } from "../session/context";
import { keyed } from "../person/keys";

/** What plays, whether the sheet goes along, and whether something is looped. */
export function PlaysChoice() {
  const { store } = useDesk();
  const plays = useSession((state) => state.plays);
  const stay = useSession((state) => state.stay);
  const looped = useSession((state) =>
    state.plays === "song" ? state.songLoop !== null : state.patternLoop?.pattern === state.pattern,
  );
  return (
    <>
      <Choice
        label="What plays"
        value={plays}
        className="flex rounded-lg bg-base-200"
        optionClass="border-transparent px-1.5 h-6"
        options={[
          {
            value: "pattern",
            shown: "Pattern",
            ...keyed("The current pattern plays", "song-plays"),
          },
          { value: "song", shown: "Song", ...keyed("The song plays", "song-plays") },
        ]}
        onChange={(next) => next !== plays && switchPlays(store)}
      />
      <button
        className={`btn btn-ghost btn-xs h-6 min-h-0 px-1 ${looped ? "bg-primary/15 text-primary" : ""}`}
        aria-pressed={looped}
        aria-label="Loop what is selected"
        {...keyed(
          "Loop the selected sections, or the selected stretch of the pattern; again to let go",
          "loop-selected",
        )}
        onClick={() => loopSelected(store)}
      >
        <Repeat size={14} />
      </button>
      <button
        className={`btn btn-ghost btn-xs h-6 min-h-0 px-1 ${stay ? "bg-primary/15 text-primary" : ""}`}
        aria-pressed={stay}
        aria-label="Stay here"
        {...keyed(
          "Stay here: the sheet shows what is edited while other patterns play; else it follows",
          "stay",
        )}
        onClick={() => store.getState().setArranging({ stay: !stay })}
      >
        <Pin size={14} />
      </button>
    </>
  );
}
