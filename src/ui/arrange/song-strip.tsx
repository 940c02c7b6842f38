"use client";
import { dragWords } from "../controls/drag-words";
import {
  DndContext,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import { Plus } from "lucide-react";
import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type RefObject } from "react";
import { plural, nth, lastOf, must } from "@/core/base";
import type { Project } from "@/core/score";
import {
  addSection,
  deleteSelectedSections,
  duplicateSections,
  jumpTo,
  repeatSections,
  shiftSections,
  songOfPatterns,
  songSeconds,
  songSections,
  splitCurrentSection,
  stepSection,
} from "../commands/song/song";
import { useStroke } from "../controls/stroke";
import { useSize } from "../controls/use-size";
import { HEADER_WIDTH } from "../geometry/layout";
import { clockText, songLine, type SongBox, type SongLine } from "../geometry/song-line";
import { useDesk, useSession } from "../session/context";
import type { Session } from "../state/store";
import { CutPattern } from "./cut-pattern";
import { LoopField } from "./loop-field";
import { SectionFields } from "./section-fields";
import { Sections } from "./sections";
import { SongPlayhead } from "./song-playhead";
import { moveSectionsTo } from "../commands/song/sections";
import { SongRuler } from "./song-ruler";

/** What is dragged over the strip: sections to another place, or a pattern to become one. */
export type Dragged = { section: string } | { pattern: string };

const FOLDED = 30;
const OPEN = 94;

/** The song over the sheet; until there is one it takes no room, unless it is opened or played. */
export function SongStrip() {
  const shown = useSession(
    ({ songOpen, plays, project }) => songOpen || plays === "song" || project.song.length > 0,
  );
  return shown && <Song />;
}

/** Its sections in order, on one line or open. */
function Song() {
  const { store } = useDesk();
  const [shape] = useState(songShape);
  const project = useSession(shape);
  const open = useSession((state) => state.songOpen);
  const area = useRef<HTMLDivElement>(null);
  const { width } = useSize(area);
  const sections = useMemo(() => songSections(project), [project]);
  const axis = useMemo(() => songLine(project, sections, width), [project, sections, width]);
  const seconds = useMemo(() => songSeconds(project), [project]);
  const stroke = useStroke();
  const onKey = useSectionKeys();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const inView = useInView(area, axis, width);
  /** Before which section what is dragged would come to lie. */
  const [into, setInto] = useState<number | null>(null);

  const placeOf = (): number | null => {
    const frame = area.current?.getBoundingClientRect();
    if (!frame) return null;
    const x = stroke.last().x - frame.left + must(area.current).scrollLeft;
    const { y } = stroke.last();
    if (y < frame.top - 30 || y > frame.bottom + 30) return null;
    return axis.boxes.filter((box) => box.x + box.width / 2 < x).length;
  };
  const drop = (event: DragEndEvent) => {
    const at = placeOf();
    const carried = event.active.data.current as Dragged | undefined;
    setInto(null);
    if (at === null || !carried) return;
    if ("pattern" in carried) {
      addSection(store, carried.pattern, at);
      return;
    }
    moveSectionsTo(store, carried.section, at);
  };

  return (
    <DndContext
      id="song"
      accessibility={dragWords((id) => nameOfCarried(store.getState().project, id))}
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragMove={() => setInto(placeOf())}
      onDragCancel={() => setInto(null)}
      onDragEnd={drop}
    >
      <section
        aria-label="Song"
        className="relative z-20 shrink-0 border-b border-base-300 bg-base-100 text-[12px]"
      >
        <div className="flex" style={{ height: open ? OPEN : FOLDED }}>
          <div className="flex shrink-0 flex-col pr-2 pl-1.5" style={{ width: HEADER_WIDTH }}>
            <span className="quiet flex h-[29px] shrink-0 items-center pl-2">Song</span>
            {open && <LoopField />}
            {open && (
              <p className="quiet pl-2 text-[12px] leading-snug" data-testid="song-length">
                {lengthText(axis, seconds)}
              </p>
            )}
          </div>
          <div
            ref={area}
            className="relative min-w-0 flex-1 overflow-x-auto overflow-y-hidden [scrollbar-width:thin]"
            onKeyDown={onKey}
          >
            {sections.length === 0 ? (
              <Empty several={project.patterns.length > 1} />
            ) : (
              <div className="relative h-full" style={{ width: axis.width }}>
                {open && <SongRuler axis={axis} boxes={inView} project={project} />}
                <Sections boxes={inView} open={open} />
                {into !== null && <InsertionLine axis={axis} at={into} />}
              </div>
            )}
            <SongPlayhead axis={axis} area={area} />
          </div>
        </div>
        {open && <SectionFields />}
      </section>
    </DndContext>
  );
}

