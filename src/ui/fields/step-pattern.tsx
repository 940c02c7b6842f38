"use client";
import { Minus, Plus } from "lucide-react";
import { type PatternStep, formatSteps, parseSteps } from "@/core/params";

const PLAIN: PatternStep = { kind: "note", velocity: 100, octave: 0 };
const KINDS = ["0", "+1", "+2", "+3", "-1", "-2", "-3", "rest", "tie"] as const;
const MAX = 32;

const kindOf = (step: PatternStep) =>
  step.kind !== "note" ? step.kind : `${step.octave > 0 ? "+" : ""}${step.octave}`;

/** Steps of an arpeggio, each with its velocity and octave, or a rest or a tie. */
export function StepPattern({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange(value: string): void;
}) {
  const steps = parseSteps(value);
  const give = (next: PatternStep[]) => onChange(formatSteps(next));
  const set = (index: number, step: PatternStep) =>
    give(steps.map((old, i) => (i === index ? step : old)));
  return (
    <div role="group" aria-label={label} className="flex flex-col gap-1">
      <div className="flex items-center gap-1">
        <span className="quiet mr-auto">{label}</span>
        {steps.length === 0 && <span className="quiet">all alike</span>}
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
          aria-label="A step less"
          disabled={steps.length === 0}
          onClick={() => give(steps.slice(0, -1))}
        >
          <Minus size={12} />
        </button>
        <button
          className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
          aria-label="A step more"
          disabled={steps.length >= MAX}
          onClick={() => give([...steps, PLAIN])}
        >
          <Plus size={12} />
        </button>
      </div>
      {steps.length > 0 && (
        <ol className="flex gap-0.5 overflow-x-auto pb-1">
          {steps.map((step, i) => (
            <li key={i} className="flex w-[30px] shrink-0 flex-col items-center gap-0.5">
              <input
                type="range"
                className="h-11 w-4 accent-[var(--color-primary)] [direction:rtl] [writing-mode:vertical-lr] disabled:opacity-30"
                aria-label={`Velocity of step ${i + 1}, percent`}
                min={1}
                max={150}
                disabled={step.kind !== "note"}
                value={step.kind === "note" ? step.velocity : 1}
                onChange={(event) =>
                  set(i, { ...PLAIN, ...step, velocity: Number(event.target.value) } as PatternStep)
                }
              />
              <select
                className="figure h-[24px] w-[30px] cursor-pointer appearance-none rounded bg-base-200 text-center text-[12px]"
                aria-label={`Step ${i + 1}: octave, rest or tie`}
                value={kindOf(step)}
                onChange={(event) => {
                  const kind = event.target.value;
                  if (kind === "rest" || kind === "tie") set(i, { kind });
                  else {
                    const velocity = step.kind === "note" ? step.velocity : 100;
                    set(i, { kind: "note", velocity, octave: Number(kind) });
                  }
                }}
              >
                {KINDS.map((kind) => (
                  <option key={kind}>{kind}</option>
                ))}
              </select>
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
