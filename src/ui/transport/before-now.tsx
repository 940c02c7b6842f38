"use client";
import { BookmarkPlus } from "lucide-react";
import { hear, keepAsBefore } from "../commands/transport/compare";
import { useDesk, useSession } from "../session/context";
import { keyed } from "../person/keys";

const WORDS = {
  before: ["Before", "Hear and see the project as it was kept, while the loop plays"],
  now: ["Now", "Hear and see the project as it is"],
} as const;

/** Hears the project as it was kept against what it is now, and keeps what is there. */
export function BeforeNow() {
  const { store } = useDesk();
  const hearing = useSession((state) => state.hearingBefore);
  const same = useSession((state) => state.keptBefore === state.project);
  return (
    <div role="group" aria-label="Before and Now" className="flex items-center gap-0.5">
      <div className="flex overflow-hidden rounded-lg border border-base-300">
        {(["before", "now"] as const).map((which) => {
          const on = hearing === (which === "before");
          const idle = same && which === "before";
          const [label, about] = WORDS[which];
          return (
            <button
              key={which}
              className={`h-7 px-2 max-[1180px]:px-1 ${on ? "bg-primary/15 font-semibold text-primary" : "hover:bg-base-200 disabled:opacity-40"}`}
              aria-pressed={on}
              {...(idle ? { title: "Nothing has changed since Before" } : keyed(about, "compare"))}
              disabled={idle}
              onClick={() => hear(store, which)}
            >
              {label}
            </button>
          );
        })}
      </div>
      <button
        className="btn btn-ghost btn-sm px-1"
        aria-label="Keep as Before"
        {...keyed("Keep what is there now as Before, to compare with later", "keep-before")}
        onClick={() => keepAsBefore(store)}
      >
        <BookmarkPlus size={15} />
      </button>
    </div>
  );
}
