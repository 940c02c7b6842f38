"use client";
import { useDraggable } from "@dnd-kit/core";
import {
  memo,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type PointerEvent,
  type RefObject,
} from "react";
import { type Pattern, sectionBars } from "@/core/score";
import { goToSection, jumpTo, sectionName } from "../commands/song/song";
import type { SongBox } from "../geometry/song-line";
import { useDesk, useSession } from "../session/context";
import { patternColour } from "./colours";
import { setSectionBars } from "../commands/song/sections";
import { must } from "@/core/base";
import { SmallPicture } from "./small-picture";

/** The sections of the song side by side; one of them can have the keyboard. */
export const Sections = memo(function Sections({
  boxes,
  open,
}: {
  /** Those that are seen. */
  boxes: readonly SongBox[];
  open: boolean;
}) {
  const current = useSession((state) => state.section);
  const selected = useSession((state) => state.sections);
  const patterns = usePictured(open);
  const there = boxes.some(({ section }) => section.entry?.id === current);
  const list = useRef<HTMLDivElement>(null);
  /** Whether the section that had the keyboard went away with it. */
  const lost = useRef(false);
  useEffect(() => {
    if (!lost.current) return;
    lost.current = false;
    list.current?.querySelector<HTMLElement>("[tabindex='0']")?.focus({ preventScroll: true });
  });
  return (
    <div
      ref={list}
      role="listbox"
      aria-label="Sections"
      aria-orientation="horizontal"
      aria-multiselectable
    >
      {boxes.map((box) => (
        <SectionTile
          key={entryOf(box).id}
          box={box}
          pictured={open ? patterns.get(box.section.pattern.id) : undefined}
          open={open}
          current={entryOf(box).id === current}
          selected={selected.has(entryOf(box).id)}
          lost={lost}
          stop={there ? entryOf(box).id === current : box.index === 0}
        />
      ))}
    </div>
  );
});

/** A line at the end of each loop. */
const notches = "linear-gradient(to left, currentColor 1px, transparent 1px)";

/** Where sections lie when the strip is open: under its ruler. */
const TOP = { open: 20, folded: 3 };

/** Pictures are drawn anew when nothing was edited for so long, in ms: while a stroke is drawn they wait. */
const CALM_MS = 400;

