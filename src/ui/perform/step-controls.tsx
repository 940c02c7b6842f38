"use client";
import { Delete } from "lucide-react";
import { leaveChord, onKit, rest, settle, stepBack, tie } from "../commands/perform/entry";
import { Toggle } from "../controls/toggle";
import { useDesk, useSession } from "../session/context";
import type { Entry } from "../state/entry";
import { Dynamics } from "./dynamics";
import { Octave } from "./octave";

/** What goes with entering steps: dynamics, rest, tie, chords; note values stand at the caret on the sheet. */
export function StepControls({ entry }: { entry: Entry }) {
  const { store } = useDesk();
  const kit = useSession(onKit);
  const change = store.getState().setEntry;
  return (
    <>
      <Dynamics
        velocity={entry.velocity}
        keys="C softer, V louder"
        onChange={(velocity) => change({ velocity })}
      />
      <div className="flex flex-wrap items-center gap-1">
        <Plain label="Rest" title="A step without a note (enter)" onClick={() => rest(store)} />
        <Plain label="Tie" title="Hold the last step on (=)" onClick={() => tie(store)} />
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
          aria-label="Step back"
          title="Delete the last step (backspace)"
          onClick={() => stepBack(store)}
        >
          <Delete size={14} />
        </button>
        <Toggle
          label="Build chord"
          title="Clicked keys stay on one step until Next step"
          on={entry.gather}
          onClick={() => leaveChord(store)}
        />
        {entry.gather && (
          <Plain label="Next step" title="The chord is done" onClick={() => settle(store)} />
        )}
      </div>
      <div className="flex flex-wrap items-center gap-1">
        {entry.mode === "tap" ? (
          <Toggle
            label="Snap taps to grid"
            on={entry.snapTaps}
            onClick={() => change({ snapTaps: !entry.snapTaps })}
          />
        ) : (
          <Toggle
            label={entry.insert ? "Insert" : "Overwrite"}
            title="Insert moves what follows on; overwrite takes its place (M)"
            on={entry.insert}
            onClick={() => change({ insert: !entry.insert })}
          />
        )}
        {!kit && <Octave keys="Z down, X up" />}
      </div>
    </>
  );
}

interface ButtonProps {
  label: string;
  title?: string;
  onClick(): void;
}

const Plain = ({ label, title, onClick }: ButtonProps) => (
  <button className="btn btn-xs h-[24px] min-h-0 px-2" title={title} onClick={onClick}>
    {label}
  </button>
);
