"use client";
import { type NumberChange, changedTogether, nth, readNumberChange } from "@/core/base";
import { toast } from "sonner";
import {
  useRef,
  useState,
  type ChangeEvent,
  type FocusEvent,
  type KeyboardEvent,
  type PointerEvent,
  type Ref,
} from "react";
import { numberReader } from "./typed-number";

/** A number with its range, and how it is read and written. */
export interface ValueFieldProps {
  label: string;
  value: number;
  /** The value as it is then, and what was done to it: several values that stand behind it do the same. */
  onChange(value: number, change: NumberChange): void;
  min: number;
  max: number;
  /** One arrow key, or 4 px of dragging; ×10 with shift. */
  step?: number;
  /** What a double click returns to. */
  reset?: number;
  format?(value: number): string;
  /** Null for text that means nothing here; the old value then stays. */
  parse?(text: string): number | null;
  /** How much `+` and `-` are by, where that is not read as the value is. */
  parseAmount?(text: string): number | null;
  /** Whether times as much means something. */
  scales?: boolean;
  /** Whether the value is the first of several, which may differ. */
  several?: boolean;
  className?: string;
  disabled?: boolean;
  /** The field itself, to give it the keyboard. */
  inputRef?: Ref<HTMLInputElement>;
}

/** A minus as it is printed: one from the keyboard before a number is a change. */
const printed = (text: string) => text.replace(/^-(?=[\d.])/, "−");

/** What is being typed, while it is; `done` is given it at the end, where it was touched and not dropped. */
function useTyping(done: (text: string) => void) {
  const [text, setText] = useState<string | null>(null);
  const touched = useRef(false);
  const drop = () => {
    touched.current = false;
    setText(null);
  };
  const handlers = {
    onFocus: ({ target }: FocusEvent<HTMLInputElement>) => {
      touched.current = false;
      setText(target.value);
    },
    onChange: ({ target }: ChangeEvent<HTMLInputElement>) => {
      touched.current = true;
      setText(target.value);
    },
    onBlur: ({ target }: FocusEvent<HTMLInputElement>) => {
      if (touched.current) done(target.value.trim());
      drop();
    },
  };
  return { text, drop, handlers };
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
  parse,
  parseAmount,
  scales = true,
  several = false,
  className = "",
  disabled = false,
  inputRef,
}: ValueFieldProps) {
  const drag = useRef<{ y: number; from: number; done: number; moved: boolean } | null>(null);
  const shown = printed(format(value));

  /** Does a change as far as the range lets it; what came of it is handed on where it is another value. */
  const give = (change: NumberChange) => {
    const [held] = changedTogether([value], change, { min, max });
    // Steps like 0.05 must not gather the errors of binary fractions.
    const rounded = Math.round((held ?? value) * 1000) / 1000;
    if (rounded !== value || several) onChange(rounded, change);
    return rounded;
  };
  const typing = useTyping((text) => {
    if (text === shown && !several) return;
    const read = parse ?? numberReader(format, [value, min, max, (min + max) / 2]);
    const change = readNumberChange(text, read, parseAmount);
    const id = `field-${label}`;
    if (change === null || (change.how === "scale" && !scales)) {
      toast.error(`${label}: “${text}” means nothing here. It stays at ${shown}.`, { id });
      return;
    }
    const wanted = nth(changedTogether([value], change, { min: -Infinity, max: Infinity }), 0);
    const held = format(give(change));
    if (wanted < min || wanted > max)
      toast.info(`${label} goes from ${format(min)} to ${format(max)}: it is ${held} now.`, { id });
  });
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter") event.currentTarget.blur();
    else if (event.key === "Escape") {
      typing.drop();
      drag.current = null;
      event.currentTarget.blur();
    } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      event.preventDefault();
      typing.drop();
      const steps = (event.key === "ArrowUp" ? 1 : -1) * (event.shiftKey ? 10 : 1);
      give({ how: "shift", by: steps * step });
    } else if (!event.ctrlKey && !event.metaKey) event.stopPropagation();
  };
  const onPointerDown = (event: PointerEvent<HTMLInputElement>) => {
    if (disabled || event.button !== 0 || document.activeElement === event.currentTarget) return;
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { y: event.clientY, from: value, done: 0, moved: false };
  };
  const onPointerMove = (event: PointerEvent<HTMLInputElement>) => {
    const from = drag.current;
    if (!from) return;
    const steps = Math.round((from.y - event.clientY) / 4);
    if (steps !== 0) from.moved = true;
    const by = steps * step * (event.shiftKey ? 10 : 1);
    if (!from.moved || by === from.done) return;
    // Of one it is where the hand is; several go on from where they were held together.
    give(several ? { how: "shift", by: by - from.done } : { how: "set", to: from.from + by });
    from.done = by;
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
      title={`${label}: type it or its change (+2, -2, *1.5, /2; =-2 for a value), drag, arrow keys${reset === undefined ? "" : ", double click to reset"}`}
      className={`figure min-h-6 cursor-ns-resize rounded bg-transparent px-1 hover:bg-base-300/50 focus:bg-base-100 ${className}`}
      spellCheck={false}
      autoComplete="off"
      disabled={disabled}
      value={typing.text ?? shown}
      {...typing.handlers}
      onKeyDown={onKeyDown}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onDoubleClick={() => {
        if (reset === undefined) return;
        typing.drop();
        give({ how: "set", to: reset });
      }}
    />
  );
}
