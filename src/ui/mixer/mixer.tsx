"use client";
import { X } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useDesk, useSession } from "../session/context";
import { LaneLevels } from "./lane-levels";
import { SendEffectsPanel } from "./send-effects-panel";
import { TrackStrip } from "./track-strip";
import { Whole } from "./master";
import { keyed } from "../person/keys";

/** All tracks side by side under the sheet, with the room they share and the whole mix. */
export function Mixer() {
  const { store } = useDesk();
  const tracks = useSession((state) => state.project.tracks);
  const current = useSession((state) => state.track);
  const [lanes, setLanes] = useState<string | null>(null);
  const strips = useRef<HTMLDivElement>(null);
  // The track in hand is in view.
  useEffect(() => {
    const at = tracks.findIndex((track) => track.id === current);
    strips.current?.querySelectorAll(":scope > [data-strip]")[at]?.scrollIntoView({
      block: "nearest",
      inline: "nearest",
    });
  }, [current, tracks]);
  const close = () => {
    store.getState().setLook({ mixerOpen: false });
    store.getState().request("sheet");
  };
  return (
    <section
      aria-label="Mixer"
      data-covers-foot
      className="flex h-[376px] max-h-[52vh] shrink-0 border-t border-base-300 bg-base-100"
      onKeyDown={(event) => {
        if (event.key !== "Escape" || event.defaultPrevented) return;
        event.stopPropagation();
        close();
      }}
    >
      <div ref={strips} className="flex min-w-0 flex-1 overflow-x-auto">
        {tracks.map((track, index) => (
          <div key={track.id} className="flex" data-strip>
            <TrackStrip
              track={track}
              index={index}
              lanes={lanes === track.id}
              onLanes={() => setLanes(lanes === track.id ? null : track.id)}
            />
            {lanes === track.id && <LaneLevels track={track} />}
          </div>
        ))}
        {tracks.length === 0 && <p className="quiet p-4">Add a track first, on the left.</p>}
      </div>
      <SendEffectsPanel />
      <div className="relative flex">
        <Whole />
        <button
          className="btn btn-ghost btn-xs absolute top-1 right-1 h-6 w-6 px-0"
          aria-label="Close the mixer"
          {...keyed("Close the mixer", "mixer")}
          onClick={close}
        >
          <X size={14} />
        </button>
      </div>
    </section>
  );
}
