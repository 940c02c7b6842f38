"use client";
import { Eraser, Spline, Signal } from "lucide-react";
import { useEffect, useRef } from "react";
import { type BendPoint, bendAt, patternOf, patternTicks } from "@/core/score";
import { deleteBendOfPart } from "../commands/perform/bend";
import { prepareCanvas } from "../controls/canvas";
import { Choice } from "../controls/choice";
import { readColours, trackColour } from "../controls/colours";
import { useSize } from "../controls/use-size";
import { HEIGHT, yOf } from "../geometry/profile-line";
import { BEND } from "../geometry/profiles";
import { xOf, type View } from "../geometry/view";
import { useTheme } from "../person/theme";
import { useDesk, useSession } from "../session/context";
import { useTimeView } from "../session/time-view";
import { currentPart, effectiveCurrent } from "../state/current";
import { useBendStrokes } from "./bend-strokes";
import { ProfileArea } from "./profile-area";

const NONE: readonly BendPoint[] = [];

/** Adds a curve to a path, over one loop of the part. */
function addLoop(
  ctx: CanvasRenderingContext2D,
  view: View,
  curve: readonly BendPoint[],
  [at, end]: readonly [number, number],
): void {
  ctx.moveTo(xOf(view, at), yOf(BEND, bendAt(curve, 0)));
  for (const { tick, value } of curve)
    if (tick > 0 && at + tick < end) ctx.lineTo(xOf(view, at + tick), yOf(BEND, value));
  ctx.lineTo(xOf(view, end), yOf(BEND, bendAt(curve, end - at - 1)));
}

/** The bend of the current melodic part on the sheet's time axis. Draw to set. */
export function BendProfile() {
  const project = useSession((state) => state.project);
  const pattern = useSession((state) => state.pattern);
  const track = useSession((state) => state.track);
  const own = useSession((state) => currentPart(state).bend ?? NONE);
  const { notes, bend: heard, length } = useSession(effectiveCurrent);
  const theme = useTheme();
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(area);
  const total = patternTicks(project, patternOf(project, pattern));
  const { zoom, scroll } = useTimeView(width, total);
  const index = project.tracks.findIndex(({ id }) => id === track);
  const strokes = useBendStrokes(area, { zoom, scroll, width });

  useEffect(() => {
    if (width === 0) return;
    const frame = requestAnimationFrame(() => {
      const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
      if (!ctx) return;
      const colours = readColours();
      const view: View = { width, zoom, scroll, height: HEIGHT, top: 0 };
      ctx.clearRect(0, 0, width, HEIGHT);
      // A line for each semitone; the middle one is where the wheel rests.
      ctx.fillStyle = colours.line;
      for (let step = -2; step <= 2; step++) {
        ctx.globalAlpha = step === 0 ? 1 : 0.45;
        ctx.fillRect(0, Math.round(yOf(BEND, step * BEND.semitone)), width, 1);
      }
      // Where notes begin: a bend is meant for them.
      ctx.globalAlpha = 0.5;
      ctx.fillStyle = colours.quiet;
      for (const { start } of notes) {
        const x = xOf(view, start);
        if (x > -2 && x < width + 2) ctx.fillRect(Math.round(x), HEIGHT - 5, 2, 4);
      }
      ctx.strokeStyle = trackColour(colours, Math.max(0, index));
      for (let at = 0; at < total; at += length) {
        const loop = [at, Math.min(at + length, total)] as const;
        if (xOf(view, loop[1]) < 0 || xOf(view, at) > width) continue;
        if (heard !== own && heard.length + own.length > 0) {
          // What cards make of it, beside what is drawn.
          ctx.globalAlpha = 0.6;
          ctx.lineWidth = 1;
          ctx.setLineDash([3, 3]);
          ctx.beginPath();
          addLoop(ctx, view, heard, loop);
          ctx.stroke();
          ctx.setLineDash([]);
        }
        ctx.globalAlpha = at === 0 ? 1 : 0.4;
        ctx.lineWidth = 2;
        ctx.beginPath();
        addLoop(ctx, view, own, loop);
        ctx.stroke();
      }
      ctx.globalAlpha = 1;
    });
    return () => cancelAnimationFrame(frame);
  }, [width, zoom, scroll, notes, own, heard, length, total, index, theme]);

  return (
    <ProfileArea
      area={area}
      canvas={canvas}
      width={width}
      testId="bend-profile"
      told={strokes.told}
      handlers={strokes.handlers}
    />
  );
}

/** How a bend is drawn, and that it is cleared. */
export function BendTools() {
  const { store } = useDesk();
  const as = useSession((state) => state.bendAs);
  const any = useSession((state) => currentPart(state).bend !== undefined);
  return (
    <span className="flex items-center gap-0.5">
      <Choice
        label="How a bend is drawn"
        className="flex"
        optionClass="border-transparent grid h-6 w-6 place-items-center"
        value={as}
        options={[
          {
            value: "line",
            label: "Line",
            shown: <Spline size={14} />,
            title: "Draw the bend as a line; with alt between the semitones",
          },
          {
            value: "steps",
            label: "Steps",
            shown: <Signal size={14} />,
            title: "Draw the bend level over each step of the grid",
          },
        ]}
        onChange={(bendAs) => store.getState().setTools({ bendAs })}
      />
      <button
        className="grid h-6 w-6 place-items-center rounded-lg enabled:hover:bg-base-300/50 disabled:opacity-40"
        aria-label="Delete the bend"
        title="Delete the bend of this part; the right button takes away what it passes"
        disabled={!any}
        onClick={() => deleteBendOfPart(store)}
      >
        <Eraser size={14} />
      </button>
    </span>
  );
}
