"use client";
import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { ArrowDown, ArrowUp, GripVertical, X } from "lucide-react";
import { useState } from "react";
import type { ChainStep } from "@/core/score";
import { type Effect, PRESETS, transformOf } from "@/core/transforms";
import { useDesk, useSession } from "../../session/context";
import { currentPart } from "../../state/current";
import { shownFields } from "./fields";
import { ParamFields } from "../../fields/param-fields";
import { Presets } from "../shared/presets";
import { moveStep, deleteStep, switchStep, setStepParams } from "../../commands/tracks/chain";
import { ShapePicture } from "./shape-picture";

/** How many parameters a card shows before the rest is unfolded. */
const MAIN = 3;

interface Props {
  step: ChainStep;
  index: number;
  count: number;
  effect: Effect | null;
  /** What it works on, in words. */
  scope: string;
  /** Its values are shown; else it is one line. */
  open: boolean;
  onOpen(open: boolean): void;
}

/** One transform of the chain: its switch, its values, and one sentence on what it did. */
export function StepCard({ step, index, count, effect, scope, open, onOpen }: Props) {
  const { store } = useDesk();
  const [unfolded, setUnfolded] = useState(false);
  const bypassed = useSession((state) => state.bypassed);
  const transform = transformOf(step.transform);
  const params = { ...transform.defaults, ...step.params };
  const bent = useSession((state) => currentPart(state).bend !== undefined);
  const fields = shownFields(step.transform, params, bent);
  // One value more behind a fold would take as much room as the fold.
  const shown = unfolded || fields.length <= MAIN + 1 ? fields : fields.slice(0, MAIN);
  const { setNodeRef, setActivatorNodeRef, listeners, isDragging, ...drag } = useSortable({
    id: step.id,
  });
  const said = bypassed ? "Bypassed" : step.on ? (effect?.sentence ?? "") : "Switched off";
  const move = (to: number) => moveStep(store, step.id, to);

  return (
    <li
      ref={setNodeRef}
      data-step={step.id}
      style={{
        transform: CSS.Translate.toString(drag.transform),
        transition: drag.transition,
      }}
      className={`rounded-box border bg-base-100 px-3 ${open ? "py-2" : "py-0.5"} text-[12px] ${step.on ? "" : "opacity-70"} ${
        isDragging ? "relative z-10 border-primary shadow-lg" : "border-base-300"
      }`}
      data-testid={`step-${step.transform}`}
    >
      <div className={`flex items-center gap-1 ${open ? "mb-1.5" : ""}`}>
        <button
          ref={setActivatorNodeRef}
          className="btn btn-ghost btn-xs -ml-2 cursor-grab touch-none px-0.5"
          aria-label={`Drag ${transform.label}`}
          title="Drag to reorder"
          {...listeners}
        >
          <GripVertical size={13} />
        </button>
        <h3 className="min-w-0 flex-1">
          <button
            className="block w-full truncate rounded text-left text-[13px] font-semibold"
            aria-expanded={open}
            title={`${open ? "Fold" : "Open"} ${transform.label}${said && `: ${said}`}`}
            onClick={() => onOpen(!open)}
          >
            <span className="sr-only">Values of </span>
            {transform.label} <span className="quiet text-[12px] font-normal">{scope}</span>
          </button>
        </h3>
        <button
          className="btn btn-ghost btn-xs px-1"
          aria-label={`Move ${transform.label} up`}
          disabled={index === 0}
          onClick={() => move(index - 1)}
        >
          <ArrowUp size={13} />
        </button>
        <button
          className="btn btn-ghost btn-xs px-1"
          aria-label={`Move ${transform.label} down`}
          disabled={index === count - 1}
          onClick={() => move(index + 1)}
        >
          <ArrowDown size={13} />
        </button>
        <button
          className="btn btn-ghost btn-xs px-1"
          aria-label={`Delete ${transform.label}`}
          onClick={() => deleteStep(store, step)}
        >
          <X size={13} />
        </button>
        <input
          type="checkbox"
          className="toggle toggle-primary toggle-sm ml-1"
          aria-label={`${transform.label} on`}
          checked={step.on}
          onChange={(event) => switchStep(store, step.id, event.target.checked ? "on" : "off")}
        />
      </div>
      {open && (
        <>
          <div className="flex flex-col gap-1">
            <ParamFields
              names={shown.map(([name]) => name)}
              about={Object.fromEntries(shown)}
              values={params}
              reset={transform.defaults}
              onChange={(name, value) =>
                setStepParams(store, step, { ...params, [name]: value }, { of: name })
              }
            />
            {fields.length > MAIN + 1 && (
              <button
                className="quiet min-h-6 self-start rounded px-1 text-[12px] underline underline-offset-2"
                aria-expanded={unfolded}
                onClick={() => setUnfolded(!unfolded)}
              >
                {unfolded ? "Fewer values" : `${fields.length - MAIN} more values`}
              </button>
            )}
          </div>
          {transform.picture && <ShapePicture transform={step.transform} params={params} />}
          <Presets
            of={step.transform}
            shipped={PRESETS[step.transform] ?? []}
            params={params}
            onTake={(taken, name) =>
              setStepParams(store, step, { ...transform.defaults, ...taken }, { name })
            }
          />
          <Said>{said}</Said>
        </>
      )}
    </li>
  );
}

/** What a card did, in a sentence; two lines are kept for it, so that nothing moves when it is shorter. */
const Said = ({ children }: { children: string }) => (
  <p className="figure quiet mt-1.5 min-h-[2lh] text-[12px] leading-snug" data-testid="effect">
    {children}
  </p>
);
