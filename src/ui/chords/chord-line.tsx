"use client";
import { useState, type ReactNode } from "react";
import { beatTicks } from "@/core/time";
import { chordText } from "@/core/pitch";
import { type ChordMark, metreOf, patternOf, patternTicks, chordSpans } from "@/core/score";
import { useDesk, useSession } from "../session/context";
import { useRequest } from "../session/requested";
import { chordedSection } from "../state/current";
import { Popover } from "../controls/popover";
import { HEADER_WIDTH } from "../geometry/layout";
import { useTimeView } from "../session/time-view";
import { tickOf, xOf, type View } from "../geometry/view";
import { generateChords } from "../commands/ideas/chord-ideas";
import { ChordEditor } from "./chord-editor";
import {
  putChord,
  deleteChord,
  chordsFromNotes,
  holdChords,
  holdChord,
} from "../commands/song/chords";

/** The chords of the pattern over its bars: click a beat to put one, click one to change it. */
export function ChordLine() {
  const { store } = useDesk();
  const project = useSession((state) => state.project);
  const patternId = useSession((state) => state.pattern);
  const width = useSession((state) => state.sheetWidth);
  const melodic = useSession(
    (state) => state.project.tracks.find((track) => track.id === state.track)?.kind === "melody",
  );
  const over = useSession(chordedSection);
  const own = patternOf(project, patternId);
  const pattern = over?.chords ? { ...own, chords: over.chords } : own;
  const total = patternTicks(project, pattern);
  const time = useTimeView(width, total);
  const view = { ...time, height: 0, top: 0 };
  const previewed = useSession((state) =>
    state.preview?.place.pattern === state.pattern ? state.preview.chords : undefined,
  );
  const shown = useSession((state) => state.chordsOpen);
  const [open, setOpen] = useState<{ id: string | null; start: number } | null>(null);
  const close = () => setOpen(null);
  const spans = chordSpans(project, previewed ? { ...pattern, chords: previewed } : pattern);
  const beat = beatTicks(metreOf(project, pattern));
  const put = (mark: ChordMark) => {
    putChord(store, mark);
    setOpen({ id: mark.id, start: mark.start });
  };
  const remove = (id: string) => {
    deleteChord(store, id);
    close();
  };
  const openAt = (tick: number) => {
    const start = Math.max(0, Math.floor(tick / beat) * beat);
    const there = spans.find(({ mark }) => mark.start === start);
    if (start < total) setOpen({ id: there?.mark.id ?? null, start });
  };
  useRequest("add-chord", () => openAt(store.getState().caret.tick));
  if (spans.length === 0 && !shown) return null;

  return (
    <div
      role="group"
      aria-label="Chord line"
      className="relative z-20 flex h-[28px] shrink-0 border-b border-base-300 bg-base-100 text-[12px]"
    >
      <ChordLineHead
        ofSection={over !== undefined}
        intoNotes={melodic && !over}
        empty={spans.length === 0}
      />
      <div className="relative min-w-0 flex-1 overflow-hidden">
        <button
          className="absolute inset-0 cursor-copy"
          aria-label="Add a chord"
          title="Click a beat to add a chord there"
          onClick={(event) => {
            const { left } = event.currentTarget.getBoundingClientRect();
            // By the keyboard there is no place: the chord goes to the caret's beat.
            const byKey = event.detail === 0;
            openAt(byKey ? store.getState().caret.tick : tickOf(view, event.clientX - left));
          }}
        />
        {spans.length === 0 && (
          <span className="quiet pointer-events-none absolute inset-y-0 left-4 flex items-center">
            Click a beat and type a chord: Dm7, F/A, or a degree such as 2 or V7
          </span>
        )}
        {spans.map((span) => (
          <ChordChip
            key={span.mark.id}
            span={span}
            view={view}
            open={open?.id === span.mark.id}
            onOpen={() => setOpen({ id: span.mark.id, start: span.mark.start })}
          />
        ))}
      </div>
      <Popover
        label="Chord"
        open={open !== null}
        onOpenChange={(next) => !next && close()}
        className="w-[330px] gap-2 p-3"
        anchor={
          <span
            className="pointer-events-none absolute bottom-0 h-0 w-0"
            style={{ left: HEADER_WIDTH + Math.max(0, open ? xOf(view, open.start) : 0) }}
          />
        }
      >
        {open && (
          <ChordEditor
            key={open.start}
            mark={spans.find(({ mark }) => mark.id === open.id)?.mark ?? null}
            start={open.start}
            onPut={put}
            onDelete={remove}
            {...(melodic && !over && { onHold: (mark) => holdChord(store, mark) })}
            onClose={close}
          />
        )}
      </Popover>
    </div>
  );
}

