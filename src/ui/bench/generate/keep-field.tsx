"use client";
import { changeKeep } from "../../commands/ideas/ideas";
import { keptNotes } from "../../commands/ideas/wishes";
import { toChoose } from "../../commands/ideas/kept";
import type { Keep } from "../../state/ideas";
import { useDesk, useSession } from "../../session/context";

interface Props {
  bars: number;
  drums: boolean;
  /** Whether pitches can be kept: those of a bass or of chords follow from the chord line. */
  melody: boolean;
  /** Whether ideas have a contour that can be kept. */
  phrased: boolean;
}

/** So many bars are offered to be kept. */
const MAX_BARS = 16;

/** What of the current notes (or of a previewed idea) stays when ideas are generated. */
export function KeepField({ bars, drums, melody, phrased }: Props) {
  const { store } = useDesk();
  const keep = useSession((state) => state.ideas.keep);
  const none = useSession((state) => keptNotes(state).length === 0);
  const previewing = useSession((state) => state.preview !== null);
  const selected = useSession((state) => (state.track ? toChoose(state).length : 0));
  const set = (change: Partial<Keep>) => changeKeep(store, change);
  const locks = [
    ...(drums
      ? []
      : ([["rhythm", "Rhythm", { rhythm: !keep.rhythm, pitches: false }, none]] as const)),
    ...(melody && !drums
      ? ([["pitches", "Pitches", { pitches: !keep.pitches, rhythm: false }, none]] as const)
      : []),
    ...(phrased && !drums
      ? ([["contour", "Contour", { contour: !keep.contour }, none]] as const)
      : []),
    [
      "unselected",
      selected > 0 ? `All but the ${selected} selected` : "All but the selected",
      { unselected: !keep.unselected },
      none || (selected === 0 && !keep.unselected),
    ],
  ] as const;
  return (
    <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">
        Keep from {previewing ? "the previewed idea" : "current notes"}
      </legend>
      {locks.map(([id, label, change, disabled]) => (
        <label key={id} className="flex h-[26px] items-center justify-between">
          <span className="quiet">{label}</span>
          <input
            type="checkbox"
            className="toggle toggle-primary toggle-xs"
            checked={keep[id]}
            disabled={disabled}
            onChange={() => set(change)}
          />
        </label>
      ))}
      <BarsField
        label="Bars to keep"
        count={Math.min(bars, MAX_BARS)}
        kept={keep.bars}
        disabled={none}
        motif={!drums && phrased}
        onChange={(kept) => set({ bars: kept })}
      />
    </fieldset>
  );
}

interface BarsProps {
  label: string;
  count: number;
  kept: readonly number[];
  disabled: boolean;
  /** Whether the first bar is a motif that others take up. */
  motif?: boolean;
  onChange(kept: number[]): void;
}

/** Bars to be kept, one button for each. */
export const BarsField = ({ label, count, kept, disabled, motif, onChange }: BarsProps) => (
  <div className="flex flex-wrap items-center gap-1" role="group" aria-label={label}>
    <span className="quiet mr-auto">Bars</span>
    {Array.from({ length: count }, (_, bar) => (
      <button
        key={bar}
        className={`figure h-[24px] w-[24px] rounded-full border text-[12px] ${
          kept.includes(bar) ? "border-primary bg-primary text-primary-content" : "border-base-300"
        }`}
        aria-pressed={kept.includes(bar)}
        aria-label={`Keep bar ${bar + 1}`}
        title={bar === 0 && motif ? "The first bar is the motif that others take up" : undefined}
        disabled={disabled}
        onClick={() =>
          onChange(kept.includes(bar) ? kept.filter((b) => b !== bar) : [...kept, bar])
        }
      >
        {bar + 1}
      </button>
    ))}
  </div>
);
