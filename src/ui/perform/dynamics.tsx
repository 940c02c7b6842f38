"use client";
import { clamp, must } from "@/core/base";
import { useRef, type PointerEvent } from "react";
import { DYNAMICS } from "../commands/perform/entry";

/** The dynamic that a velocity is nearest to. */
export const dynamicOf = (velocity: number): string =>
  DYNAMICS.reduce((best, one) =>
    Math.abs(one[1] - velocity) < Math.abs(best[1] - velocity) ? one : best,
  )[0];

const WIDTH = 260;
const HEIGHT = 32;
const at = (velocity: number) => 6 + ((velocity - 1) / 126) * (WIDTH - 12);

/** From ppp to fff on one strip that opens as a crescendo does: press or drag anywhere on it. */
export function Dynamics({
  velocity,
  keys,
  onChange,
}: {
  velocity: number;
  /** The keys for softer and louder, as they are read. */
  keys: string;
  onChange(velocity: number): void;
}) {
  const strip = useRef<SVGSVGElement>(null);
  const set = (event: PointerEvent) => {
    const frame = must(strip.current).getBoundingClientRect();
    const x = ((event.clientX - frame.left) / frame.width) * WIDTH;
    onChange(clamp(Math.round(1 + ((x - 6) / (WIDTH - 12)) * 126), 1, 127));
  };
  const x = at(velocity);
  const half = (value: number) => 1.5 + 7 * ((value - 1) / 126);
  return (
    <svg
      ref={strip}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-[32px] w-[260px] max-w-full touch-none cursor-ew-resize select-none"
      role="slider"
      tabIndex={0}
      aria-label="Dynamics"
      aria-valuemin={1}
      aria-valuemax={127}
      aria-valuenow={velocity}
      aria-valuetext={`${dynamicOf(velocity)}, velocity ${velocity}`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        set(event);
      }}
      onPointerMove={(event) => event.buttons > 0 && set(event)}
      onKeyDown={(event) => {
        const by = {
          ArrowLeft: -1,
          ArrowRight: 1,
          ArrowDown: -1,
          ArrowUp: 1,
          PageUp: 10,
          PageDown: -10,
          Home: -127,
          End: 127,
        }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onChange(clamp(velocity + by, 1, 127));
      }}
    >
      <title>{`Velocity ${velocity} (${keys})`}</title>
      <path
        d={`M6 10 L${WIDTH - 6} ${10 - half(127)} V${10 + half(127)} Z`}
        fill="var(--color-base-300)"
      />
      <path
        d={`M6 10 L${x} ${10 - half(velocity)} V${10 + half(velocity)} Z`}
        fill="var(--color-primary)"
      />
      <line x1={x} x2={x} y1={0} y2={20} stroke="var(--color-base-content)" strokeWidth={1.5} />
      {DYNAMICS.map(([name, level]) => (
        <text
          key={name}
          x={clamp(at(level), 9, WIDTH - 9)}
          y={29}
          fontSize={12}
          textAnchor="middle"
          fontStyle="italic"
          fontFamily="serif"
          fontWeight={dynamicOf(velocity) === name ? 700 : 400}
          fill={dynamicOf(velocity) === name ? "var(--color-primary)" : "var(--sheet-quiet)"}
        >
          {name}
        </text>
      ))}
    </svg>
  );
}
