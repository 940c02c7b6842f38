"use client";
import { nanoid } from "nanoid";
import { useRef, useState } from "react";
import {
  barTicks,
  beatTicks,
  chordText,
  edits,
  patternOf,
  patternTicks,
  trackOf,
  type ChordMark,
} from "@/core";
import { useDesk, useSession } from "../session/context";
import { place } from "../session/store";
import { useDismiss } from "../controls/use-dismiss";
import { HEADER_WIDTH } from "../geometry/layout";
import { useTimeView } from "../session/time-view";
import { tickOf, xOf } from "../geometry/view";
import { ChordEditor } from "./chord-editor";
import { lowOf } from "../commands/hear-chord";

/** Width of the chord's dialog. */
const EDITOR = 330;

/** The chords of the pattern over its bars: click a beat to put one, click one to change it. */
export function ChordLine() {
  const { store } = useDesk();
  const project = useSession((s) => s.project);
  const patternId = useSession((s) => s.pattern);
  const width = useSession((s) => s.sheetWidth);
  const melodic = useSession(
    (s) => s.project.tracks.find((t) => t.id === s.track)?.kind === "melody",
  );
  const pattern = patternOf(project, patternId);
  const total = patternTicks(project, pattern);
  const time = useTimeView(width, total);
  const view = { ...time, height: 0, top: 0 };
  const [open, setOpen] = useState<{ id: string | null; start: number } | null>(null);
  const root = useRef<HTMLDivElement>(null);
  const close = () => setOpen(null);
  useDismiss(root, open !== null, close);
  const spans = edits.chordSpans(project, pattern);
  // It stays while drums are in hand: a sheet that moved under the pointer would spoil a drag.
  if (spans.length === 0 && project.tracks.every((t) => t.kind === "drums")) return null;

  const beat = beatTicks(project.metre);
  const put = (mark: ChordMark) => {
    const { edit } = store.getState();
    edit("Chord", (p) => edits.putChords(p, patternId, [mark]), `chord-${mark.id}`);
    setOpen({ id: mark.id, start: mark.start });
  };
  const remove = (id: string) => {
    store.getState().edit("Remove the chord", (p) => edits.removeChord(p, patternId, id));
    close();
  };
  const fromNotes = () => {
    const state = store.getState();
    const bar = barTicks(project.metre);
    const found = edits.detectChords(project, place(state), bar, () => nanoid(8));
    const said = `${found.length} chord${found.length === 1 ? "" : "s"} found in the notes`;
    store.setState({ said });
    if (found.length === 0) return;
    state.edit("Chords from the notes", (p) => edits.putChords(p, patternId, found));
  };
  const hold = () => {
    const state = store.getState();
    const track = trackOf(project, state.track);
    const how = { low: lowOf(track), velocity: 84, idOf: () => nanoid(8) };
    state.edit(`Hold the chords on ${track.name}`, (p) => edits.holdChords(p, place(state), how));
    store.setState({ selection: new Set(), said: `Chords are held on ${track.name}` });
  };
  const holdOne = (mark: ChordMark) => {
    const state = store.getState();
    const how = { low: lowOf(trackOf(project, state.track)), velocity: 84 };
    state.edit(`Hold ${mark.name}`, (p) =>
      edits.holdChord(p, place(state), mark.id, { ...how, idOf: () => nanoid(8) }),
    );
    store.setState({ said: `${chordText(mark.name)} is held` });
  };
  const openAt = (tick: number) => {
    const start = Math.max(0, Math.floor(tick / beat) * beat);
    const there = spans.find(({ mark }) => mark.start === start);
    if (start < total) setOpen({ id: there?.mark.id ?? null, start });
  };

  return (
    <div
      ref={root}
      role="group"
      aria-label="Chord line"
      className="relative z-20 flex h-[32px] shrink-0 border-b border-base-300 bg-base-100 text-[12px]"
    >
      <div className="flex shrink-0 items-center gap-0.5 pr-2 pl-4" style={{ width: HEADER_WIDTH }}>
        <span className="quiet mr-auto">Chords</span>
        {melodic && (
          <>
            <button
              className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
              title="Name the chord of each bar of the track in hand"
              onClick={fromNotes}
            >
              From notes
            </button>
            <button
              className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1.5"
              title="Put the chords as held notes on the track in hand"
              disabled={spans.length === 0}
              onClick={hold}
            >
              Hold
            </button>
          </>
        )}
      </div>
      <div className="relative min-w-0 flex-1 overflow-hidden">
        <button
          className="absolute inset-0 cursor-copy"
          aria-label="Put a chord"
          title="Click a beat to put a chord there"
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
        {spans.map(({ mark, from, to }) => {
          const x0 = Math.max(0, xOf(view, from));
          const x1 = xOf(view, to) - 3;
          if (x1 < 4 || x0 > width) return null;
          // The chip is as wide as its name: past it, a click puts the next chord.
          return (
            <span
              key={mark.id}
              className="pointer-events-none absolute inset-y-[3px] flex rounded-lg border-l-2 border-primary bg-primary/10"
              style={{ left: x0, width: Math.max(24, x1 - x0) }}
            >
              <button
                className={`pointer-events-auto max-w-full min-w-[24px] truncate rounded-r-lg px-1.5 text-left font-semibold ${
                  open?.id === mark.id ? "bg-primary/30" : "hover:bg-primary/25"
                }`}
                aria-label={`Chord ${mark.name || "none"}`}
                onClick={() => setOpen({ id: mark.id, start: mark.start })}
              >
                {mark.name ? chordText(mark.name) : <span className="quiet">no chord</span>}
              </button>
            </span>
          );
        })}
      </div>
      {open && (
        <ChordEditor
          key={open.start}
          mark={spans.find(({ mark }) => mark.id === open.id)?.mark ?? null}
          start={open.start}
          left={
            HEADER_WIDTH + Math.min(Math.max(0, xOf(view, open.start)), Math.max(0, width - EDITOR))
          }
          onPut={put}
          onRemove={remove}
          {...(melodic && { onHold: holdOne })}
          onClose={close}
        />
      )}
    </div>
  );
}
