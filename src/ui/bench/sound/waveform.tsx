"use client";
import { clamp, must, nth } from "@/core/base";
import { useSize } from "../../controls/use-size";
import { useEffect, useMemo, useRef, useState, type PointerEvent } from "react";
import { renderPad } from "@/audio/pads/render";
import { loadSample, type Decoded } from "@/audio/pads/samples";
import { type KitShape, PLAIN_KIT, type PadShape, plainPad } from "@/core/score";
import { useTheme } from "../../person/theme";
import { prepareCanvas } from "../../controls/canvas";
import { readColours } from "../../controls/colours";

const HEIGHT = 76;
const RATE = 44_100;
/** How near the pointer must be to a handle, in pixels. */
const NEAR = 9;

/** The sound a pad starts from: its own sample, or the kit's. */
export function useSource(kit: string, pad: PadShape): Decoded | null {
  const { pitch, sample, from, variant } = pad;
  const [loaded, setLoaded] = useState<{ id: string; sound: Decoded | null } | null>(null);
  const id = sample?.id ?? null;
  useEffect(() => {
    if (!id) return;
    let here = true;
    loadSample(id, RATE)
      .then((sound) => here && setLoaded({ id, sound }))
      .catch(() => here && setLoaded({ id, sound: null }));
    return () => {
      here = false;
    };
  }, [id]);
  const own = useMemo(
    () => ({
      channels: renderPad(
        { kit: from ?? kit, pad: { ...plainPad(pitch), variant }, whole: PLAIN_KIT, rate: RATE },
        null,
      ),
      rate: RATE,
    }),
    [kit, from, variant, pitch],
  );
  if (!id) return own;
  return loaded?.id === id ? loaded.sound : null;
}

interface Props {
  source: Decoded | null;
  pad: PadShape;
  whole: KitShape;
  onShape(change: Partial<PadShape>): void;
  /** A click that touches no handle: how loud, by its height. */
  onHear(velocity: number): void;
}

/** The pad's sound as a wave, with handles for where it starts and where it has died away. */
export function Waveform({ source, pad, whole, onShape, onHear }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = useSize(area);
  const theme = useTheme();
  const peaks = useMemo(
    () => (source && width > 0 ? peaksOf(source, width) : null),
    [source, width],
  );
  const length = source ? (nth(source.channels, 0).length / source.rate) * 1000 : 0;
  // How long a ms of the source lasts when it is heard.
  const factor = (pad.stretch * whole.time) / 2 ** ((pad.tune + whole.pitch) / 12);
  const xOf = (ms: number) => (length === 0 ? 0 : (ms / length) * width);
  const startX = xOf(Math.min(pad.start, length));
  const endX = pad.decay === 0 ? width : Math.min(width, xOf(pad.start + pad.decay / factor));

  useEffect(() => {
    const ctx = width > 0 && canvas.current ? prepareCanvas(canvas.current, width, HEIGHT) : null;
    if (!ctx) return;
    const colours = readColours();
    ctx.clearRect(0, 0, width, HEIGHT);
    const middle = HEIGHT / 2;
    (peaks ?? []).forEach(([low, high], x) => {
      const inside = x >= startX && x <= endX;
      ctx.fillStyle = inside ? colours.text : colours.line;
      // What the decay leaves, seen as the height of the wave.
      const left =
        inside && pad.decay > 0 && endX > startX ? 1 - (x - startX) / (endX - startX) : 1;
      const tall = Math.max(1, (high - low) * middle * 0.92 * left);
      ctx.fillRect(x, middle - high * middle * 0.92 * left, 1, tall);
    });
    ctx.fillStyle = colours.selected;
    ctx.fillRect(Math.max(0, Math.min(width - 2, startX - 1)), 0, 2, HEIGHT);
    ctx.beginPath();
    ctx.moveTo(startX, 2);
    ctx.lineTo(Math.min(endX, width - 1), HEIGHT - 3);
    ctx.strokeStyle = colours.selected;
    ctx.lineWidth = 1.2;
    ctx.setLineDash([3, 3]);
    ctx.stroke();
    ctx.setLineDash([]);
    ctx.beginPath();
    ctx.arc(clamp(endX, 5, width - 5), HEIGHT - 6, 4.5, 0, 7);
    ctx.fill();
  }, [peaks, width, startX, endX, pad.decay, theme]);

  const held = useRef<"start" | "decay" | null>(null);
  const at = (event: PointerEvent) => {
    const frame = must(area.current).getBoundingClientRect();
    return { x: event.clientX - frame.left, y: event.clientY - frame.top };
  };
  const move = (event: PointerEvent) => {
    if (!held.current || length === 0) return;
    const ms = clamp((at(event).x / width) * length, 0, length);
    if (held.current === "start") onShape({ start: Math.round(Math.min(ms, length - 5)) });
    else {
      const after = Math.round(Math.max(5, (ms - pad.start) * factor));
      onShape({ decay: ms >= length - 1 ? 0 : Math.min(20_000, after) });
    }
  };
  const down = (event: PointerEvent) => {
    const { x, y } = at(event);
    if (Math.hypot(x - Math.min(width - 5, endX), y - (HEIGHT - 6)) <= NEAR + 3)
      held.current = "decay";
    else if (Math.abs(x - startX) <= NEAR && y < HEIGHT - 16) held.current = "start";
    else {
      onHear(Math.max(8, Math.round((1 - y / HEIGHT) * 127)));
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  return (
    <div
      ref={area}
      data-testid="waveform"
      role="img"
      aria-label="The pad's sound: starts at the line, has died away at the dot"
      title="Click to hear it, higher is louder. Drag the line for the start, the dot for the decay."
      className="relative cursor-pointer touch-none rounded-lg bg-[var(--sheet)]"
      style={{ height: HEIGHT }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={() => (held.current = null)}
      onPointerCancel={() => (held.current = null)}
    >
      <canvas ref={canvas} className="absolute inset-0 h-full w-full" />
      {!source && (
        <p className="quiet absolute inset-0 grid place-items-center">
          The sample is not here yet: the kit sound plays
        </p>
      )}
    </div>
  );
}

/** Lowest and highest sample under each pixel. */
function peaksOf({ channels }: Decoded, width: number): [number, number][] {
  const sound = nth(channels, 0);
  return Array.from({ length: width }, (_, x) => {
    const [from, to] = [x, x + 1].map((p) => Math.floor((p / width) * sound.length)) as [
      number,
      number,
    ];
    let [low, high] = [0, 0];
    for (let i = from; i < to; i++) {
      low = Math.min(low, sound[i]!);
      high = Math.max(high, sound[i]!);
    }
    return [low, high];
  });
}