/** In the place of an empty chord line: what would fill it. Lies over the names of tracks, beside the ruler. */
export function ChordOffer() {
  const { store } = useDesk();
  const wanted = useSession(
    (state) =>
      !state.chordsOpen &&
      state.project.tracks.some((track) => track.kind === "melody") &&
      !chordedSection(state)?.chords?.length &&
      !patternOf(state.project, state.pattern).chords?.length,
  );
  const melodic = useSession(
    (state) => state.project.tracks.find((track) => track.id === state.track)?.kind === "melody",
  );
  if (!wanted) return null;
  return (
    <div
      role="group"
      aria-label="Chords"
      className="absolute top-0 left-0 z-10 flex h-[28px] items-center border-b border-base-300 bg-base-100 text-[12px]"
    >
      <ChordLineHead ofSection={false} intoNotes={melodic} empty>
        <button
          className="btn btn-ghost btn-xs h-6 min-h-0 px-1"
          aria-label="Add a chord"
          title="Type a chord for the beat of the cursor: Dm7, F/A, or a degree such as 2 or V7"
          onClick={() => {
            store.getState().setTools({ chordsOpen: true });
            store.getState().request("add-chord");
          }}
        >
          Add
        </button>
      </ChordLineHead>
    </div>
  );
}

/** What can be done with the whole line. */
function ChordLineHead({
  children,
  ofSection,
  intoNotes,
  empty,
}: {
  children?: ReactNode;
  /** Whether the chords shown are those of a section of the song. */
  ofSection: boolean;
  /** Whether the current track gives and takes notes. */
  intoNotes: boolean;
  empty: boolean;
}) {
  const { store } = useDesk();
  return (
    <div className="flex shrink-0 items-center gap-0.5 pr-1.5 pl-4" style={{ width: HEADER_WIDTH }}>
      <span className="quiet mr-auto whitespace-nowrap">
        {ofSection ? "Chords of the section" : "Chords"}
      </span>
      {children}
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1"
        title="Lines of chords to choose from by ear"
        onClick={() => {
          store.getState().setTools({ bench: "generate", benchOpen: true, chordsOpen: true });
          void generateChords(store);
        }}
      >
        Ideas
      </button>
      {intoNotes && (
        <>
          <button
            className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1"
            title="Name the chord of each bar from the notes of the current track"
            onClick={() => chordsFromNotes(store)}
          >
            From notes
          </button>
          {!empty && (
            <button
              className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1"
              title="Add the chords as held notes to the current track"
              onClick={() => holdChords(store)}
            >
              Add as notes
            </button>
          )}
        </>
      )}
    </div>
  );
}

interface ChipProps {
  span: ReturnType<typeof chordSpans>[number];
  view: View;
  open: boolean;
  onOpen(): void;
}

/** One chord by name, from where it begins. */
function ChordChip({ span: { mark, from, to }, view, open, onOpen }: ChipProps) {
  const x0 = Math.max(0, xOf(view, from));
  const x1 = xOf(view, to) - 3;
  if (x1 < 4 || x0 > view.width) return null;
  // The chip is as wide as its name: past it, a click puts the next chord.
  return (
    <span
      className="pointer-events-none absolute inset-y-[1px] flex rounded-lg border-l-2 border-primary bg-primary/10"
      style={{ left: x0, width: Math.max(24, x1 - x0) }}
    >
      <button
        className={`pointer-events-auto max-w-full min-w-[24px] truncate rounded-r-lg px-1.5 text-left font-semibold ${
          open ? "bg-primary/30" : "hover:bg-primary/25"
        }`}
        aria-label={`Chord ${mark.name || "none"}`}
        onClick={onOpen}
      >
        {mark.name ? chordText(mark.name) : <span className="quiet">N.C.</span>}
      </button>
    </span>
  );
}
