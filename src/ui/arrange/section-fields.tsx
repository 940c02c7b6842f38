"use client";
import { useDraggable } from "@dnd-kit/core";
import { CopyPlus, GitFork, Play, Scissors, Trash2 } from "lucide-react";
import { useState } from "react";
import { LIMITS, type Pattern, type SongEntry, patternOf, sectionBars } from "@/core/score";
import {
  addSection,
  cloneWithTracks,
  currentSection,
  deleteSelectedSections,
  duplicateSections,
  jumpTo,
  ownPattern,
  splitCurrentSection,
} from "../commands/song/song";
import { Popover } from "../controls/popover";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { CutPattern } from "./cut-pattern";
import { patternColour } from "./colours";
import {
  renameSection,
  setSectionPattern,
  setSectionTimes,
  setSectionBars,
  setSectionTempo,
  continueSection,
  muteInSection,
} from "../commands/song/sections";
import { SectionChords } from "./section-chords";

/** What the open strip says of the current section, and patterns to add. */
export function SectionFields() {
  const entry = useSession(currentSection);
  const patterns = useSession((state) => state.project.patterns);
  return (
    <div className="flex min-h-[34px] flex-wrap items-center gap-x-3 gap-y-1 border-t border-base-300 px-2 py-1">
      <div className="flex items-center gap-1" role="group" aria-label="Add a pattern to the song">
        <span className="quiet mr-0.5">Add</span>
        {patterns.slice(0, 12).map((pattern) => (
          <PatternChip key={pattern.id} pattern={pattern} />
        ))}
      </div>
      <CutPattern />
      {entry ? (
        <Fields key={entry.id} entry={entry} />
      ) : (
        <span className="quiet">
          Select a section to change it; drag or press a pattern to add it
        </span>
      )}
    </div>
  );
}

/** A pattern to be pressed or dragged into the song. */
function PatternChip({ pattern }: { pattern: Pattern }) {
  const { store } = useDesk();
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: `pattern-${pattern.id}`,
    data: { pattern: pattern.id },
  });
  return (
    <button
      ref={setNodeRef}
      {...listeners}
      className={`figure h-6 max-w-24 min-w-6 touch-none truncate rounded-md border-l-4 bg-base-200 px-1.5 text-[12px] font-semibold hover:bg-base-300 ${isDragging ? "z-10 opacity-70" : ""}`}
      style={{
        borderLeftColor: patternColour(pattern),
        ...(transform && { transform: `translate(${transform.x}px, ${transform.y}px)` }),
      }}
      aria-label={`Add ${pattern.name} to the song`}
      title={`Add ${pattern.name} after the current section, or drag it to a place`}
      onClick={() => addSection(store, pattern.id)}
    >
      {pattern.name}
    </button>
  );
}

const tempoText = (value: number) =>
  Number.isInteger(value * 10) ? value.toFixed(1) : value.toFixed(2);

