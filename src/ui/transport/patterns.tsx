"use client";
import {
  addPattern,
  choosePattern,
  deletePattern,
  setPatternBars,
} from "../commands/song/patterns";
import { PatternList } from "../arrange/pattern-list";
import { Copy, Plus, Trash2 } from "lucide-react";
import { LIMITS } from "@/core/score";
import { useDesk, useSession } from "../session/context";
import { must } from "@/core/base";
import { ValueField } from "../controls/value-field";

/** More patterns than this are a list: in a row they would not be seen. */
const IN_A_ROW = 6;

/** The patterns of the project: switch, lengthen, duplicate to vary, add, delete. */
export function Patterns() {
  const { store } = useDesk();
  const patterns = useSession((state) => state.project.patterns);
  const current = useSession((state) => state.pattern);
  const pattern = must(patterns.find((pattern) => pattern.id === current));
  return (
    <div className="flex items-center gap-1.5">
      {patterns.length > IN_A_ROW ? (
        <select
          className="select select-sm figure w-32 font-semibold"
          aria-label="Pattern"
          title="All patterns (, and . step through)"
          value={current}
          onChange={(event) => choosePattern(store, event.target.value)}
        >
          {patterns.map((pattern, i) => (
            <option key={pattern.id} value={pattern.id}>
              {i + 1}. {pattern.name}
            </option>
          ))}
        </select>
      ) : (
        <div className="flex gap-1" role="group" aria-label="Patterns">
          {patterns.map((pattern) => (
            <button
              key={pattern.id}
              className={`figure h-8 max-w-24 min-w-8 truncate rounded-full border px-2 text-[13px] font-semibold ${
                pattern.id === current
                  ? "border-primary bg-primary text-primary-content"
                  : "border-base-300 hover:border-base-content"
              }`}
              aria-pressed={pattern.id === current}
              aria-label={`Pattern ${pattern.name}`}
              title={`Pattern ${pattern.name} (, and . step through)`}
              onClick={() => choosePattern(store, pattern.id)}
            >
              {pattern.name}
            </button>
          ))}
        </div>
      )}
      <ValueField
        label="Length of the pattern in bars"
        className="w-[62px] text-center text-[12px]"
        value={pattern.bars}
        min={1}
        max={LIMITS.bars}
        format={(value) => (value === 1 ? "1 bar" : `${value} bars`)}
        onChange={(bars) => setPatternBars(store, current, bars)}
      />
      <div className="flex">
        <PatternList />
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="Duplicate the pattern"
          title="Duplicate the pattern to vary it (shift D)"
          onClick={() => addPattern(store, "copy")}
        >
          <Copy size={15} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="Add an empty pattern"
          title="Add an empty pattern"
          onClick={() => addPattern(store, "empty")}
        >
          <Plus size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="Delete the pattern"
          title="Delete the pattern"
          disabled={patterns.length < 2}
          onClick={() => deletePattern(store)}
        >
          <Trash2 size={15} />
        </button>
      </div>
    </div>
  );
}
