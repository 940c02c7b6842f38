"use client";
import { CHORD_MEASURES, MEASURES, weightsOf } from "@/core/generate";
import { forgetTaste } from "../../commands/ideas/sheet";
import type { TasteKind } from "../../state/ideas";
import { useDesk, useWork } from "../../session/context";

/** What was starred more than dropped in this session: sheets lean that way. */
export function TasteField({ kind }: { kind: TasteKind }) {
  const { store } = useDesk();
  const state = useWork();
  const weights = weightsOf(state.ideas.taste[kind]);
  const shown = (kind === "chords" ? CHORD_MEASURES : MEASURES).flatMap((measure, i) =>
    measure.line && kind === "drums" ? [] : [{ ...measure, weight: weights[i] ?? 0 }],
  );
  if (shown.every(({ weight }) => weight === 0))
    return (
      <p className="quiet">
        Star ideas or drop them: sheets lean to what you star, in this session.
      </p>
    );
  return (
    <fieldset className="rounded-box flex flex-col gap-1 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">What you star, rather than drop</legend>
      {shown.map(({ id, label, weight }) => (
        <div key={id} className="flex h-[18px] items-center gap-2">
          <span className="quiet w-24">{label}</span>
          <span className="relative h-[6px] flex-1 rounded-full bg-base-200" aria-hidden>
            <span
              className="absolute inset-y-0 rounded-full bg-primary"
              style={{
                left: `${50 + Math.min(0, weight) * 25}%`,
                width: `${Math.abs(weight) * 25}%`,
              }}
            />
          </span>
          <span className="figure w-12 text-right text-[12px]">
            {Math.abs(weight) < 0.05 ? "–" : `${weight > 0 ? "more" : "less"}`}
          </span>
        </div>
      ))}
      <button
        className="btn btn-ghost btn-xs self-end"
        title="Sheets are as they come again"
        onClick={() => forgetTaste(store, kind)}
      >
        Forget it
      </button>
    </fieldset>
  );
}
