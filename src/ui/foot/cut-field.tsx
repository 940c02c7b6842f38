"use client";
import { useRef, useState } from "react";
import { useRequest } from "../session/requested";
import { useDesk } from "../session/context";
import { transformNow } from "../commands/tracks/transforming";

const MAX = 64;

/** How many hits each selected hit is cut into: type a number, enter cuts. */
export function CutField() {
  const { store } = useDesk();
  const [text, setText] = useState("3");
  const count = Number(text);
  const valid = Number.isInteger(count) && count >= 2 && count <= MAX;
  const field = useRef<HTMLInputElement>(null);
  useRequest("cut-into", () => {
    field.current?.focus();
    field.current?.select();
  });
  return (
    <input
      ref={field}
      className={`figure h-6 w-10 rounded bg-base-200 px-1 text-center ${valid ? "" : "text-error"}`}
      aria-label="Roll"
      aria-invalid={!valid}
      title={`Roll: each selected hit becomes 2 to ${MAX}: type and press enter (shift R comes here)`}
      inputMode="numeric"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Enter" && valid) {
          transformNow(store, "roll", { count }, { label: `Roll in ${count}` });
          // The keys belong to the sheet again, so that undo undoes the cut and not the number.
          event.currentTarget.blur();
        } else if (event.key === "Escape") event.currentTarget.blur();
        else if (event.key !== "Tab") return event.stopPropagation();
        if (event.key === "Enter") event.preventDefault();
      }}
    />
  );
}
