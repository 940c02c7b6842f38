"use client";
import { ChevronDown, ChevronRight, Copy, Plus, Trash2 } from "lucide-react";
import { memo, useDeferredValue, useEffect, useRef } from "react";
import { must } from "@/core/base";
import { LIMITS, type Pattern, type Project } from "@/core/score";
import {
  addPattern,
  choosePattern,
  deletePattern,
  setPatternBars,
} from "../commands/song/patterns";
import { ValueField } from "../controls/value-field";
import { HEADER_WIDTH } from "../geometry/layout";
import { useDesk, useSession } from "../session/context";
import { patternColour } from "./colours";
import { PatternList } from "./pattern-list";
import { PlaysChoice } from "./plays";
import { SmallPicture } from "./small-picture";
import { keyed } from "../person/keys";

/** The patterns in a row over the sheet, each with its number, name, colour and notes, and what plays. */
export function PatternStrip() {
  const project = useSession((state) => state.project);
  // The sheet itself comes first: what is in little may be a moment late.
  const drawn = useDeferredValue(project);
  return (
    <div className="flex h-[36px] shrink-0 items-center border-b border-base-300 bg-base-100 text-[12px]">
      <div className="flex shrink-0 items-center gap-1 pl-1.5" style={{ width: HEADER_WIDTH }}>
        <FoldSong />
        <PlaysChoice />
      </div>
      <div
        role="group"
        aria-label="Patterns"
        className="flex min-w-0 flex-1 items-center gap-1.5 overflow-x-auto [scrollbar-width:none]"
      >
        {project.patterns.map((pattern, i) => (
          <Chip key={pattern.id} pattern={pattern} number={i + 1} drawn={drawn} />
        ))}
      </div>
      <PatternTools several={project.patterns.length > 1} />
    </div>
  );
}

/** Opens the song under the patterns, and folds it away. */
function FoldSong() {
  const { store } = useDesk();
  const open = useSession((state) => state.songOpen);
  return (
    <button
      className="btn btn-ghost btn-xs h-6 min-h-0 w-6 px-0"
      aria-expanded={open}
      aria-label={open ? "Fold the song" : "Open the song"}
      {...keyed(`${open ? "Fold" : "Open"} the song`, "song")}
      onClick={() => store.getState().setArranging({ songOpen: !open })}
    >
      {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
    </button>
  );
}

interface ChipProps {
  pattern: Pattern;
  number: number;
  /** The project whose notes are drawn in little. */
  drawn: Project;
}

/** One pattern, to choose; the current one is brought into view. */
const Chip = memo(function Chip({ pattern, number, drawn }: ChipProps) {
  const { store } = useDesk();
  const notes = drawn.patterns.find(({ id }) => id === pattern.id);
  const current = useSession((state) => state.pattern === pattern.id);
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (current) button.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [current]);
  return (
    <button
      ref={button}
      className={`flex h-[28px] max-w-40 min-w-24 shrink-0 items-center gap-1.5 rounded-lg border pr-2 ${
        current ? "border-primary bg-primary/15" : "border-base-300 hover:border-base-content"
      }`}
      aria-pressed={current}
      aria-label={`Pattern ${pattern.name}`}
      title={`Pattern ${number}, ${pattern.name} (, and . step through)`}
      onClick={() => choosePattern(store, pattern.id)}
    >
      <span
        className="h-full w-1.5 shrink-0 rounded-l-[7px]"
        style={{ background: patternColour(pattern) }}
      />
      <span className="figure font-semibold">{number}</span>
      <span className="min-w-0 flex-1 truncate text-left">{pattern.name}</span>
      <span className={`h-5 w-9 shrink-0 ${current ? "text-primary" : "opacity-60"}`}>
        {notes && <SmallPicture project={drawn} pattern={notes} className="h-full w-full" />}
      </span>
    </button>
  );
});

/** Length of the current pattern; another pattern, all of them, one less. */
function PatternTools({ several }: { several: boolean }) {
  const { store } = useDesk();
  const pattern = useSession((state) =>
    must(state.project.patterns.find(({ id }) => id === state.pattern)),
  );
  return (
    <div className="flex shrink-0 items-center gap-0.5 pr-2 pl-1.5">
      <button
        className="btn btn-ghost btn-sm gap-1 px-1.5 font-normal"
        aria-label="Duplicate the pattern"
        {...keyed("Duplicate the pattern to vary it", "duplicate-pattern")}
        onClick={() => addPattern(store, "copy")}
      >
        <Copy size={14} /> <span className="max-[1180px]:hidden">Duplicate</span>
      </button>
      <button
        className="btn btn-ghost btn-sm px-1"
        aria-label="Add an empty pattern"
        title="Add an empty pattern"
        onClick={() => addPattern(store, "empty")}
      >
        <Plus size={16} />
      </button>
      <PatternList />
      <button
        className="btn btn-ghost btn-sm px-1"
        aria-label="Delete the pattern"
        title={several ? "Delete the pattern" : "The only pattern stays"}
        disabled={!several}
        onClick={() => deletePattern(store)}
      >
        <Trash2 size={14} />
      </button>
      <ValueField
        label="Length of the pattern in bars"
        className="w-[58px] text-center"
        value={pattern.bars}
        min={1}
        max={LIMITS.bars}
        format={(value) => (value === 1 ? "1 bar" : `${value} bars`)}
        onChange={(bars) => setPatternBars(store, pattern.id, bars)}
      />
    </div>
  );
}
