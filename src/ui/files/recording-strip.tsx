"use client";
import { X } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { loadSample, type Decoded } from "@/audio/pads/samples";
import { PPQ, barTicks } from "@/core/time";
import { type Recording, metreOf, patternOf, patternTicks } from "@/core/score";
import { barsHeard } from "@/core/listen";
import { prepareCanvas } from "../controls/canvas";
import { readColours } from "../controls/colours";
import { useTheme } from "../person/theme";
import { HEADER_WIDTH } from "../geometry/layout";
import { tickOf, xOf } from "../geometry/view";
import { useDesk, useSession } from "../session/context";
import { useTimeView } from "../session/time-view";
import { deleteRecording } from "../commands/files/recording";
import { nth } from "@/core/base";
import { peaksOf } from "./draw-recording";

const HEIGHT = 46;
const RATE = 44_100;
/** Peaks of a recording a second: finer than what is seen. */
const FINE = 400;

/** The recording that the pattern was made from, over its bars, with a balance between it and the music. */
export function RecordingStrip() {
  const project = useSession((state) => state.project);
  const pattern = patternOf(
    project,
    useSession((state) => state.pattern),
  );
  return pattern.recording ? <Strip recording={pattern.recording} /> : null;
}

function Strip({ recording }: { recording: Recording }) {
  const { store, engine } = useDesk();
  const project = useSession((state) => state.project);
  const patternId = useSession((state) => state.pattern);
  const width = useSession((state) => state.sheetWidth);
  const balance = useSession((state) => state.balance);
  const pattern = patternOf(project, patternId);
  const total = patternTicks(project, pattern);
  const time = useTimeView(width, total);
  // The theme's colours are read while drawing.
  useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [loaded, setLoaded] = useState<{ id: string; sound: Decoded | null } | null>(null);
  const { id, name } = recording.sample;
  useEffect(() => {
    let here = true;
    loadSample(id, RATE).then(
      (sound) => here && setLoaded({ id, sound }),
      () => here && setLoaded({ id, sound: null }),
    );
    return () => {
      here = false;
    };
  }, [id]);
  const sound = loaded?.id === id ? loaded.sound : null;
  const peaks = useMemo(() => {
    if (!sound) return null;
    const seconds = nth(sound.channels, 0).length / sound.rate;
    return { seconds, values: peaksOf(sound.channels, Math.max(1, Math.ceil(seconds * FINE))) };
  }, [sound]);
  useEffect(() => {
    const ctx = canvas.current && prepareCanvas(canvas.current, width, HEIGHT);
    if (!ctx || width === 0) return;
    const ink = readColours();
    const view = { ...time, height: HEIGHT, top: 0 };
    ctx.fillStyle = ink.sheet;
    ctx.fillRect(0, 0, width, HEIGHT);
    const bar = barTicks(metreOf(project, pattern));
    ctx.fillStyle = ink.line;
    for (let tick = 0; tick <= total; tick += bar)
      ctx.fillRect(Math.round(xOf(view, tick)), 0, 1, HEIGHT);
    if (!peaks) return;
    const tickSeconds = 60 / recording.tempo / PPQ;
    const loop = barsHeard(peaks.seconds, recording, bar) * bar;
    ctx.fillStyle = ink.quiet;
    ctx.globalAlpha = 0.6;
    for (let x = 0; x < width; x++) {
      const tick = tickOf(view, x);
      if (tick < 0 || tick > total) continue;
      const seconds = (at: number) => recording.first + (at % loop) * tickSeconds;
      const from = Math.floor(seconds(tick) * FINE);
      const to = from + Math.max(1, Math.round((FINE * tickSeconds) / view.zoom));
      let peak = 0;
      for (let i = from; i < Math.min(to, peaks.values.length); i++)
        peak = Math.max(peak, peaks.values[i]!);
      const half = peak * (HEIGHT / 2 - 4);
      if (half > 0) ctx.fillRect(x, HEIGHT / 2 - half, 1, 2 * half);
    }
    ctx.globalAlpha = 1;
  });
  const setBalance = (value: number) => {
    store.getState().setHearing({ balance: value });
    engine.setBalance(value);
  };
  return (
    <div
      role="group"
      aria-label="Recording behind the pattern"
      className="relative z-10 flex shrink-0 border-b border-base-300 bg-base-100 text-[12px]"
      style={{ height: HEIGHT }}
    >
      <div
        className="flex shrink-0 flex-col justify-center gap-0.5 pr-2 pl-4"
        style={{ width: HEADER_WIDTH }}
      >
        <div className="flex items-center gap-1">
          <span className="quiet min-w-0 flex-1 truncate" title={name}>
            {loaded && !sound ? `“${name}” cannot be read` : name}
          </span>
          <button
            className="btn btn-ghost btn-xs h-[24px] min-h-0 px-1"
            aria-label="Delete recording"
            title="Delete the recording behind the pattern; its notes stay"
            onClick={() => deleteRecording(store, patternId)}
          >
            <X size={13} />
          </button>
        </div>
        <label className="flex items-center gap-1.5">
          <span className="quiet">it</span>
          <input
            type="range"
            className="range range-xs min-w-0 flex-1 [--range-fill:0]"
            aria-label="Balance between the recording and the music"
            aria-valuetext={
              balance === 0
                ? "both"
                : balance < 0
                  ? `recording by ${-balance}`
                  : `music by ${balance}`
            }
            min={-1}
            max={1}
            step={0.05}
            value={balance}
            onDoubleClick={() => setBalance(0)}
            onChange={(event) => setBalance(Number(event.target.value))}
          />
          <span className="quiet">music</span>
        </label>
      </div>
      <canvas
        ref={canvas}
        data-testid="recording-strip"
        className="min-w-0 flex-1"
        style={{ height: HEIGHT }}
      />
    </div>
  );
}
