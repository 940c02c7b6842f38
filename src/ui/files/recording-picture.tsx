"use client";
import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from "react";
import { type Bpm, type Seconds, clamp, nth, must } from "@/core/base";
import { PPQ, barTicks } from "@/core/time";
import { prepareCanvas } from "../controls/canvas";
import { useSize } from "../controls/use-size";
import { useTheme } from "../person/theme";
import {
  PICTURE_HEIGHT,
  RULER,
  drawRecording,
  peaksOf,
  xOfTime,
  type RecordingScene,
} from "./draw-recording";

/** How near the pointer must be, in pixels. */
const NEAR = 7;
/** What a key moves an attack or the first bar by. */
const NUDGE: Seconds = 0.002;

interface Props extends Omit<RecordingScene, "width" | "peaks"> {
  channels: readonly Float32Array[];
  onChosen(index: number): void;
  onTimes(times: Seconds[], chosen: number): void;
  onLaid(laid: { tempo: Bpm; first: Seconds }): void;
}

/** What is dragged: the first bar, the bar `bar` bars on, or an attack. */
type Held =
  | { kind: "first" }
  | { kind: "bar"; bar: number }
  | { kind: "attack"; index: number; moved: boolean };

/** A recording as a wave, with its bars over it and its attacks in three rows: both are corrected by hand. */
export function RecordingPicture(props: Props) {
  const { channels, length, times, tempo, first, metre, chosen } = props;
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const held = useRef<Held | null>(null);
  const { width } = useSize(area);
  // The theme's colours are read while drawing.
  useTheme();
  const peaks = useMemo(() => peaksOf(channels, Math.max(1, Math.round(width))), [channels, width]);
  // Tempo counts quarters, whatever the beat is.
  const quarters = barTicks(metre) / PPQ;
  const bar = (60 / tempo) * quarters;
  const xAt = (time: Seconds) => xOfTime({ width, length }, time);

  useEffect(() => {
    const ctx = canvas.current && prepareCanvas(canvas.current, width, PICTURE_HEIGHT);
    if (ctx && width > 0) drawRecording(ctx, { ...props, width, peaks });
  });

  const at = (event: PointerEvent) => {
    const box = must(canvas.current).getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const timeAt = (x: number) => clamp((x / width) * length, 0, length);
  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    const { x, y } = at(event);
    event.currentTarget.setPointerCapture(event.pointerId);
    if (y < RULER) {
      const nearest = Math.round((timeAt(x) - first) / bar);
      held.current = nearest > 0 ? { kind: "bar", bar: nearest } : { kind: "first" };
      return;
    }
    const index = times.findIndex((time) => Math.abs(xAt(time) - x) <= NEAR);
    if (index < 0) {
      const added = [...times, timeAt(x)].sort((a, b) => a - b);
      props.onTimes(added, added.indexOf(timeAt(x)));
    } else {
      held.current = { kind: "attack", index, moved: false };
      props.onChosen(index);
    }
  };
  const move = (event: PointerEvent) => {
    const now = held.current;
    if (!now) return;
    const time = timeAt(at(event).x);
    if (now.kind === "first") props.onLaid({ tempo, first: time });
    else if (now.kind === "bar") {
      const asked = (60 * quarters * now.bar) / Math.max(0.05, time - first);
      if (asked >= 20 && asked <= 400)
        props.onLaid({ tempo: Math.round(asked * 100) / 100, first });
    } else {
      const before = (times[now.index - 1] ?? -1) + 0.02;
      const after = (times[now.index + 1] ?? length + 1) - 0.02;
      if (!now.moved && Math.abs(xAt(nth(times, now.index)) - at(event).x) < 3) return;
      now.moved = true;
      const to = clamp(time, before, after);
      props.onTimes(
        times.map((one, i) => (i === now.index ? to : one)),
        now.index,
      );
    }
  };
  const up = () => {
    held.current = null;
  };
  const key = (event: KeyboardEvent) => {
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (by && event.altKey) {
      if (chosen < 0) props.onLaid({ tempo, first: Math.max(0, first + by * NUDGE) });
      else
        props.onTimes(
          times.map((one, i) => (i === chosen ? Math.max(0, one + by * NUDGE) : one)),
          chosen,
        );
    } else if (by) props.onChosen(Math.max(-1, Math.min(times.length - 1, chosen + by)));
    else if ((event.key === "Delete" || event.key === "Backspace") && chosen >= 0)
      props.onTimes(
        times.filter((_, i) => i !== chosen),
        Math.min(chosen, times.length - 2),
      );
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div ref={area} className="w-full">
      <canvas
        ref={canvas}
        data-testid="recording-picture"
        role="application"
        tabIndex={0}
        aria-label={`Recording with ${times.length} attacks; the first bar begins at ${first.toFixed(3)} s. Arrow keys select an attack, delete deletes it, alt and arrows move it or, with none selected, the first bar.`}
        className="block w-full touch-none rounded-lg outline-offset-2"
        style={{ height: PICTURE_HEIGHT }}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
        onDoubleClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect();
          const x = event.clientX - box.left;
          const index = times.findIndex((time) => Math.abs(xAt(time) - x) <= NEAR);
          if (index >= 0 && event.clientY - box.top > RULER)
            props.onTimes(
              times.filter((_, i) => i !== index),
              -1,
            );
        }}
        onKeyDown={key}
      />
    </div>
  );
}