/** The patterns as their pictures show them, by id. */
function usePictured(open: boolean): ReadonlyMap<string, Pattern> {
  const { store } = useDesk();
  const [patterns, setPatterns] = useState(() => store.getState().project.patterns);
  useEffect(() => {
    if (!open) return;
    let timer = setTimeout(() => setPatterns(store.getState().project.patterns), 0);
    const stop = store.subscribe((now, before) => {
      if (now.project.patterns === before.project.patterns) return;
      clearTimeout(timer);
      timer = setTimeout(() => setPatterns(store.getState().project.patterns), CALM_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, [open, store]);
  return useMemo(() => new Map(patterns.map((pattern) => [pattern.id, pattern])), [patterns]);
}

interface TileProps {
  box: SongBox;
  /** What its pattern holds, for its picture; none where it is not shown. */
  pictured: Pattern | undefined;
  open: boolean;
  current: boolean;
  selected: boolean;
  /** Whether the tab key stops here. */
  stop: boolean;
  /** Told when it goes away with the keyboard on it. */
  lost: RefObject<boolean>;
}

/** The entry of the song that a tile is of. */
const entryOf = ({ section }: SongBox) => must(section.entry, "an entry of the song");

/** One section. It asks the session for nothing: there may be hundreds of them. */
const SectionTile = memo(function SectionTile(props: TileProps) {
  const { box, pictured, open, current, selected, stop, lost } = props;
  const desk = useDesk();
  const { store } = desk;
  const { section } = box;
  const entry = entryOf(box);
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({
    id: `section-${entry.id}`,
    data: { section: entry.id },
  });
  const element = useRef<HTMLDivElement | null>(null);
  useEffect(() => {
    if (!current) return;
    // The keyboard goes along, where it was on a section before.
    const active = document.activeElement as HTMLElement | null;
    if (active?.dataset.section) element.current?.focus({ preventScroll: true });
  }, [current]);
  useLayoutEffect(
    () => () => {
      if (element.current && element.current === document.activeElement) lost.current = true;
    },
    [lost],
  );
  const bars = sectionBars(entry, section.pattern);
  const name = sectionName(section);
  const rounds = (section.length + section.skip) / section.loopTicks;
  const whole = entry.bars === undefined && !entry.skip;
  const marks = [
    entry.tempo !== undefined && `${entry.tempo} BPM`,
    section.pattern.metre && `${section.pattern.metre.beats}/${section.pattern.metre.unit}`,
    entry.mutes && `−${entry.mutes.length}`,
    entry.chords && "chords",
  ].filter(Boolean);
  // As few elements as can be: there may be hundreds, and the browser goes through them in each frame.
  const text = [
    name,
    whole ? entry.times > 1 && box.width > 58 && `×${entry.times}` : `${bars} bars`,
    box.width > 120 && marks.join(" · "),
  ]
    .filter(Boolean)
    .join("  ");
  const round = (100 * section.loopTicks) / section.length;
  return (
    <div
      ref={(node) => {
        setNodeRef(node);
        element.current = node;
      }}
      {...listeners}
      role="option"
      tabIndex={stop ? 0 : -1}
      data-section={entry.id}
      aria-selected={selected || current}
      aria-label={`Section ${box.index + 1}: ${name}, ${bars} bars`}
      title={`${name}: ${bars} bars${marks.length > 0 ? `, ${marks.join(", ")}` : ""}. Double click plays from here`}
      className={`absolute cursor-grab touch-none truncate rounded-r-md rounded-l-sm border border-l-4 pr-1.5 pl-1.5 text-left leading-[18px] font-semibold whitespace-pre select-none ${
        current
          ? "border-base-content bg-base-100"
          : selected
            ? "border-primary bg-primary/10"
            : "border-base-300 bg-base-200 hover:border-base-content/50"
      } ${isDragging ? "z-10 opacity-60" : ""}`}
      style={{
        left: box.x,
        width: box.width - 2,
        borderLeftColor: patternColour(section.pattern),
        top: open ? TOP.open : TOP.folded,
        bottom: open ? 6 : 3,
        ...(transform && { transform: `translateX(${transform.x}px)` }),
      }}
      onClick={(event) => goToSection(store, entry.id, event.shiftKey)}
      onDoubleClick={() => jumpTo(desk, entry.id, "bar")}
    >
      {open && (
        <div
          className="absolute inset-x-2 top-[18px] bottom-[5px] text-base-content/50"
          style={{ clipPath: "inset(0)" }}
        >
          <div
            className="h-full"
            style={{
              width: `${(100 * rounds * section.loopTicks) / section.length}%`,
              marginLeft: `${(-100 * section.skip) / section.length}%`,
            }}
          >
            {pictured && (
              <SmallPicture
                project={store.getState().project}
                pattern={pictured}
                rounds={rounds}
                className="h-full w-full"
              />
            )}
          </div>
        </div>
      )}
      {text}
      {rounds > 1 && rounds < box.width / 4 && (
        // One notch for each loop.
        <span
          className="absolute inset-x-0 bottom-0 h-[3px] text-base-content/60"
          style={{
            backgroundImage: notches,
            backgroundPositionX: `${-100 * (section.skip / section.length)}%`,
            backgroundSize: `${round}% 100%`,
          }}
        />
      )}
      <LengthHandle box={box} />
    </div>
  );
});

/** The end of a section, to be pulled: its length in bars. */
function LengthHandle({ box }: { box: SongBox }) {
  const { store } = useDesk();
  const { section } = box;
  const entry = entryOf(box);
  const [pulled, setPulled] = useState<number | null>(null);
  /** Where it was taken hold of, and how many bars it is pulled to: told at once, a fast stroke ends undrawn. */
  const from = useRef<{ x: number; bars: number; to: number } | null>(null);
  const bars = sectionBars(entry, section.pattern);
  const perBar = (box.width * section.loopTicks) / section.pattern.bars / section.length;
  useEffect(() => {
    if (pulled === null) return;
    const cancel = (event: KeyboardEvent) => {
      if (event.key !== "Escape") return;
      event.preventDefault();
      event.stopImmediatePropagation();
      from.current = null;
      setPulled(null);
    };
    window.addEventListener("keydown", cancel, true);
    return () => window.removeEventListener("keydown", cancel, true);
  }, [pulled]);
  const move = (event: PointerEvent) => {
    if (!from.current) return;
    const by = Math.round((event.clientX - from.current.x) / Math.max(6, perBar));
    from.current.to = Math.max(1, from.current.bars + by);
    setPulled(from.current.to);
  };
  return (
    <>
      <span
        data-testid="section-end"
        className="absolute inset-y-0 right-0 w-[7px] cursor-ew-resize"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          // The section itself is not dragged.
          event.stopPropagation();
          event.currentTarget.setPointerCapture(event.pointerId);
          from.current = { x: event.clientX, bars, to: bars };
          setPulled(bars);
        }}
        onPointerMove={move}
        onPointerUp={() => {
          const done = from.current?.to;
          from.current = null;
          setPulled(null);
          if (!done || done === bars) return;
          setSectionBars(store, entry.id, done);
        }}
        onPointerCancel={() => {
          from.current = null;
          setPulled(null);
        }}
        onClick={(event) => event.stopPropagation()}
        onDoubleClick={(event) => event.stopPropagation()}
      />
      {pulled !== null && (
        <span className="figure absolute right-2 bottom-1 rounded bg-base-content px-1 text-[12px] text-base-100">
          {pulled}
        </span>
      )}
    </>
  );
}
