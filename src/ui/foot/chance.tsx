"use client";
import {
  type Condition,
  type CountedLoops,
  MAX_LOOPS,
  type Note,
  countedCondition,
  countedLoops,
  isCondition,
  withCondition,
} from "@/core/score";
import type { NumberChange } from "@/core/base";
import { ValueField } from "../controls/value-field";

interface Props {
  /** The first of the selected notes. */
  first: Note;
  change(label: string, edit: (note: Note) => Note): void;
}

/** In how many loops a note sounds: always, or by chance. */
export const ChanceField = ({
  first,
  several,
  onChange,
}: {
  first: Note;
  several: boolean;
  onChange(change: NumberChange): void;
}) => (
  <ValueField
    label="Chance of the selection"
    className="w-[62px]"
    value={first.chance ?? 100}
    min={1}
    max={100}
    step={5}
    reset={100}
    format={(value) => `${value} %`}
    several={several}
    onChange={(_, change) => onChange(change)}
  />
);

/** The condition of a line of the list; counted ones keep their numbers. */
function chosen(value: string, counted: CountedLoops | null): Condition | null {
  if (value === "counted" || value === "not-counted") {
    const { k, of } = counted ?? { k: 2, of: 2 };
    return countedCondition({ k, of, not: value === "not-counted" });
  }
  return isCondition(value) ? value : null;
}

/** In which loops it sounds at all: a choice, and for counted loops which of how many. */
export function WhenField({ first, change }: Props) {
  const { when } = first;
  const counted = when === undefined ? null : countedLoops(when);
  const put = (next: Condition | null) => change("Loops", (note) => withCondition(note, next));
  return (
    <span className="flex items-center">
      <select
        className={`select select-xs ${counted ? "w-[46px] bg-none px-1" : "w-[118px] px-2"}`}
        aria-label="Loops the selection sounds in"
        title="In which loops it sounds, counted from the section's beginning"
        value={counted ? (counted.not ? "not-counted" : "counted") : (when ?? "")}
        onChange={({ target: { value } }) => put(chosen(value, counted))}
      >
        <option value="">every loop</option>
        <option value="counted">{counted && !counted.not ? "loop" : "loop … of …"}</option>
        <option value="not-counted">{counted?.not ? "not" : "all but loop … of …"}</option>
        <option value="not-first">not the first</option>
        <option value="last">last of a section</option>
        <option value="not-last">not a section&apos;s last</option>
      </select>
      {counted && (
        <>
          <ValueField
            label={counted.not ? "Loop it is silent in" : "Loop it sounds in"}
            className="w-[26px] text-center"
            value={counted.k}
            min={1}
            max={counted.of}
            onChange={(k) => put(countedCondition({ ...counted, k: Math.round(k) }))}
          />
          <span className="quiet text-[12px]">of</span>
          <ValueField
            label="Out of so many loops"
            className="w-[26px] text-center"
            value={counted.of}
            min={2}
            max={MAX_LOOPS}
            onChange={(value) => {
              const of = Math.round(value);
              put(countedCondition({ ...counted, k: Math.min(counted.k, of), of }));
            }}
          />
        </>
      )}
    </span>
  );
}
