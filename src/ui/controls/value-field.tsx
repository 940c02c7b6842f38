"use client";
import { clamp } from "@/core/base";
import { toast } from "sonner";
import { useRef, useState, type KeyboardEvent, type PointerEvent, type Ref } from "react";

/** A number with its range, and how it is read and written. */
export interface ValueFieldProps {
  label: string;
  value: number;
  onChange(value: number): void;
  min: number;
  max: number;
  /** One arrow key, or 4 px of dragging; ×10 with shift. */
  step?: number;
  /** What a double click returns to. */
  reset?: number;
  format?(value: number): string;
  /** Null for text that means nothing here; the old value then stays. */
  parse?(text: string): number | null;
  className?: string;
  disabled?: boolean;
  /** The field itself, to give it the keyboard. */
  inputRef?: Ref<HTMLInputElement>;
}

const readNumber = (text: string) => {
  const found = /-?\d+(?:[.,]\d+)?/.exec(text);
  return found ? Number(found[0].replace(",", ".")) : null;
};

/**
 * What a change such as `+2`, `-10`, `*1.5` or `/2` makes of a value; null for text that is none. Where a
 * value may be below 0, `-10` is that value; there a change begins with `=` before it, as `=-10`.
 */
export function changedBy(text: string, value: number, signed: boolean): number | null {
  const found = /^\s*(=?)([+\-−*x×/])\s*(\d+(?:[.,]\d+)?)\s*$/.exec(text);
  if (!found) return null;
  const [, said, sign, digits = ""] = found;
  const by = Number(digits.replace(",", "."));
  if (sign === "+") return value + by;
  if (sign === "-" || sign === "−") return signed && !said ? null : value - by;
  if (sign === "/") return by === 0 ? null : value / by;
  return value * by;
}

/** A number that can be typed, dragged up and down, stepped with the arrows, and reset by double click. */
export function ValueField({
  label,
  value,
  onChange,
  min,
  max,
  step = 1,
  reset,
  format = String,
  parse = readNumber,
  className = "",
  disabled = false,
  inputRef,
}: ValueFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const drag = useRef<{ y: number; from: number; moved: boolean } | null>(null);

  const give = (next: number) => {
    const held = clamp(next, min, max);
    // Steps like 0.05 must not gather the errors of binary fractions.
    const rounded = Math.round(held * 1000) / 1000;
    if (rounded !== value) onChange(rounded);
  };
  const finish = () => {
    if (typed !== null && typed.trim() !== format(value)) {
      const read = changedBy(typed, value, min < 0) ?? parse(typed);
      if (read === null || !Number.isFinite(read)) {
        toast.error(
          `${label}: “${typed.trim()}” means nothing here. It stays at ${format(value)}.`,
          {
            id: `field-${label}`,
          },
        );
      } else {
        give(read);
        if (read < min || read > max) {
          const held = clamp(read, min, max);
          toast.info(
            `${label} goes from ${format(min)} to ${format(max)}: it is ${format(held)} now.`,
            { id: `field-${label}` },
          );
        }
      }
    }
    setTyped(null);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") event.currentTarget.blur();
    else if (event.key === "Escape") {
      setTyped(null);
      drag.current = null;
      event.currentTarget.blur();
    } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      event.preventDefault();
      setTyped(null);
      give(value + (event.key === "ArrowUp" ? 1 : -1) * step * (event.shiftKey ? 10 : 1));
    } else if (!event.ctrlKey && !event.metaKey) event.stopPropagation();
  };
  const onPointerDown = (event: PointerEvent<HTMLInputElement>) => {
    if (disabled || event.button !== 0 || document.activeElement === event.currentTarget) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { y: event.clientY, from: value, moved: false };
  };
  const onPointerMove = (event: PointerEvent<HTMLInputElement>) => {
    const from = drag.current;
    if (!from) return;
    const steps = Math.round((from.y - event.clientY) / 4);
    if (steps !== 0) from.moved = true;
    if (from.moved) give(from.from + steps * step * (event.shiftKey ? 10 : 1));
  };
  const onPointerUp = (event: PointerEvent<HTMLInputElement>) => {
    const from = drag.current;
    drag.current = null;
    if (from && !from.moved) {
      event.currentTarget.focus();
      event.currentTarget.select();
    }
  };

  return (
    <input
      ref={inputRef}
      type="text"
      role="spinbutton"
      aria-label={label}
      aria-valuenow={value}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuetext={format(value)}
      title={`${label}: type it or its change (+2, *1.5), drag, arrow keys${reset === undefined ? "" : ", double click to reset"}`}
      className={`figure min-h-6 cursor-ns-resize rounded bg-transparent px-1 hover:bg-base-300/50 focus:bg-base-100 ${className}`}
      spellCheck={false}
      autoComplete="off"
      disabled={disabled}
      value={typed ?? format(value)}
      onChange={(event) => setTyped(event.target.value)}
      onFocus={(event) => setTyped(event.target.value)}
      onBlur={finish}
      onKeyDown={onKeyDown}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onDoubleClick={() => {
        if (reset === undefined) return;
        setTyped(null);
        give(reset);
      }}
    />
  );
}
