"use client";
import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent } from "react";
import { type Bpm, type Seconds, clamp } from "@/core/base";
import { type Metre, PPQ, barTicks, beatTicks, beatsInBar } from "@/core/time";
import { prepareCanvas } from "../controls/canvas";
import { readColours } from "../controls/colours";
import { useTheme } from "../person/theme";
import { useSize } from "../controls/use-size";
import type { Hits } from "../commands/files/listening";

const HEIGHT = 168;
/** The stripe at the top with the bars, by which they are moved. */
const RULER = 26;
/** How near the pointer must be, in pixels. */
const NEAR = 7;
/** What a key moves an attack or the first bar by. */
const NUDGE: Seconds = 0.002;

interface Props {
  channels: readonly Float32Array[];
  length: Seconds;
  times: readonly Seconds[];
  hits: Hits["hits"];
  tempo: Bpm;
  first: Seconds;
  metre: Metre;
  /** Which attack is chosen, by its place in `times`; −1 for none. */
  chosen: number;
  /** Where it is heard now; null where it is not. */
  playhead: Seconds | null;
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
  const { channels, length, times, hits, tempo, first, metre, chosen, playhead } = props;
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const held = useRef<Held | null>(null);
  const { width } = useSize(area);
  // The theme's inks are read while drawing.
  useTheme();
  const peaks = useMemo(() => peaksOf(channels, Math.max(1, Math.round(width))), [channels, width]);
  // Tempo counts quarters, whatever the beat is.
  const quarters = barTicks(metre) / PPQ;
  const bar = (60 / tempo) * quarters;
  const xAt = (time: Seconds) => (time / length) * width;

  useEffect(() => {
    const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
    if (!ctx || width === 0) return;
    const ink = readColours();
    ctx.fillStyle = ink.sheet;
    ctx.fillRect(0, 0, width, HEIGHT);
    const middle = RULER + (HEIGHT - RULER) / 2;
    const half = (HEIGHT - RULER) / 2 - 6;
    ctx.fillStyle = ink.quiet;
    ctx.globalAlpha = 0.45;
    peaks.forEach((peak, x) =>
      ctx.fillRect(x, middle - peak * half, 1, Math.max(1, 2 * peak * half)),
    );
    ctx.globalAlpha = 1;
    const beats = beatsInBar(metre);
    const beat = ((60 / tempo) * beatTicks(metre)) / PPQ;
    const from = -Math.ceil(first / beat);
    ctx.font = `11px ${ink.mono}`;
    for (let i = from; first + i * beat <= length + 1e-6; i++) {
      const x = Math.round(xAt(first + i * beat));
      const one = ((i % beats) + beats) % beats === 0;
      ctx.fillStyle = one ? ink.selected : ink.line;
      ctx.globalAlpha = i < 0 ? 0.35 : 1;
      ctx.fillRect(x, one ? 0 : RULER - 7, one ? 2 : 1, HEIGHT);
      if (one && i >= 0) {
        ctx.fillStyle = ink.text;
        ctx.fillText(String(i / beats + 1), x + 5, 16);
      }
    }
    ctx.globalAlpha = 1;
    const rows = { high: 0.22, middle: 0.5, low: 0.78 };
    times.forEach((time, i) => {
      const x = xAt(time);
      ctx.fillStyle = i === chosen ? ink.selected : ink.text;
      ctx.globalAlpha = i === chosen ? 0.9 : 0.3;
      ctx.fillRect(x, RULER, i === chosen ? 2 : 1, HEIGHT - RULER);
      ctx.globalAlpha = 1;
      for (const hit of hits.filter((one) => one.time === time)) {
        ctx.beginPath();
        const y = RULER + rows[hit.kind] * (HEIGHT - RULER);
        ctx.arc(x, y, 2.5 + (4.5 * hit.velocity) / 127, 0, 2 * Math.PI);
        ctx.fillStyle = ink.tracks[hit.kind === "low" ? 0 : hit.kind === "middle" ? 1 : 2]!;
        ctx.fill();
      }
    });
    if (playhead !== null) {
      ctx.fillStyle = ink.squall;
      ctx.fillRect(xAt(playhead), 0, 2, HEIGHT);
    }
  });

  const at = (event: PointerEvent) => {
    const box = canvas.current!.getBoundingClientRect();
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
      if (!now.moved && Math.abs(xAt(times[now.index]!) - at(event).x) < 3) return;
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
        style={{ height: HEIGHT }}
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

/** The loudest sample of each column, of all channels, held against the loudest of all. */
export function peaksOf(channels: readonly Float32Array[], columns: number): Float32Array {
  const peaks = new Float32Array(columns);
  const frames = channels[0]?.length ?? 0;
  let most = 1e-6;
  for (const channel of channels)
    for (let i = 0; i < frames; i++) {
      const x = Math.min(columns - 1, Math.floor((i / frames) * columns));
      const value = Math.abs(channel[i]!);
      if (value > peaks[x]!) peaks[x] = value;
      if (value > most) most = value;
    }
  return peaks.map((peak) => peak / most);
}
