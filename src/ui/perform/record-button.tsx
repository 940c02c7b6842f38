"use client";
import { ChevronDown } from "lucide-react";
import { useState } from "react";
import { toggleRecord } from "../commands/perform/record";
import { Popover } from "../controls/popover";
import { useDesk, useSession } from "../session/context";
import { RecordSettings } from "./record-settings";
import { keyed } from "../person/keys";

/** Record, and how it is done behind a small arrow beside it. */
export function RecordButton() {
  const desk = useDesk();
  const recording = useSession((state) => state.perform.recording !== null);
  const any = useSession((state) => state.track !== "");
  const [open, setOpen] = useState(false);
  return (
    <div className="flex items-center">
      <button
        className={`btn btn-circle h-9 min-h-0 w-9 border-2 ${
          recording
            ? "border-[var(--squall)] bg-[var(--squall)] text-base-100"
            : "btn-ghost border-base-300"
        }`}
        aria-label={recording ? "Stop recording" : "Record"}
        aria-pressed={recording}
        {...keyed(
          `${recording ? "Stop recording; the loop goes on" : "Record what is played"}`,
          "record",
        )}
        disabled={!any}
        onClick={() => void toggleRecord(desk)}
      >
        <span
          className={`block ${recording ? "h-3 w-3 rounded-sm bg-base-100" : "h-3.5 w-3.5 rounded-full bg-[var(--squall)]"}`}
        />
      </button>
      <Popover
        label="Recording and metronome"
        open={open}
        onOpenChange={setOpen}
        className="w-[380px] gap-3 p-3"
        trigger={
          <button
            className="btn btn-ghost btn-xs h-9 min-h-0 w-[24px] px-0"
            aria-label="Recording and metronome"
            title="How recording works: mode, count-in, metronome, latency"
          >
            <ChevronDown size={14} />
          </button>
        }
      >
        <RecordSettings />
      </Popover>
    </div>
  );
}
