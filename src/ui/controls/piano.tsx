import { useRef, type PointerEvent } from "react";
import { touchVelocity } from "./touch";
import { useSize } from "./use-size";
import { nth } from "@/core/base";

const BLACK = [1, 3, 6, 8, 10];
/** Places of the twelve keys on the seven white ones, in widths of a white key. */
const PLACES = [0, 0.65, 1, 1.75, 2, 3, 3.6, 4, 4.7, 5, 5.8, 6];

interface Props {
  /** MIDI pitch of the lowest key, a C. */
  low: number;
  octaves: number;
  height: number;
  /** What a key is: it gets a dot in the key's colour, the root a larger one. */
  mark?(pitch: number): "root" | "in" | null;
  /** Keys that belong to the chord that holds: they are tinted. */
  tinted?: ReadonlySet<number>;
  down?: ReadonlySet<number>;
  caption?(pitch: number): string;
  /** `finger` tells pointers apart. */
  onDown?(pitch: number, velocity: number, finger: number, time: number): void;
  onUp?(finger: number, time: number): void;
}

/** Keys of a piano, as a picture or to be played: lower on a key is louder. */
export function Piano({ low, octaves, height, mark, down, tinted, caption, onDown, onUp }: Props) {
  const pitches = Array.from({ length: octaves * 12 + 1 }, (_, i) => low + i);
  const whites = octaves * 7 + 1;
  const picture = useRef<SVGSVGElement>(null);
  const { width } = useSize(picture);
  // The picture is as wide as its place; what is written on it is not.
  const type = width > 0 ? (12 * whites * 10) / width : 0;
  const place = (pitch: number) => {
    const i = pitch - low;
    return Math.floor(i / 12) * 7 + nth(PLACES, i % 12);
  };
  const isBlack = (pitch: number) => BLACK.includes((pitch - low) % 12);
  const press = (event: PointerEvent<SVGGElement>, pitch: number) => {
    if (!onDown) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    onDown(pitch, touchVelocity(event), event.pointerId, event.timeStamp);
  };
  const one = (pitch: number) => {
    const black = isBlack(pitch);
    const [w, h] = black ? [6.2, height * 0.6] : [9.6, height];
    const x = place(pitch) * 10 + 0.2;
    const marked = mark?.(pitch) ?? null;
    const pressed = down?.has(pitch);
    return (
      <g
        key={pitch}
        data-pitch={pitch}
        className={onDown ? "cursor-pointer" : undefined}
        onPointerDown={(event) => press(event, pitch)}
        onPointerUp={(event) => onUp?.(event.pointerId, event.timeStamp)}
        onPointerCancel={(event) => onUp?.(event.pointerId, event.timeStamp)}
        onLostPointerCapture={(event) => onUp?.(event.pointerId, event.timeStamp)}
      >
        <rect
          x={x}
          y={0.5}
          width={w}
          height={h}
          rx={1.6}
          fill={
            pressed ? "var(--color-primary)" : black ? "var(--piano-black)" : "var(--piano-white)"
          }
          className={pressed ? "lit" : undefined}
          stroke="var(--sheet-line)"
          strokeWidth={0.5}
        />
        {tinted?.has(pitch % 12) && !pressed && (
          <rect
            x={x + 0.6}
            y={h - 8}
            width={w - 1.2}
            height={7.4}
            rx={1.2}
            fill="var(--color-primary)"
            fillOpacity={black ? 0.5 : 0.22}
          />
        )}
        {marked && (
          <circle
            cx={x + w / 2}
            cy={h - (marked === "root" ? 4.4 : 3.8)}
            r={marked === "root" ? 2.6 : 1.6}
            fill={pressed ? "var(--color-primary-content)" : "var(--color-primary)"}
          />
        )}
        {caption && type > 0 && (
          <text
            x={x + w / 2}
            y={h - 8}
            fontSize={type}
            textAnchor="middle"
            fill={
              pressed
                ? "var(--color-primary-content)"
                : black
                  ? "var(--piano-white)"
                  : "var(--piano-black)"
            }
            pointerEvents="none"
          >
            {caption(pitch)}
          </text>
        )}
      </g>
    );
  };
  return (
    <svg
      ref={picture}
      viewBox={`0 0 ${whites * 10} ${height + 1}`}
      className="block w-full touch-none select-none"
      role={onDown ? "group" : "img"}
      aria-label={onDown ? "Keys" : "Notes of the scale on a keyboard"}
    >
      {pitches.filter((pitch) => !isBlack(pitch)).map(one)}
      {pitches.filter(isBlack).map(one)}
    </svg>
  );
}
