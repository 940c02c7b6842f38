"use client";
import { clamp, nth, must } from "@/core/base";
import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";
import { type Contour, type PhraseWish, heightAt } from "@/core/generate";

const WIDTH = 280;
const HEIGHT = 64;
const PADDING = 5;

interface Props {
  wish: Pick<PhraseWish, "contour" | "drawn" | "climax">;
  /** A stroke of the hand, or what was there before one that is escaped. */
  onDraw(drawn: number[], contour?: Contour): void;
}

/** The contour of a phrase as a line; drawing on it makes it the hand's own. */
export function ContourField({ wish, onDraw }: Props) {
  const area = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState(0);
  /** Where the last touch of a stroke was, so that a fast one leaves nothing out. */
  const last = useRef<{ i: number; height: number } | null>(null);
  /** What was there before the stroke that is under way. */
  const before = useRef<Pick<PhraseWish, "contour" | "drawn"> | null>(null);
  const count = wish.drawn.length;
  const whole: PhraseWish = { form: "phrases", bars: 2, strict: 0, ...wish };
  const heights = Array.from({ length: count }, (_, i) =>
    heightAt(whole, i / (count - 1), wish.climax / 100),
  );
  const x = (i: number) => PADDING + (i / (count - 1)) * (WIDTH - 2 * PADDING);
  const y = (height: number) => PADDING + (1 - height) * (HEIGHT - 2 * PADDING);

  const touch = (event: PointerEvent) => {
    const box = must(area.current).getBoundingClientRect();
    const across = (event.clientX - box.left) / box.width;
    const i = Math.round(clamp(across, 0, 1) * (count - 1));
    const up = 1 - (event.clientY - box.top) / box.height;
    const height = Math.round(100 * clamp(up, 0, 1)) / 100;
    const from = last.current ?? { i, height };
    const next = [...heights];
    const steps = Math.abs(i - from.i);
    for (let k = 0; k <= steps; k++) {
      const at = from.i + Math.sign(i - from.i) * k;
      next[at] = steps === 0 ? height : from.height + ((height - from.height) * k) / steps;
    }
    last.current = { i, height };
    setChosen(i);
    onDraw(next);
  };
  const key = (event: KeyboardEvent) => {
    if (event.key === "Escape" && before.current) {
      onDraw([...before.current.drawn], before.current.contour);
      before.current = null;
      event.preventDefault();
      event.stopPropagation();
      return;
    }
    const across = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    const up = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    if (across) setChosen(Math.max(0, Math.min(count - 1, chosen + across)));
    else if (up) {
      const to = clamp(nth(heights, chosen) + up * 0.05, 0, 1);
      onDraw(heights.map((height, i) => (i === chosen ? to : height)));
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <svg
      ref={area}
      role="application"
      tabIndex={0}
      aria-label={`Contour of a phrase: ${NAMES[wish.contour]}. Left and right choose a place, up and down move it.`}
      data-testid="contour"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      preserveAspectRatio="none"
      className="h-16 w-full touch-none rounded-lg bg-base-200 outline-offset-2"
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        last.current = null;
        before.current = { contour: wish.contour, drawn: wish.drawn };
        touch(event);
      }}
      onPointerMove={(event) => event.buttons & 1 && before.current && touch(event)}
      onPointerUp={() => (before.current = null)}
      onPointerCancel={() => (before.current = null)}
      onKeyDown={key}
    >
      <polyline
        points={heights.map((height, i) => `${x(i)},${y(height)}`).join(" ")}
        fill="none"
        stroke="var(--color-primary)"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      <ellipse
        cx={x(chosen)}
        cy={y(nth(heights, chosen))}
        rx={3}
        ry={3.5}
        fill={wish.contour === "drawn" ? "var(--color-primary)" : "none"}
        stroke="var(--color-primary)"
      />
    </svg>
  );
}

const NAMES: Readonly<Record<Contour, string>> = {
  arch: "an arch",
  rise: "rising",
  fall: "falling",
  wave: "a wave",
  valley: "a valley",
  drawn: "drawn by hand",
};
