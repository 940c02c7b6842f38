"use client";
import { dragWords } from "../controls/drag-words";
import {
  DndContext,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { Copy, GripVertical, LayoutList, Plus, Trash2 } from "lucide-react";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { plural, must } from "@/core/base";
import { COLOURS, type Colour, LIMITS, type Pattern, metreOf } from "@/core/score";
import {
  addPattern,
  choosePattern,
  clearPattern,
  deletePattern,
  duplicateTracks,
  movePartTo,
  movePattern,
  renamePattern,
  setPatternColour,
} from "../commands/song/patterns";
import { Popover } from "../controls/popover";
import { useStroke } from "../controls/stroke";
import { useRequest } from "../session/requested";
import { useDesk, useSession } from "../session/context";
import { cssColour, patternColour } from "./colours";
import { PatternMetre } from "./pattern-metre";
import { SmallPicture } from "./small-picture";
import { keyed } from "../person/keys";

/** All patterns with their names, colours and notes, to choose, order, copy, clear and delete. */
export function PatternList() {
  const [open, setOpen] = useState(false);
  const dragging = useRef(false);
  useRequest("patterns", () => setOpen(true));
  return (
    <Popover
      label="Patterns"
      open={open}
      onOpenChange={setOpen}
      align="end"
      // Escape in the middle of a drag ends the drag.
      keepsOnEscape={() => dragging.current}
      className="w-[400px] gap-2 p-2.5"
      trigger={
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="All patterns"
          {...keyed("All patterns: names, colours, order", "patterns")}
        >
          <LayoutList size={16} />
        </button>
      }
    >
      <List onClose={() => setOpen(false)} onDragging={(on) => (dragging.current = on)} />
    </Popover>
  );
}

function List({ onClose, onDragging }: { onClose(): void; onDragging(dragging: boolean): void }) {
  const { store } = useDesk();
  const patterns = useSession((state) => state.project.patterns);
  const current = useSession((state) => state.pattern);
  const pattern = must(patterns.find((pattern) => pattern.id === current));
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const stroke = useStroke();
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => {
    list.current?.querySelector<HTMLElement>("[aria-selected=true]")?.focus();
  }, [current]);
  const move = (id: string, by: 1 | -1) => {
    const at = patterns.findIndex((pattern) => pattern.id === id);
    movePattern(store, id, by < 0 ? at - 1 : at + 2);
  };
  const drop = (event: DragEndEvent) => {
    onDragging(false);
    const id = String(event.active.id);
    const at = (wanted: string | null) => patterns.findIndex((pattern) => pattern.id === wanted);
    const to = at(stroke.over(event, "data-pattern"));
    if (to < 0 || to === at(id)) return;
    movePattern(store, id, to > at(id) ? to + 1 : to);
  };
  const onKey = (event: KeyboardEvent) => {
    if (!(event.target as HTMLElement).dataset.pattern) return;
    const at = patterns.findIndex((pattern) => pattern.id === current);
    const way = event.key === "ArrowUp" ? -1 : event.key === "ArrowDown" ? 1 : 0;
    if (way !== 0 && (event.ctrlKey || event.metaKey)) move(current, way);
    else if (way !== 0) {
      const next = patterns[at + way];
      if (next) choosePattern(store, next.id);
    } else if (event.key === "Enter") onClose();
    else if (event.key === "Delete") deletePattern(store);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <>
      <DndContext
        id="patterns"
        accessibility={dragWords(
          (id) => patterns.find((pattern) => pattern.id === id)?.name ?? null,
        )}
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragStart={() => onDragging(true)}
        // Only after the same key was seen by all who listen: the list must not close with the drag.
        onDragCancel={() => setTimeout(() => onDragging(false))}
        onDragEnd={drop}
      >
        <SortableContext
          items={patterns.map((pattern) => pattern.id)}
          strategy={verticalListSortingStrategy}
        >
          <div
            ref={list}
            role="listbox"
            aria-label="Patterns in order"
            className="flex max-h-[320px] flex-col gap-0.5 overflow-y-auto"
            onKeyDown={onKey}
          >
            {patterns.map((pattern, i) => (
              <Row
                key={pattern.id}
                pattern={pattern}
                number={i + 1}
                current={pattern.id === current}
              />
            ))}
          </div>
        </SortableContext>
      </DndContext>
      <Details key={pattern.id} pattern={pattern} only={patterns.length < 2} />
    </>
  );
}

