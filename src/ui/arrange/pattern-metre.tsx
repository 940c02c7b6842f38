"use client";
import { useState } from "react";
import { METRES, type Metre } from "@/core/time";
import { type Pattern, hasTimes } from "@/core/score";
import { type MetreChange, setPatternMetre } from "../commands/song/project";
import { useDesk, useSession } from "../session/context";

const textOf = ({ beats, unit }: Metre) => `${beats}/${unit}`;

/** The metre of one pattern: the project's, or its own. Where something stands in time, it asks what stays. */
export function PatternMetre({ pattern, metre }: { pattern: Pattern; metre: Metre }) {
  const { store } = useDesk();
  const whole = useSession((state) => state.project.metre);
  const [asked, setAsked] = useState<{ metre: Metre | null } | null>(null);
  const put = (to: Metre | null, keep: MetreChange) => {
    setAsked(null);
    setPatternMetre(store, pattern.id, to, keep);
  };
  const choose = (text: string) => {
    const to = METRES.find((metre) => textOf(metre) === text) ?? null;
    const times = hasTimes({ patterns: [pattern] });
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
        {METRES.map((metre) => (
          <option key={textOf(metre)} value={textOf(metre)}>
            {textOf(metre)}
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
