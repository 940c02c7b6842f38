"use client";
import { addPattern } from "../commands/patterns";
import { Copy, Plus, Trash2 } from "lucide-react";
import { LIMITS, edits } from "@/core";
import { useDesk, useSession } from "../session/context";
import { ValueField } from "../controls/value-field";

/** The patterns of the project: switch, lengthen, copy to vary, add, remove. */
export function Patterns() {
  const desk = useDesk();
  const { store } = desk;
  const patterns = useSession((s) => s.project.patterns);
  const inHand = useSession((s) => s.pattern);
  const pattern = patterns.find((p) => p.id === inHand)!;
  return (
    <div className="ml-auto flex min-w-0 items-center gap-1.5">
      <div className="flex min-w-0 gap-1 overflow-x-auto" role="group" aria-label="Patterns">
        {patterns.map((p) => (
          <button
            key={p.id}
            className={`figure h-8 min-w-8 rounded-full border px-2 text-[13px] font-semibold ${
              p.id === inHand
                ? "border-primary bg-primary text-primary-content"
                : "border-base-300 hover:border-base-content"
            }`}
            aria-pressed={p.id === inHand}
            aria-label={`Pattern ${p.name}`}
            title={`Pattern ${p.name} (, and . step through)`}
            onClick={() => store.getState().takePattern(p.id)}
          >
            {p.name}
          </button>
        ))}
      </div>
      <ValueField
        label="Length of the pattern in bars"
        className="w-[62px] text-center text-[12px]"
        value={pattern.bars}
        min={1}
        max={LIMITS.bars}
        format={(v) => (v === 1 ? "1 bar" : `${v} bars`)}
        onChange={(bars) =>
          store.getState().edit("Pattern length", (p) => edits.setBars(p, inHand, bars))
        }
      />
      <div className="flex">
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="Duplicate the pattern"
          title="Duplicate the pattern to vary it (shift D)"
          onClick={() => addPattern(desk, true)}
        >
          <Copy size={15} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="New empty pattern"
          title="New empty pattern"
          onClick={() => addPattern(desk, false)}
        >
          <Plus size={16} />
        </button>
        <button
          className="btn btn-ghost btn-sm px-1"
          aria-label="Remove the pattern"
          title="Remove the pattern"
          disabled={patterns.length < 2}
          onClick={() => {
            const at = patterns.indexOf(pattern);
            const next = patterns[at === 0 ? 1 : at - 1]!;
            store.getState().takePattern(next.id);
            store
              .getState()
              .edit(`Remove pattern ${pattern.name}`, (p) => edits.removePattern(p, pattern.id));
          }}
        >
          <Trash2 size={15} />
        </button>
      </div>
    </div>
  );
}
