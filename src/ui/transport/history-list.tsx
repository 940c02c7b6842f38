"use client";
import { History as HistoryIcon } from "lucide-react";
import { useCallback, useEffect, useRef } from "react";
import { useDesk, useSession } from "../session/context";
import { useDismiss } from "../controls/use-dismiss";

/** Everything that was done since the project was opened, to jump back and forth in. */
export function HistoryList() {
  const { store } = useDesk();
  const open = useSession((s) => s.historyOpen);
  const history = useSession((s) => s.history);
  const root = useRef<HTMLDivElement>(null);
  const here = useRef<HTMLButtonElement>(null);
  const close = useCallback(() => store.setState({ historyOpen: false }), [store]);
  useDismiss(root, open, close);
  const { past, future } = history;
  useEffect(() => {
    if (open) here.current?.scrollIntoView({ block: "nearest" });
  }, [open, past.length]);
  const steps = ["Opened", ...past.map((e) => e.label), ...future.map((e) => e.label)];
  return (
    <div ref={root} className="relative">
      <button
        className="btn btn-ghost btn-sm px-1.5"
        aria-label="What was done"
        aria-expanded={open}
        title="What was done, to jump in (shift H)"
        onClick={() => store.setState({ historyOpen: !open })}
      >
        <HistoryIcon size={16} />
      </button>
      {open && (
        <div className="rounded-box absolute left-0 z-30 mt-1 w-64 border border-base-300 bg-base-100 p-2 shadow-lg">
          <p className="quiet px-2 pb-1 text-[11px]">
            {past.length} done{future.length > 0 ? `, ${future.length} taken back` : ""}. Click to
            go there.
          </p>
          <ol className="flex max-h-[420px] flex-col overflow-y-auto" aria-label="History">
            {steps.map((label, i) => {
              const now = i === past.length;
              return (
                <li key={i}>
                  <button
                    ref={now ? here : undefined}
                    className={`flex w-full items-baseline gap-2 rounded-lg px-2 py-1 text-left text-[12px] ${
                      now
                        ? "bg-primary/10 font-semibold"
                        : i > past.length
                          ? "quiet line-through decoration-1 hover:bg-base-200"
                          : "hover:bg-base-200"
                    }`}
                    aria-current={now ? "step" : undefined}
                    onClick={() => store.getState().jump(i)}
                  >
                    <span className="figure quiet w-6 shrink-0 text-right text-[10px]">{i}</span>
                    <span className="min-w-0 truncate">{label}</span>
                  </button>
                </li>
              );
            })}
          </ol>
        </div>
      )}
    </div>
  );
}
