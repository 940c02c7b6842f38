"use client";
import dynamic from "next/dynamic";
import { useState } from "react";
import { toast } from "sonner";
import { GRID_VALUES, type TempoRow, nearestNoteValue, tempoTable } from "@/core/time";
import { padName } from "@/core/pitch";
import { type SyncedTime } from "@/core/sound";
import type { Note } from "@/core/score";
import { timingOf, timingWords } from "@/core/analysis";
import { useDesk, useSession } from "../../session/context";
import { currentMetre, currentPart, effectiveCurrent } from "../../state/current";
import { GridFitting } from "./grid-fitting";
import { syncSendEffect } from "../../commands/tracks/mix";
import { mean, must } from "@/core/base";
import { OffGridList } from "./off-grid-list";

// The chart library is large: it is fetched from the server when this panel is first opened.
const TimingChart = dynamic(() => import("./timing-chart"), { ssr: false });

const KINDS = ["straight", "triplet", "dotted"] as const;

/** What a click on a note value does: copies it, or makes it a time of the room, which follows the tempo. */
type Use = "copy" | SyncedTime;
const USES: readonly { id: Use; label: string }[] = [
  { id: "copy", label: "copies its ms" },
  { id: "echoTime", label: "sets the time of the echo" },
  { id: "preDelay", label: "sets the pre-delay of the reverb" },
  { id: "decay", label: "sets the decay of the reverb" },
];

