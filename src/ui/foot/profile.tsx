"use client";
import { useSize } from "../controls/use-size";
import { useEffect, useMemo, useRef } from "react";
import { patternOf, patternTicks } from "@/core/score";
import { useSetting } from "../person/settings";
import { useDesk, useSession } from "../session/context";
import { effectiveCurrent } from "../state/current";
import { useTheme } from "../person/theme";
import { prepareCanvas } from "../controls/canvas";
import { readColours, trackColour } from "../controls/colours";
import { useTimeView } from "../session/time-view";
import { profileFor } from "../geometry/profiles";
import { HEIGHT, yOf } from "../geometry/profile-line";
import { xOf } from "../geometry/view";
import { madeNotes } from "../commands/tracks/made";
import { ProfileArea } from "./profile-area";
import { useStrokes } from "./profile-strokes";

interface Mark {
  x: number;
  y: number;
  selected: boolean;
  /** Of a hit that a card made: an outline, as on the sheet. */
  made: boolean;
}

/** From so many values in view on, each column of pixels shows one. */
const CROWD = 400;
/** Heads to a path: one path over the whole width would take many times as long to fill. */
const CHUNK = 40;

function drawMarks(
  ctx: CanvasRenderingContext2D,
  seen: readonly Mark[],
  base: number,
  { ink, ring, ground }: { ink: string; ring: string; ground: string },
): void {
  ctx.fillStyle = ink;
  ctx.globalAlpha = 0.75;
  for (const { x, y } of seen) ctx.fillRect(x - 0.75, Math.min(y, base), 1.5, Math.abs(base - y));
  ctx.globalAlpha = 1;
  ctx.strokeStyle = ring;
  ctx.lineWidth = 1.4;
  for (let from = 0; from < seen.length; from += CHUNK) {
    const [heads, made, rings] = [new Path2D(), new Path2D(), new Path2D()];
    for (const { x, y, selected, made: isMade } of seen.slice(from, from + CHUNK)) {
      const head = isMade ? made : heads;
      head.moveTo(x + 3.5, y);
      head.arc(x, y, 3.5, 0, 7);
      if (!selected) continue;
      rings.moveTo(x + 6, y);
      rings.arc(x, y, 6, 0, 7);
    }
    ctx.fill(heads);
    ctx.strokeStyle = ink;
    ctx.fillStyle = ground;
    ctx.fill(made);
    ctx.stroke(made);
    ctx.fillStyle = ink;
    ctx.strokeStyle = ring;
    ctx.stroke(rings);
  }
}

/** The value farthest from the base in each column of pixels. */
function drawCrowd(
  ctx: CanvasRenderingContext2D,
  seen: readonly Mark[],
  base: number,
  inkOf: (selected: boolean) => string,
): void {
  const columns = new Map<number, Mark>();
  for (const mark of seen) {
    const x = Math.round(mark.x);
    const other = columns.get(x);
    if (!other || Math.abs(mark.y - base) > Math.abs(other.y - base)) columns.set(x, mark);
  }
  for (const selected of [false, true]) {
    ctx.fillStyle = inkOf(selected);
    for (const [x, mark] of columns) {
      if (mark.selected !== selected) continue;
      ctx.fillRect(x, Math.min(mark.y, base), 1, Math.max(1, Math.abs(base - mark.y)));
    }
  }
}

/** What the hand does on the sheet, where there is nothing yet. */
const EMPTY = {
  drums:
    "Click a step to add a hit (with alt a soft one), drag to paint; drag or wheel a hit for its velocity.",
  melody:
    "Click to draw a note, drag its end to lengthen it, drag it to move it; shift-drag to select.",
};

/** The one next thing to do; in a project without a note also how one is shown a first beat. */
function Empty({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const offered = useSetting("lessonsOffered");
  const bare = useSession(({ project, lesson }) =>
    lesson === null
      ? project.patterns.every(({ parts }) => parts.every((p) => !p.notes.length))
      : false,
  );
  return (
    <>
      {drums ? EMPTY.drums : EMPTY.melody}
      {offered && bare && (
        <button
          className="btn btn-xs pointer-events-auto ml-3 h-[26px] min-h-0 shrink-0 font-normal"
          title="Six small steps, ticked as they happen"
          onPointerDown={(event) => event.stopPropagation()}
          onClick={() => {
            store.getState().setTools({ lesson: "beat" });
            store.getState().request("sheet");
          }}
        >
          Show me a first beat
        </button>
      )}
    </>
  );
}

/** A profile of the current lane (or melodic track), on the sheet's time axis. Draw to set. */
export function ProfileView() {
  const project = useSession((state) => state.project);
  const pattern = useSession((state) => state.pattern);
  const track = useSession((state) => state.track);
  const pitch = useSession((state) => state.caret.pitch);
  const selection = useSession((state) => state.selection);
  const effective = useSession(effectiveCurrent);
  const kind = useSession((state) => state.profile);
  const theme = useTheme();
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(area);

  const index = project.tracks.findIndex((t) => t.id === track);
  const drums = project.tracks[index]?.kind === "drums";
  const [, profile] = profileFor(drums ? "drums" : "melody", kind);
  const view = useTimeView(width, patternTicks(project, patternOf(project, pattern)));
  const notes = useMemo(
    () => effective.notes.filter((note) => !drums || note.pitch === pitch),
    [effective, drums, pitch],
  );
  const { zoom, scroll } = view;
  const all = useSession(madeNotes);
  const made = useMemo(() => new Set(all.map(({ id }) => id)), [all]);

  useEffect(() => {
    if (width === 0) return;
    const frame = requestAnimationFrame(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
      if (!ctx) return;
      const colours = readColours();
      ctx.clearRect(0, 0, width, HEIGHT);
      ctx.fillStyle = colours.line;
      const base = yOf(profile, profile.base);
      ctx.fillRect(0, base, width, 1);
      const ink = trackColour(colours, Math.max(0, index));
      const at = { width, zoom, scroll, height: HEIGHT, top: 0 };
      const seen: Mark[] = [];
      for (const note of notes) {
        const x = xOf(at, note.start);
        if (x < -8 || x > width + 8) continue;
        seen.push({
          x,
          y: yOf(profile, profile.read(note)),
          selected: selection.has(note.id),
          made: made.has(note.id),
        });
      }
      const inkOf = (selected: boolean) => (selected ? colours.text : ink);
      if (seen.length > CROWD) drawCrowd(ctx, seen, base, inkOf);
      else drawMarks(ctx, seen, base, { ink, ring: colours.text, ground: colours.sheet });
    });
    return () => cancelAnimationFrame(frame);
  }, [width, zoom, scroll, notes, made, selection, index, theme, profile]);

  const strokes = useStrokes({ area, notes, profile, view: { zoom, scroll, width } });

  return (
    <ProfileArea
      area={area}
      canvas={canvas}
      width={width}
      testId="velocity-profile"
      told={strokes.told}
      empty={notes.length > 0 ? null : <Empty drums={drums} />}
      handlers={strokes.handlers}
    />
  );
}
