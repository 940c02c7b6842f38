"use client";
import { History as HistoryIcon } from "lucide-react";
import { useEffect, useRef, type RefObject } from "react";
import { plural } from "@/core";
import { Popover } from "../controls/popover";
import { useDesk, useSession } from "../session/context";

/** Every edit since the project was opened, to jump back and forth in. */
export function HistoryList() {
  const { store } = useDesk();
  const open = useSession((s) => s.historyOpen);
  const here = useRef<HTMLButtonElement>(null);
  return (
    <Popover
      label="History"
      open={open}
      onOpenChange={(historyOpen) => store.getState().setLook({ historyOpen })}
      className="w-64 p-2"
      first={here}
      trigger={
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="History"
          title="History of edits, to jump in (shift H)"
        >
          <HistoryIcon size={16} />
        </button>
      }
    >
      <Steps here={here} />
    </Popover>
  );
}

function Steps({ here }: { here: RefObject<HTMLButtonElement | null> }) {
  const { store } = useDesk();
  const { past, future } = useSession((s) => s.history);
  useEffect(() => {
    here.current?.scrollIntoView({ block: "nearest" });
  }, [here, past.length]);
  const steps = ["Opened", ...past.map((e) => e.label), ...future.map((e) => e.label)];
  return (
    <>
      <p className="quiet px-2 pb-1 text-[12px]">
        {plural(past.length, "edit")}
        {future.length > 0 ? `, ${future.length} undone` : ""}. Click to go there.
      </p>
      <ol className="flex max-h-[420px] flex-col overflow-y-auto p-1" aria-label="Edits">
        {steps.map((label, i) => {
          const now = i === past.length;
          return (
            <li key={i}>
              <button
                ref={now ? here : undefined}
                className={`flex w-full items-baseline gap-2 rounded-lg px-2 py-1 text-left text-[13px] ${
                  now
                    ? "bg-primary/10 font-semibold"
                    : i > past.length
                      ? "quiet line-through decoration-1 hover:bg-base-200"
                      : "hover:bg-base-200"
                }`}
                aria-current={now ? "step" : undefined}
                onClick={() => store.getState().jump(i)}
              >
                <span className="figure quiet w-6 shrink-0 text-right text-[11px]">{i}</span>
                <span className="min-w-0 truncate">{label}</span>
              </button>
            </li>
          );
        })}
      </ol>
    </>
  );
}
