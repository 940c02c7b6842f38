"use client";
import type { ComponentType } from "react";
import { Tabs } from "../controls/tabs";
import { useDesk, useSession } from "../session/context";
import type { BenchTab } from "../session/tools";
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
      <Tabs
        label="Bench"
        value={tab}
        tabs={TABS}
        onChange={(bench) => store.getState().setTools({ bench })}
      >
        <Panel />
      </Tabs>
    </aside>
  );
}
