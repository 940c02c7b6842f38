"use client";
import type { ComponentType } from "react";
import { Tabs } from "../controls/tabs";
import { useDesk, useSession } from "../session/context";
import type { BenchTab } from "../state/tools";
import { GeneratePanel } from "./generate/generate-panel";
import { MeasurePanel } from "./measure/measure-panel";
import { SoundPanel } from "./sound/sound-panel";
import { must } from "@/core/base";
import { TransformPanel } from "./transform/transform-panel";

const TABS: readonly { id: BenchTab; label: string; panel: ComponentType }[] = [
  { id: "transform", label: "Transform", panel: TransformPanel },
  { id: "generate", label: "Generate", panel: GeneratePanel },
  { id: "sound", label: "Sound", panel: SoundPanel },
  { id: "measure", label: "Measure", panel: MeasurePanel },
];

/** What is done to the selection: transform, generate, sound, measure. */
export function Bench() {
  const { store } = useDesk();
  const tab = useSession((state) => state.bench);
  const open = useSession((state) => state.benchOpen);
  const Panel = must(TABS.find((t) => t.id === tab)).panel;
  return (
    <aside
      id="bench"
      className={`flex w-[312px] max-w-full shrink-0 flex-col border-l border-base-300 bg-base-100 max-[1099px]:absolute max-[1099px]:inset-y-0 max-[1099px]:right-0 max-[1099px]:z-30 max-[1099px]:shadow-2xl ${
        open ? "" : "max-[1099px]:hidden"
      }`}
      aria-label="Panel"
      onKeyDown={(event) => {
        if (event.key !== "Escape" || event.defaultPrevented || !open) return;
        store.getState().setTools({ benchOpen: false });
        store.getState().request("sheet");
      }}
    >
      <Tabs
        label="Panel"
        value={tab}
        tabs={TABS}
        onChange={(bench) => store.getState().setTools({ bench })}
      >
        <Panel />
      </Tabs>
    </aside>
  );
}
