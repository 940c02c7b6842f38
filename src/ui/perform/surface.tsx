"use client";
import { X } from "lucide-react";
import { leaveEntry, onKit, setMode } from "../commands/perform/entry";
import { tapped } from "../commands/perform/taps";
import { Choice } from "../controls/choice";
import { useDesk, useSession } from "../session/context";
import type { Entry, EntryMode } from "../state/entry";
import { useSurfaceKeys } from "./entry-keys";
import { PlayControls } from "./play-controls";
import { PlayKeys } from "./play-keys";
import { StepControls } from "./step-controls";
import { keyed } from "../person/keys";

const MODES: readonly { id: EntryMode; label: string; about: string; action?: string }[] = [
  {
    id: "play",
    label: "Play",
    about: "Keys sound as long as they are held; record or keep it",
    action: "play-keys",
  },
  {
    id: "notes",
    label: "Enter steps",
    about: "Each key enters a note of the value and moves on",
    action: "entry",
  },
  {
    id: "tap",
    label: "Tap a rhythm",
    about: "Keys tap against the loop: hits without a pitch",
    action: "tap",
  },
  { id: "pitches", label: "Set pitches", about: "Each key sets the pitch of the next tapped hit" },
];

/** The playing surface: one place to play, to enter steps, to tap a rhythm and to give it pitches. */
export function Surface() {
  const entry = useSession((state) => state.entry);
  useSurfaceKeys();
  return entry ? <Open entry={entry} /> : null;
}

function Open({ entry }: { entry: Entry }) {
  const { store } = useDesk();
  const left = useSession((state) => tapped(state).length);
  const kit = useSession(onKit);
  const playing = entry.mode === "play";
  return (
    <section
      aria-label={playing ? "Playing surface" : "Step entry"}
      className="flex max-h-[45dvh] gap-x-4 gap-y-1 overflow-y-auto border-t border-base-300 px-4 py-2 text-[12px] max-[900px]:flex-wrap"
    >
      <div className="flex w-[132px] shrink-0 flex-col gap-1 max-[900px]:w-full max-[900px]:flex-row">
        <Choice
          label="What the keys do"
          className="flex flex-col gap-0.5 max-[900px]:flex-row"
          optionClass="flex h-[25px] items-center justify-between border-transparent px-2 text-left"
          value={entry.mode}
          options={MODES.filter(({ id }) => !kit || id !== "pitches").map(
            ({ id, label, about, action }) => ({
              value: id,
              ...(action ? keyed(about, action) : { title: about }),
              shown: (
                <>
                  {label}
                  {id === "pitches" && left > 0 && <span className="figure">{left} left</span>}
                </>
              ),
            }),
          )}
          onChange={(mode) => setMode(store, mode)}
        />
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 justify-start gap-1 px-1.5"
          title={playing ? "Leave (esc)" : "Leave step entry (esc)"}
          onClick={() => leaveEntry(store)}
        >
          <X size={12} /> Leave
        </button>
      </div>
      <div className="flex min-w-[270px] flex-1 flex-col gap-1.5">
        {playing ? <PlayControls /> : <StepControls entry={entry} />}
      </div>
      <div className="w-[410px] max-w-full shrink-0 max-[900px]:w-[394px]">
        <PlayKeys />
      </div>
    </section>
  );
}
