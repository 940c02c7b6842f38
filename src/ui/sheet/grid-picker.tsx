"use client";
import { useCallback, useId, useRef, useState } from "react";
import { GRID_KINDS, GRID_VALUES, SWING_RANGE, gridName, type Grid, type GridKind } from "@/core";
import { useDismiss } from "../controls/use-dismiss";
import { ValueField } from "../controls/value-field";

interface Props {
  label: string;
  grid: Grid;
  /** Own loop length in steps; null for none. */
  steps: number | null;
  onGrid(grid: Grid): void;
  /** Left out where the row cannot have a loop length of its own. */
  onSteps?(steps: number | null): void;
}

/** The grid of a lane or part: value, kind, swing, and for lanes an own loop length. */
export function GridPicker({ label, grid, steps, onGrid, onSteps }: Props) {
  const [frame, setFrame] = useState<DOMRect | null>(null);
  const open = frame !== null;
  const root = useRef<HTMLDivElement>(null);
  const id = useId();
  const close = useCallback(() => setFrame(null), []);
  useDismiss(root, open, close);

  return (
    <div ref={root}>
      <button
        className="figure quiet min-h-6 rounded px-1 text-[11px] whitespace-nowrap hover:bg-base-300/60"
        aria-label={label}
        aria-expanded={open}
        aria-controls={id}
        // Anchored to the screen, since the column it sits in scrolls and clips.
        onClick={(event) => setFrame(open ? null : event.currentTarget.getBoundingClientRect())}
      >
        {steps ? `${steps} × ` : ""}
        {gridName(grid)}
      </button>
      {frame && (
        <div
          id={id}
          role="dialog"
          aria-label={label}
          className="rounded-box fixed z-30 w-60 border border-base-300 bg-base-100 p-3 shadow-lg"
          style={{ left: frame.left - 20, top: Math.min(frame.bottom + 4, innerHeight - 250) }}
        >
          <div className="mb-2 grid grid-cols-4 gap-1" role="radiogroup" aria-label="Value">
            {GRID_VALUES.map((value) => (
              <button
                key={value}
                role="radio"
                aria-checked={grid.value === value && grid.kind !== "off"}
                className={`figure btn btn-xs ${grid.value === value && grid.kind !== "off" ? "btn-primary" : "btn-ghost"}`}
                onClick={() =>
                  onGrid({ ...grid, value, kind: grid.kind === "off" ? "straight" : grid.kind })
                }
              >
                1/{value}
              </button>
            ))}
          </div>
          <div className="mb-2 flex gap-1" role="radiogroup" aria-label="Kind">
            {GRID_KINDS.map((kind: GridKind) => (
              <button
                key={kind}
                role="radio"
                aria-checked={grid.kind === kind}
                className={`btn btn-xs flex-1 px-1 ${grid.kind === kind ? "btn-primary" : "btn-ghost"}`}
                onClick={() => onGrid({ ...grid, kind })}
              >
                {kind}
              </button>
            ))}
          </div>
          <div className="flex items-center justify-between">
            <span>Swing</span>
            <ValueField
              label="Swing"
              className="w-20 text-right"
              value={grid.swing}
              min={SWING_RANGE.min}
              max={SWING_RANGE.max}
              step={0.5}
              reset={50}
              format={(v) => `${v} %`}
              onChange={(swing) => onGrid({ ...grid, swing })}
            />
          </div>
          {onSteps && (
            <div className="mt-1 flex items-center justify-between">
              <span>Loops after</span>
              <ValueField
                label="Steps in the lane's own loop"
                className="w-28 text-right"
                value={steps ?? 0}
                min={0}
                max={256}
                reset={0}
                format={(v) => (v === 0 ? "the whole part" : v === 1 ? "1 step" : `${v} steps`)}
                onChange={(v) => onSteps(v === 0 ? null : v)}
              />
            </div>
          )}
        </div>
      )}
    </div>
  );
}
