"use client";
import { plural } from "@/core/base";
import { GRID_KINDS, GRID_VALUES, type Grid, SWING_RANGE, gridName } from "@/core/time";
import { Choice } from "../controls/choice";
import { SwitchField } from "../controls/labelled";
import { Popover } from "../controls/popover";
import { ValueField } from "../controls/value-field";
import { setSettings, useSettings } from "../person/settings";

interface Props {
  label: string;
  grid: Grid;
  /** Own loop length in steps; null for none. */
  steps: number | null;
  onGrid(grid: Grid): void;
  /** Left out where the row cannot have a loop length of its own. */
  onSteps?(steps: number | null): void;
}

const OPTION = "figure h-7 border-transparent text-[12px]";

/** The grid of a lane or part: value, kind, swing, and for lanes an own loop length. */
export function GridPicker({ label, grid, steps, onGrid, onSteps }: Props) {
  const { hitsSwing } = useSettings();
  const off = grid.kind === "off";
  return (
    <Popover
      label={label}
      className="w-[284px] gap-2 p-3"
      trigger={
        <button
          className="figure quiet min-h-6 rounded px-1 text-[12px] whitespace-nowrap hover:bg-base-300/60"
          aria-label={label}
        >
          {steps ? `${steps} × ` : ""}
          {gridName(grid)}
        </button>
      }
    >
      <Choice
        label="Value"
        className="grid grid-cols-4 gap-1"
        optionClass={OPTION}
        value={off ? null : String(grid.value)}
        options={GRID_VALUES.map((value) => ({ value: String(value), shown: `1/${value}` }))}
        onChange={(value) =>
          onGrid({ ...grid, value: Number(value), kind: off ? "straight" : grid.kind })
        }
      />
      <Choice
        label="Kind"
        className="flex gap-1"
        optionClass={`${OPTION} flex-1 px-1`}
        value={grid.kind}
        options={GRID_KINDS.map((kind) => ({ value: kind, shown: kind }))}
        onChange={(kind) => onGrid({ ...grid, kind })}
      />
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
          format={(value) => `${value} %`}
          onChange={(swing) => onGrid({ ...grid, swing })}
        />
      </div>
      <SwitchField
        label="Hits on the lines go along"
        value={hitsSwing}
        onChange={(value) => setSettings({ hitsSwing: value })}
      />
      {onSteps && (
        <div className="flex items-center justify-between">
          <span>Lane length</span>
          <ValueField
            label="Steps in the lane's own loop"
            className="w-36 text-right"
            value={steps ?? 0}
            min={0}
            max={256}
            reset={0}
            format={(value) => (value === 0 ? "as the part" : plural(value, "step"))}
            onChange={(value) => onSteps(value === 0 ? null : value)}
          />
        </div>
      )}
    </Popover>
  );
}
