"use client";
import { Check, X } from "lucide-react";
import { useEffect, useState } from "react";
import { shownKey } from "../person/keys";
import { setSettings } from "../person/settings";
import { useDesk, useSession } from "../session/context";
import { LESSONS, ticksOf, type Lesson } from "./lessons";

/** The lesson that goes on, under the sheet; nothing where there is none. */
export function LessonStrip() {
  const id = useSession((state) => state.lesson);
  const lesson = LESSONS.find((one) => one.id === id);
  return lesson ? <Strip key={lesson.id} lesson={lesson} /> : null;
}

function Strip({ lesson }: { lesson: Lesson }) {
  const { store } = useDesk();
  const [ticks, setTicks] = useState(() => ticksOf(lesson, store.getState(), []));
  useEffect(
    () =>
      store.subscribe((state) =>
        setTicks((seen) => {
          const now = ticksOf(lesson, state, seen);
          return now.some((tick, i) => tick !== seen[i]) ? now : seen;
        }),
      ),
    [lesson, store],
  );
  const done = ticks.every(Boolean);
  const next = LESSONS[LESSONS.indexOf(lesson) + 1];
  const at = ticks.indexOf(false);
  return (
    <section
      aria-label={lesson.label}
      className="flex min-h-[46px] shrink-0 items-center gap-3 border-t border-base-300 bg-base-100 px-4 text-[12px]"
    >
      <h2 className="shrink-0 font-semibold">{lesson.label}</h2>
      <ol className="flex min-w-0 flex-1 gap-3" aria-live="polite">
        {lesson.steps.map(({ text }, i) => (
          <li
            key={i}
            className={`flex min-w-0 flex-1 items-center gap-1.5 leading-tight ${i === at ? "font-semibold" : ticks[i] ? "" : "quiet"}`}
          >
            <span
              className={`grid h-5 w-5 shrink-0 place-items-center rounded-full border ${ticks[i] ? "border-primary bg-primary text-primary-content" : "border-base-content"}`}
            >
              {ticks[i] ? <Check size={12} aria-label="done" /> : i + 1}
            </span>
            {text()}
          </li>
        ))}
      </ol>
      {done && next && (
        <button
          className="btn btn-primary btn-xs h-[26px] min-h-0"
          onClick={() => store.getState().setTools({ lesson: next.id })}
        >
          {next.label}
        </button>
      )}
      <button
        className="btn btn-ghost btn-xs h-[26px] min-h-0 px-1.5"
        aria-label={`Put ${lesson.label.toLowerCase()} away`}
        title={`Put it away for good; help (${shownKey("help")}) has it again`}
        onClick={() => {
          setSettings({ lessonsOffered: false });
          store.getState().setTools({ lesson: null });
          store.getState().request("sheet");
        }}
      >
        <X size={14} />
      </button>
    </section>
  );
}