/** Note values in ms and Hz at this tempo, to copy into delays, reverbs and decays. */
export function MeasurePanel() {
  const tempo = useSession((state) => state.project.tempo);
  const rows = tempoTable(tempo);
  const { store } = useDesk();
  const [use, setUse] = useState<Use>("copy");
  const set = (time: SyncedTime, row: TempoRow) => syncSendEffect(store, time, row.name);
  const copy = async (row: TempoRow) => {
    try {
      await navigator.clipboard.writeText(row.ms.toFixed(3));
      toast.success(`Copied ${row.name} = ${row.ms.toFixed(3)} ms`);
    } catch {
      toast.error("The browser did not let the clipboard be written");
    }
  };
  return (
    <div className="overflow-y-auto p-3.5 text-[12px]">
      <TimingOfLane />
      <p className="quiet mb-2">
        Note values at <b className="figure text-base-content">{tempo}</b> BPM, in ms over Hz.
      </p>
      <label className="mb-2 flex items-center gap-2">
        <span className="quiet shrink-0">A click</span>
        <select
          className="select select-xs min-w-0 flex-1"
          aria-label="What a click on a note value does"
          value={use}
          onChange={(event) => setUse(event.target.value as Use)}
        >
          {USES.map(({ id, label }) => (
            <option key={id} value={id}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <FromMs tempo={tempo} />
      <table className="w-full border-collapse">
        <thead>
          <tr className="quiet text-left">
            <th className="py-1 font-normal">Value</th>
            {KINDS.map((kind) => (
              <th key={kind} className="py-1 text-right font-normal">
                {kind}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {GRID_VALUES.map((value) => (
            <tr key={value} className="border-t border-base-300">
              <th className="figure text-left font-medium">1/{value}</th>
              {KINDS.map((kind) => {
                const row = must(rows.find((row) => row.value === value && row.kind === kind));
                return (
                  <td key={kind} className="text-right">
                    <button
                      className="figure rounded px-1 py-0.5 leading-tight hover:bg-base-200"
                      aria-label={`${use === "copy" ? "Copy" : "Set to"} ${row.name}: ${row.ms.toFixed(3)} ms`}
                      onClick={() => (use === "copy" ? void copy(row) : set(use, row))}
                    >
                      {row.ms.toFixed(row.ms < 1000 ? 1 : 0)}
                      <span className="quiet block text-[12px]">
                        {row.hz.toFixed(row.hz < 10 ? 2 : 1)}
                      </span>
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The table read backwards: a time in ms, and the note value it is nearest to. */
function FromMs({ tempo }: { tempo: number }) {
  const [text, setText] = useState("");
  const found = text === "" ? null : nearestNoteValue(Number(text.replace(",", ".")), tempo);
  const off = found ? Math.abs(found.error) : 0;
  return (
    <label className="mb-2 flex items-center gap-2">
      <input
        className="input input-xs figure w-20"
        inputMode="decimal"
        placeholder="ms"
        aria-label="Time in ms"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <span className="quiet" data-testid="nearest-value">
        {text === "" ? (
          "Type a time to find its note value."
        ) : !found ? (
          "A time from 0.1 to 60 000 ms is needed."
        ) : (
          <>
            nearest to <b className="figure text-base-content">{found.row.name}</b>,{" "}
            {off < 0.05
              ? "exactly"
              : `${off.toFixed(1)} % ${found.error > 0 ? "longer" : "shorter"}`}
          </>
        )}
      </span>
    </label>
  );
}

/** How loud, and how evenly. */
function Velocities({ notes }: { notes: readonly Note[] }) {
  const all = notes.map(({ velocity }) => velocity);
  const middle = mean(all);
  const spread = Math.sqrt(mean(all.map((velocity) => (velocity - middle) ** 2)));
  const [least, most] = [Math.min(...all), Math.max(...all)];
  return (
    <p className="quiet" data-testid="velocity-words">
      {least === most
        ? `All of velocity ${least}.`
        : `Velocity ${least} to ${most}, ${Math.round(middle)} on average, spread ${spread.toFixed(1)}.`}
    </p>
  );
}

/** How the current lane (or line) stands to its grid. */
function TimingOfLane() {
  const project = useSession((state) => state.project);
  const selection = useSession((state) => state.selection);
  const metre = useSession(currentMetre);
  const trackId = useSession((state) => state.track);
  const pitch = useSession((state) => state.caret.pitch);
  const part = useSession((state) => (state.track ? currentPart(state) : null));
  const effective = useSession((state) => (state.track ? effectiveCurrent(state) : null));
  const index = project.tracks.findIndex((track) => track.id === trackId);
  const track = project.tracks[index];
  if (!track || !part || !effective) return null;
  const lane = track.lanes.find((lane) => lane.pitch === pitch);
  const drums = track.kind === "drums";
  const ofLane = (all: readonly Note[]) =>
    drums ? all.filter((note) => note.pitch === pitch) : all;
  const chosen = ofLane(effective.notes).filter(({ id }) => selection.has(id));
  // What is selected is measured; else the lane, or the line.
  const measured = (all: readonly Note[]) =>
    chosen.length > 1 ? ofLane(all).filter(({ id }) => selection.has(id)) : ofLane(all);
  const notes = measured(effective.notes);
  const grid = lane?.grid ?? part.grid;
  const timing = timingOf(notes, grid, project.tempo);
  const before = timingOf(measured(part.notes), grid, project.tempo);
  const whole = drums ? (lane?.name ?? padName(pitch)) : track.name;
  const name = chosen.length > 1 ? `${chosen.length} selected` : whole;
  const words = timingWords(timing.drifts, metre);
  const lean = Math.abs(timing.mean) < 0.05 ? "even" : timing.mean > 0 ? "late" : "early";
  const average =
    lean === "even"
      ? "on the grid on average"
      : `${Math.abs(timing.mean).toFixed(1)} ms ${lean} on average`;
  return (
    <section className="mb-4" aria-label="Timing">
      <h3 className="mb-1 text-[13px] font-semibold">Timing of {name}</h3>
      <p className="quiet">
        {notes.length === 0
          ? "Nothing to measure yet: add some hits to this lane."
          : timing.off === 0
            ? `All ${notes.length} are on the grid.`
            : `${timing.off} of ${notes.length} off the grid, ${average}, spread ${timing.spread.toFixed(1)} ms.`}
      </p>
      {timing.off > 0 && <p data-testid="timing-words">{words}.</p>}
      <GridFitting />
      {notes.length > 0 && (
        // Its room is there before it comes.
        <div className="min-h-[165px]">
          <TimingChart
            timing={timing}
            before={part.chain.length > 0 ? before : null}
            metre={metre}
            ink={index}
          />
        </div>
      )}
      {notes.length > 1 && <Velocities notes={notes} />}
      <OffGridList />
    </section>
  );
}