function Row({ pattern, number, current }: { pattern: Pattern; number: number; current: boolean }) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } =
    useSortable({ id: pattern.id });
  const own = pattern.metre && `${pattern.metre.beats}/${pattern.metre.unit}`;
  return (
    <div
      ref={setNodeRef}
      role="option"
      aria-selected={current}
      tabIndex={current ? 0 : -1}
      data-pattern={pattern.id}
      aria-label={`Pattern ${number}: ${pattern.name}`}
      className={`flex h-9 shrink-0 cursor-pointer items-center gap-2 rounded-lg pr-2 pl-1 ${current ? "bg-primary/15" : "hover:bg-base-200"} ${isDragging ? "z-10 opacity-70" : ""}`}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      onClick={() => choosePattern(store, pattern.id)}
    >
      <span ref={setActivatorNodeRef} {...listeners} className="quiet cursor-grab touch-none">
        <GripVertical size={14} />
      </span>
      <span className="h-6 w-1 rounded-full" style={{ background: patternColour(pattern) }} />
      <span className="figure quiet w-5 text-right text-[12px]">{number}</span>
      <span className="w-[108px] truncate font-semibold">{pattern.name}</span>
      <span className="h-6 min-w-0 flex-1 text-base-content/60">
        <SmallPicture project={project} pattern={pattern} className="h-full w-full" />
      </span>
      <span className="figure quiet w-[74px] text-right text-[12px]">
        {[plural(pattern.bars, "bar"), own].filter(Boolean).join(" ")}
      </span>
    </div>
  );
}

/** What can be changed of the current pattern, and done with it. */
function Details({ pattern, only }: { pattern: Pattern; only: boolean }) {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const [some, setSome] = useState<ReadonlySet<string> | null>(null);
  return (
    <div className="flex flex-col gap-2 border-t border-base-300 pt-2">
      <div className="flex items-center gap-2">
        <input
          className="input input-sm min-w-0 flex-1"
          aria-label="Name of the pattern"
          maxLength={LIMITS.name}
          defaultValue={pattern.name}
          key={pattern.name}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
            event.stopPropagation();
          }}
          onBlur={(event) => {
            renamePattern(store, pattern.id, event.target.value);
            event.target.value = pattern.name;
          }}
        />
        <PatternMetre pattern={pattern} metre={metreOf(project, pattern)} />
      </div>
      <ColourChoice pattern={pattern} />
      <div className="flex flex-wrap gap-1">
        <button className="btn btn-sm h-7 min-h-0 px-2" onClick={() => addPattern(store, "copy")}>
          <Copy size={13} /> Duplicate
        </button>
        <button
          className="btn btn-sm h-7 min-h-0 px-2"
          aria-expanded={some !== null}
          onClick={() => setSome(some ? null : new Set(project.tracks.map((track) => track.id)))}
        >
          Duplicate some tracks
        </button>
        <button className="btn btn-sm h-7 min-h-0 px-2" onClick={() => addPattern(store, "empty")}>
          <Plus size={13} /> Empty
        </button>
        <button className="btn btn-sm h-7 min-h-0 px-2" onClick={() => clearPattern(store)}>
          Clear
        </button>
        <button
          className="btn btn-sm h-7 min-h-0 px-2"
          disabled={only}
          onClick={() => deletePattern(store)}
        >
          <Trash2 size={13} /> Delete
        </button>
      </div>
      {some && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
          {project.tracks.map((track) => (
            <label key={track.id} className="flex min-h-6 items-center gap-1.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={some.has(track.id)}
                onChange={() => {
                  const next = new Set(some);
                  if (!next.delete(track.id)) next.add(track.id);
                  setSome(next);
                }}
              />
              {track.name}
            </label>
          ))}
          <button
            className="btn btn-primary btn-sm h-7 min-h-0"
            disabled={some.size === 0}
            onClick={() => {
              duplicateTracks(store, some);
              setSome(null);
            }}
          >
            Duplicate {plural(some.size, "track")}
          </button>
        </div>
      )}
      <MovePart pattern={pattern} />
    </div>
  );
}

function ColourChoice({ pattern }: { pattern: Pattern }) {
  const { store } = useDesk();
  return (
    <div className="flex items-center gap-1" role="group" aria-label="Colour of the pattern">
      {[undefined, ...COLOURS].map((colour: Colour | undefined) => (
        <button
          key={colour ?? "none"}
          className={`h-6 w-8 rounded-md border-2 ${pattern.colour === colour ? "border-base-content" : "border-transparent"}`}
          style={{ background: cssColour(colour) }}
          aria-pressed={pattern.colour === colour}
          aria-label={colour ? `Colour ${colour}` : "No colour"}
          title={colour ?? "No colour"}
          onClick={() => setPatternColour(store, pattern.id, colour ?? null)}
        />
      ))}
    </div>
  );
}

/** Takes the current track's part to another pattern. */
function MovePart({ pattern }: { pattern: Pattern }) {
  const { store } = useDesk();
  const patterns = useSession((state) => state.project.patterns);
  const track = useSession((state) =>
    state.project.tracks.find((track) => track.id === state.track),
  );
  const others = patterns.filter((one) => one.id !== pattern.id);
  if (!track || others.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      <span className="quiet">Part of {track.name}</span>
      <select
        className="select select-xs min-w-0 flex-1"
        aria-label={`Move or copy the part of ${track.name}`}
        value=""
        onChange={(event) => {
          const [how, id] = event.target.value.split(" ");
          movePartTo(store, id!, how === "copy");
        }}
      >
        <option value="">to another pattern …</option>
        {others.flatMap((pattern) => [
          <option key={`move-${pattern.id}`} value={`move ${pattern.id}`}>
            Move to {pattern.name}
          </option>,
          <option key={`copy-${pattern.id}`} value={`copy ${pattern.id}`}>
            Copy to {pattern.name}
          </option>,
        ])}
      </select>
    </label>
  );
}
