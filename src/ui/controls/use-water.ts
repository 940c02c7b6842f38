import { useEffect, useRef } from "react";
import type { Decibels } from "@/core/base";
import { eachFrame } from "./each-frame";
import { placeOf, type LevelScale } from "./level-scale";

/** How long the highest level stays marked. */
const HOLD_MS = 1500;
/** How fast what is shown falls, in dB a second. */
const FALL = 36;

/** A level in figures; what rounds to nothing has no sign. */
const figureOf = (db: Decibels): string => db.toFixed(1).replace(/^-(0\.0)$/, "$1");

interface Source {
  scale: LevelScale;
  /** The highest sample just now in dB. */
  peak(): Decibels;
  /** Whether anything may be heard now. */
  sounding(): boolean;
}

/** Keeps a rising and falling level, its highest mark and figure up to date, frame by frame, without rendering. */
export function useWater({ scale, peak, sounding }: Source) {
  const water = useRef<HTMLDivElement>(null);
  const mark = useRef<HTMLDivElement>(null);
  const figure = useRef<HTMLButtonElement>(null);
  const highest = useRef(-Infinity);
  useEffect(() => {
    let [last, shown, held, heldAt] = [0, -Infinity, -Infinity, 0];
    return eachFrame((now) => {
      const level = peak();
      shown = Math.max(level, shown - (FALL * Math.min(100, now - last)) / 1000);
      last = now;
      if (level >= held || now - heldAt > HOLD_MS) [held, heldAt] = [level, now];
      if (level > highest.current) highest.current = level;
      if (water.current) water.current.style.transform = `scaleY(${placeOf(scale, shown)})`;
      if (mark.current) {
        mark.current.style.bottom = `${100 * placeOf(scale, held)}%`;
        mark.current.style.opacity = held > scale.min ? "1" : "0";
      }
      if (figure.current)
        figure.current.textContent = highest.current > -Infinity ? figureOf(highest.current) : "–";
      return sounding() || shown > scale.min;
    }, sounding);
  }, [peak, sounding, scale]);

  /** The highest level begins anew. */
  const forget = () => {
    highest.current = -Infinity;
    if (figure.current) figure.current.textContent = "–";
  };
  return { water, mark, figure, forget };
}