/** Keys of a section that has the keyboard. */
function useSectionKeys() {
  const desk = useDesk();
  const { store } = desk;
  const onKey = (event: KeyboardEvent): void => {
    if (event.defaultPrevented || !(event.target as HTMLElement).dataset.section) return;
    const run = sectionKey(event);
    if (!run) return;
    event.preventDefault();
    run();
  };

  const sectionKey = (event: KeyboardEvent): (() => void) | null => {
    const mod = event.ctrlKey || event.metaKey;
    const { key, shiftKey } = event;
    if (event.altKey) return null;
    if (key === "ArrowLeft" || key === "ArrowRight") {
      const by = key === "ArrowLeft" ? -1 : 1;
      return mod ? () => shiftSections(store, by) : () => stepSection(store, by, shiftKey);
    }
    if (key === "Enter") {
      const { section } = store.getState();
      return () => section && jumpTo(desk, section, shiftKey ? "now" : "bar");
    }
    if (key === "Delete" || key === "Backspace") return () => deleteSelectedSections(store);
    if (mod && key.toLowerCase() === "d") return () => duplicateSections(store);
    if (mod) return null;
    if (key === "+" || key === "=") return () => repeatSections(store, 1);
    if (key === "-" || key === "−") return () => repeatSections(store, -1);
    if (key.toLowerCase() === "y") return () => splitCurrentSection(store);
    return null;
  };
  return onKey;
}

/** Sections this far beside what is seen, in pixels, are there already. */
const BESIDE = 400;

/** The sections that are seen, and the current one, which is brought into view when it becomes that. */
function useInView(
  area: RefObject<HTMLDivElement | null>,
  axis: SongLine,
  width: number,
): readonly SongBox[] {
  const current = useSession((state) => state.section);
  const [left, setLeft] = useState(0);
  useEffect(() => {
    const element = area.current;
    if (!element) return;
    // In strides, so that a scroll by pixels draws nothing anew.
    const look = () => setLeft(Math.floor(element.scrollLeft / BESIDE) * BESIDE);
    element.addEventListener("scroll", look, { passive: true });
    return () => element.removeEventListener("scroll", look);
  }, [area]);
  const latest = useRef(axis);
  useEffect(() => {
    latest.current = axis;
  });
  useEffect(() => {
    const box = latest.current.boxes.find(({ section }) => section.entry?.id === current);
    const element = area.current;
    if (!box || !element) return;
    const { scrollLeft, clientWidth } = element;
    if (box.x < scrollLeft) element.scrollTo({ left: box.x });
    else if (box.x + box.width > scrollLeft + clientWidth)
      element.scrollTo({ left: Math.min(box.x, box.x + box.width - clientWidth) });
  }, [current, area]);
  return useMemo(
    () =>
      axis.boxes.filter(
        ({ x, width: own, section, index }) =>
          (x + own > left - BESIDE && x < left + width + 2 * BESIDE) ||
          section.entry?.id === current ||
          index === 0,
      ),
    [axis, left, width, current],
  );
}

/**
 * Reads the project as far as the strip shows it: the same object for as long as sections, patterns' names, lengths
 * and colours, metre and tempo stay. Notes that change do not lay the song out anew.
 */
function songShape(): (state: Session) => Project {
  let known: Project | null = null;
  return ({ project }) => {
    if (!known || (known !== project && !sameShape(known, project))) known = project;
    return known;
  };
}

const sameShape = (a: Project, b: Project): boolean =>
  a.song === b.song &&
  a.metre === b.metre &&
  a.tempo === b.tempo &&
  a.patterns.length === b.patterns.length &&
  a.patterns.every((pattern, i) => {
    const other = nth(b.patterns, i);
    return (["id", "name", "bars", "colour", "metre"] as const).every(
      (field) => pattern[field] === other[field],
    );
  });

function lengthText(axis: SongLine, seconds: number): string {
  if (axis.boxes.length === 0) return "";
  const last = lastOf(axis.boxes);
  const bars = Math.round(
    last.bar + last.section.length / (last.section.loopTicks / last.section.pattern.bars),
  );
  return `${plural(axis.boxes.length, "section")}, ${plural(bars, "bar")}, ${clockText(seconds)}`;
}

function InsertionLine({ axis, at }: { axis: SongLine; at: number }) {
  const x = axis.boxes[at]?.x ?? axis.width;
  return (
    <div
      className="pointer-events-none absolute inset-y-0 w-[3px] rounded-full bg-primary"
      style={{ left: Math.max(0, Math.min(x, axis.width - 3) - 1) }}
    />
  );
}

/** What stands where there is no song yet. */
function Empty({ several }: { several: boolean }) {
  const { store } = useDesk();
  return (
    <div className="flex h-full items-center gap-2 px-3">
      <span className="quiet truncate">No song yet: patterns in order, each with its repeats</span>
      <button
        className="btn btn-ghost btn-xs h-6 min-h-0 px-1.5"
        onClick={() => addSection(store, store.getState().pattern)}
      >
        <Plus size={13} /> Add this pattern
      </button>
      {several && (
        <button
          className="btn btn-ghost btn-xs h-6 min-h-0 px-1.5"
          onClick={() => songOfPatterns(store)}
        >
          All patterns in order
        </button>
      )}
      <CutPattern />
    </div>
  );
}

/** What a screen reader calls what is dragged in the song: a section, or a pattern for a new one. */
function nameOfCarried({ song, patterns }: Project, id: string): string | null {
  const section = song.find((entry) => `section-${entry.id}` === id);
  const pattern = patterns.find((one) => one.id === section?.pattern || `pattern-${one.id}` === id);
  return section?.name ?? pattern?.name ?? null;
}
