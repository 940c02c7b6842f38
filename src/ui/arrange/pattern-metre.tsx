"use client";
import { useState } from "react";
import * as edits from "@/core/edits";
import { METRES, type Metre } from "@/core/time";
import type { Pattern } from "@/core/score";
import { useDesk, useSession } from "../session/context";

const textOf = ({ beats, unit }: Metre) => `${beats}/${unit}`;

/** The metre of one pattern: the project's, or its own. Where something stands in time, it asks what stays. */
export function PatternMetre({ pattern, metre }: { pattern: Pattern; metre: Metre }) {
  const { store } = useDesk();
  const whole = useSession((s) => s.project.metre);
  const [asked, setAsked] = useState<{ metre: Metre | null } | null>(null);
  const put = (to: Metre | null, keep: edits.MetreChange) => {
    setAsked(null);
    store
      .getState()
      .edit("Metre of the pattern", (p) => edits.setPatternMetre(p, pattern.id, to, keep));
  };
  const choose = (text: string) => {
    const to = METRES.find((m) => textOf(m) === text) ?? null;
    const times = edits.hasTimes({ patterns: [pattern] });
    if (textOf(to ?? whole) === textOf(metre) || !times) put(to, "times");
    else setAsked({ metre: to });
  };
  return (
    <div className="flex flex-col gap-1" data-asks>
      <select
        className="select select-sm figure w-[136px]"
        aria-label="Metre of the pattern"
        value={asked ? textOf(asked.metre ?? whole) : pattern.metre ? textOf(pattern.metre) : ""}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">{textOf(whole)} (project)</option>
        {METRES.map((m) => (
          <option key={textOf(m)} value={textOf(m)}>
            {textOf(m)}
          </option>
        ))}
      </select>
      {asked && (
        <div className="flex gap-1" role="group" aria-label="What the change of metre keeps">
          <button className="btn btn-xs" onClick={() => put(asked.metre, "places")}>
            Keep bars
          </button>
          <button className="btn btn-xs" onClick={() => put(asked.metre, "times")}>
            Keep times
          </button>
        </div>
      )}
    </div>
  );
}
