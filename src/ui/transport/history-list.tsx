"use client";
import { History as HistoryIcon } from "lucide-react";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef, type RefObject } from "react";
import { plural, nth } from "@/core/base";
import { Popover } from "../controls/popover";
import { placeOfEdit } from "../state/edit-place";
import { useDesk, useSession } from "../session/context";
import { keyed } from "../person/keys";

/** Every edit since the project was opened, to jump back and forth in. */
export function HistoryList() {
  const { store } = useDesk();
  const open = useSession((state) => state.historyOpen);
  const here = useRef<HTMLButtonElement>(null);
  return (
    <Popover
      label="History"
      open={open}
      onOpenChange={(historyOpen) => store.getState().setLook({ historyOpen })}
      className="w-80 p-2"
      first={here}
      trigger={
        <button
          className="btn btn-ghost btn-sm px-1.5"
          aria-label="History"
          {...keyed("History of edits, to jump in", "history")}
        >
          <HistoryIcon size={16} />
        </button>
      }
    >
      <Steps here={here} />
    </Popover>
  );
}

/** Heights of a row and of the list, in CSS pixels. */
const ROW = 28;
const LIST = 420;

function Steps({ here }: { here: RefObject<HTMLButtonElement | null> }) {
  const { store } = useDesk();
  const { past, future, forgotten } = useSession((state) => state.history);
  const project = useSession((state) => state.project);
  const list = useRef<HTMLDivElement>(null);
  // Not memoized: what it gives is read anew at every scroll.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count: past.length + future.length + 1,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 12,
    initialRect: { width: 320, height: LIST },
    initialOffset: () => Math.max(0, past.length * ROW - LIST / 2),
  });
  useEffect(() => rows.scrollToIndex(past.length), [rows, past.length]);
  const label = (i: number) =>
    i === 0 ? (forgotten ? "The oldest state kept" : "Opened") : stepAt(i - 1);
  const entryAt = (i: number) => past[i] ?? nth(future, i - past.length);
  const stepAt = (i: number) => entryAt(i).label;
  const placeAt = (i: number) => (i === 0 ? "" : placeOfEdit(entryAt(i - 1), project));
  return (
    <>
      <p className="quiet px-2 pb-1 text-[12px]">
        {plural(past.length, "edit")}
        {future.length > 0 ? `, ${future.length} undone` : ""}. Click to go there.
        {forgotten && " The first edits are too far back."}
      </p>
      <div ref={list} className="overflow-y-auto p-1" style={{ maxHeight: LIST }}>
        <ol className="relative" style={{ height: rows.getTotalSize() }} aria-label="Edits">
          {rows.getVirtualItems().map(({ index: i, start }) => (
            <li
              key={i}
              className="absolute inset-x-0"
              style={{ top: start }}
              aria-posinset={i + 1}
              aria-setsize={past.length + future.length + 1}
            >
              <button
                ref={i === past.length ? here : undefined}
                className={`flex w-full items-baseline gap-2 rounded-lg px-2 py-1 text-left text-[13px] ${
                  i === past.length
                    ? "bg-primary/10 font-semibold"
                    : i > past.length
                      ? "quiet line-through decoration-1 hover:bg-base-200"
                      : "hover:bg-base-200"
                }`}
                aria-current={i === past.length ? "step" : undefined}
                onClick={() => store.getState().jump(i)}
              >
                <span className="figure quiet w-8 shrink-0 text-right text-[12px]">{i}</span>
                <span className="min-w-0 truncate">{label(i)}</span>
                <span className="quiet ml-auto max-w-[55%] shrink-0 truncate pl-2 text-[12px]">
                  {placeAt(i)}
                </span>
              </button>
            </li>
          ))}
        </ol>
      </div>
    </>
  );
}
