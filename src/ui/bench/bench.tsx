"use client";
import type { ComponentType } from "react";
import { useDesk, useSession } from "../session/context";
import type { BenchTab } from "../session/store";
import { GeneratePanel } from "./generate-panel";
import { MeasurePanel } from "./measure-panel";
import { SoundPanel } from "./sound-panel";
import { TransformPanel } from "./transform-panel";

const TABS: readonly { id: BenchTab; label: string; panel: ComponentType }[] = [
  { id: "transform", label: "Transform", panel: TransformPanel },
  { id: "generate", label: "Generate", panel: GeneratePanel },
  { id: "sound", label: "Sound", panel: SoundPanel },
  { id: "measure", label: "Measure", panel: MeasurePanel },
];

/** What is done to the selection: transform, generate, sound, measure. */
export function Bench() {
  const { store } = useDesk();
  const tab = useSession((s) => s.bench);
  const Panel = TABS.find((t) => t.id === tab)!.panel;
  return (
    <aside
      className="flex w-[312px] shrink-0 flex-col border-l border-base-300 bg-base-100 max-[1100px]:w-[268px]"
      aria-label="Bench"
    >
      <div
        role="tablist"
        className="mx-3.5 flex gap-4 border-b border-base-300 pt-2"
        aria-label="Bench"
      >
        {TABS.map(({ id, label }) => (
          <button
            key={id}
            role="tab"
            id={`tab-${id}`}
            aria-selected={tab === id}
            aria-controls="bench-panel"
            className={`-mb-px border-b-2 pb-2 text-[13px] ${tab === id ? "border-primary font-semibold" : "quiet border-transparent hover:text-base-content"}`}
            onClick={() => store.setState({ bench: id })}
          >
            {label}
          </button>
        ))}
      </div>
      <div
        id="bench-panel"
        role="tabpanel"
        aria-labelledby={`tab-${tab}`}
        className="flex min-h-0 flex-1 flex-col"
      >
        <Panel />
      </div>
    </aside>
  );
}