function Fields({ entry }: { entry: SongEntry }) {
  const desk = useDesk();
  const { store } = desk;
  const project = useSession((state) => state.project);
  const pattern = patternOf(project, entry.pattern);
  const bars = sectionBars(entry, pattern);
  const before = project.song[project.song.indexOf(entry) - 1];
  return (
    <>
      <div className="flex items-center gap-2">
        <input
          className="w-[104px] rounded bg-transparent px-1 font-semibold hover:bg-base-300/50 focus:bg-base-100"
          aria-label="Name of the section"
          title="Name of the section; empty for its pattern's"
          placeholder={pattern.name}
          maxLength={LIMITS.name}
          defaultValue={entry.name ?? ""}
          key={entry.name ?? ""}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
            if (event.key === "Escape") {
              event.currentTarget.value = entry.name ?? "";
              event.currentTarget.blur();
            }
          }}
          onBlur={(event) => {
            renameSection(store, entry.id, event.target.value);
          }}
        />
        <label className="flex items-center gap-1">
          <span className="quiet">plays</span>
          <select
            className="select select-xs figure w-[72px]"
            aria-label="Pattern of the section"
            value={entry.pattern}
            onChange={(event) => {
              setSectionPattern(store, entry.id, event.target.value);
            }}
          >
            {project.patterns.map((pattern) => (
              <option key={pattern.id} value={pattern.id}>
                {pattern.name}
              </option>
            ))}
          </select>
        </label>
        <ValueField
          label="Repeats of the section"
          className="w-[46px]"
          value={entry.times}
          min={1}
          max={LIMITS.times}
          format={(value) => `×${value}`}
          onChange={(times) => setSectionTimes(store, entry.id, times)}
        />
        <ValueField
          label="Length of the section in bars"
          className="w-[62px]"
          value={bars}
          min={1}
          max={LIMITS.bars}
          format={(value) => (value === 1 ? "1 bar" : `${value} bars`)}
          onChange={(next) => setSectionBars(store, entry.id, next)}
        />
        <ValueField
          label="Tempo of the section"
          className={`w-[82px] ${entry.tempo === undefined ? "quiet" : "font-medium"}`}
          value={entry.tempo ?? project.tempo}
          min={LIMITS.tempo.min}
          max={LIMITS.tempo.max}
          reset={project.tempo}
          format={(value) => `${tempoText(value)} BPM`}
          onChange={(bpm) => setSectionTempo(store, entry.id, bpm)}
        />
        <TracksMenu entry={entry} />
        <SectionChords entry={entry} />
        {before?.pattern === entry.pattern && <CountsOn entry={entry} />}
      </div>
      <div className="flex items-center">
        <Tool
          label="Play from this section"
          title="Play from this section; while the song plays, go on there with the next bar (enter)"
          onClick={() => jumpTo(desk, entry.id, "bar")}
        >
          <Play size={14} />
        </Tool>
        <Tool
          label="Copy the sections"
          title="Copy the selected sections after themselves (ctrl D)"
          onClick={() => duplicateSections(store)}
        >
          <CopyPlus size={14} />
        </Tool>
        <Tool
          label="Split the section"
          title="Split the section in two (Y)"
          onClick={() => splitCurrentSection(store)}
        >
          <Scissors size={14} />
        </Tool>
        <Tool
          label="Pattern of its own"
          title="Give this section a pattern of its own, a copy to vary"
          onClick={() => ownPattern(store)}
        >
          <GitFork size={14} />
        </Tool>
        <Tool
          label="Delete the sections"
          title="Delete the selected sections; their patterns stay (del)"
          onClick={() => deleteSelectedSections(store)}
        >
          <Trash2 size={14} />
        </Tool>
      </div>
    </>
  );
}

/** Whether a section counts its loops on from the one before it, of the same pattern. */
function CountsOn({ entry }: { entry: SongEntry }) {
  const { store } = useDesk();
  return (
    <button
      className={`btn btn-ghost btn-xs h-6 min-h-0 px-1.5 font-normal ${entry.continues ? "text-primary" : ""}`}
      aria-pressed={entry.continues === true}
      title="Counts its loops on from the section before it, so that hits with a condition sound as if the two were one"
      onClick={() => continueSection(store, entry.id, !entry.continues)}
    >
      Counts on
    </button>
  );
}

function Tool({
  label,
  title,
  onClick,
  children,
}: {
  label: string;
  title: string;
  onClick(): void;
  children: React.ReactNode;
}) {
  return (
    <button
      className="btn btn-ghost btn-xs h-6 min-h-0 px-1.5"
      aria-label={label}
      title={title}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

/** Which tracks play in a section; and a clone of it with those alone. */
function TracksMenu({ entry }: { entry: SongEntry }) {
  const { store } = useDesk();
  const tracks = useSession((state) => state.project.tracks);
  const [open, setOpen] = useState(false);
  const silent = new Set(entry.mutes);
  const sounding = tracks.filter((track) => !silent.has(track.id));
  return (
    <Popover
      label="Tracks of the section"
      open={open}
      onOpenChange={setOpen}
      className="w-[240px] gap-0.5 p-2"
      trigger={
        <button
          className={`btn btn-ghost btn-xs h-6 min-h-0 px-1.5 font-normal ${silent.size > 0 ? "text-primary" : ""}`}
          title="Which tracks play in this section"
        >
          {silent.size === 0 ? "All tracks" : `${sounding.length} of ${tracks.length} tracks`}
        </button>
      }
    >
      {tracks.map((track, i) => (
        <label
          key={track.id}
          className="flex min-h-7 items-center gap-2 rounded-lg px-2 hover:bg-base-200"
        >
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={!silent.has(track.id)}
            onChange={(event) => {
              const what = event.target.checked ? "unmute" : "mute";
              muteInSection(store, entry.id, track.id, what);
            }}
          />
          <span className="h-3 w-1 rounded-full" style={{ background: `var(--track-${i % 8})` }} />
          <span className="truncate">{track.name}</span>
        </label>
      ))}
      <button
        className="btn btn-sm mt-1 h-7 min-h-0"
        title="The section again, with a new pattern that holds what these tracks play"
        onClick={() => {
          cloneWithTracks(store, new Set(sounding.map((track) => track.id)));
          setOpen(false);
        }}
      >
        Clone with these tracks
      </button>
    </Popover>
  );
}
