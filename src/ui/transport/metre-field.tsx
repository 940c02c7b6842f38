"use client";
import { useRef, useState } from "react";
import { METRES, type Metre } from "@/core/time";
import { Popover } from "../controls/popover";
import { useRequest } from "../session/requested";
import { hasTimes } from "@/core/score";
import { type MetreChange, metreText, setMetre } from "../commands/song/project";
import { useDesk, useSession } from "../session/context";

/** The metre. Where something stands in time already, a change asks what is to stay. */
export function MetreField() {
  const { store } = useDesk();
  const metre = useSession((state) => state.project.metre);
  const field = useRef<HTMLSelectElement>(null);
  const [asked, setAsked] = useState<Metre | null>(null);
  useRequest("metre", () => field.current?.focus());
  const offered = METRES.some((m) => metreText(m) === metreText(metre))
    ? METRES
    : [...METRES, metre];
  const asks = useSession((state) => hasTimes(state.project));
  const done = () => {
    setAsked(null);
    store.getState().request("sheet");
  };
  const change = (to: Metre, keep: MetreChange) => {
    done();
    setMetre(store, to, keep);
  };
  return (
    <Popover
      label="What the change of metre keeps"
      open={asked !== null}
      onOpenChange={(open) => !open && done()}
      className="w-72 gap-1.5 p-3"
      anchor={
        <select
          ref={field}
          className="figure -ml-0.5 h-[24px] min-w-[24px] cursor-pointer appearance-none bg-transparent font-medium"
          aria-label="Metre"
          data-asks={asks || undefined}
          value={metreText(asked ?? metre)}
          onChange={(event) => {
            const [beats = 4, unit = 4] = event.target.value.split("/").map(Number);
            const to = { beats, unit };
            if (asks) setAsked(to);
            else change(to, "places");
          }}
        >
          {offered.map((metre) => (
            <option key={metreText(metre)}>{metreText(metre)}</option>
          ))}
        </select>
      }
    >
      {asked && (
        <>
          <p>
            From {metreText(metre)} to {metreText(asked)}
          </p>
          <button className="btn btn-sm justify-start" onClick={() => change(asked, "places")}>
            Notes move with their bars
          </button>
          <p className="quiet -mt-1 px-1 text-[12px]">
            Each keeps its place in its bar, chords too; what a shorter bar has no room for is shown
            past the end.
          </p>
          <button className="btn btn-sm justify-start" onClick={() => change(asked, "times")}>
            Notes stay where they are
          </button>
          <p className="quiet -mt-1 px-1 text-[12px]">
            Nothing moves: it sounds as before, and bar lines fall elsewhere.
          </p>
          <button className="btn btn-ghost btn-sm" onClick={done}>
            Cancel
          </button>
        </>
      )}
    </Popover>
  );
}
