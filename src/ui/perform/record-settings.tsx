"use client";
import type { ReactNode } from "react";
import { CLICKS } from "@/audio/click";
import { Choice } from "../controls/choice";
import { SliderField } from "../controls/slider-field";
import { Toggle } from "../controls/toggle";
import { useDesk, useSession } from "../session/context";
import {
  CLICK_PARTS,
  CLICK_WHEN,
  RECORD_MODES,
  setSettings,
  useSettings,
} from "../person/settings";
import { TapAlong } from "./tap-along";

const MODE_WORDS = {
  overdub: ["Overdub", "Each loop adds to what is there"],
  replace: [
    "Replace",
    "What is played over is cleared: on a kit the pads that are played, else the line",
  ],
  take: ["Take", "One take of any length, written when it ends; the loop plays on below"],
} as const;

const WHEN_WORDS = {
  "count-in": "Count-in only",
  recording: "Recording",
  always: "Always",
} as const;

/** How recording and its metronome work. */
export function RecordSettings() {
  const { store } = useDesk();
  const settings = useSettings();
  // The button beside play is the quick way to “always”.
  const click = useSession((state) => state.click);
  const option = "h-[26px] border-transparent px-2 whitespace-nowrap";
  return (
    <>
      <Row label="Recording">
        <Choice
          label="Recording"
          optionClass={option}
          value={settings.record}
          options={RECORD_MODES.map((value) => ({
            value,
            shown: MODE_WORDS[value][0],
            title: MODE_WORDS[value][1],
          }))}
          onChange={(record) => setSettings({ record })}
        />
      </Row>
      <p className="quiet -mt-2 pl-[98px] text-[12px]">{MODE_WORDS[settings.record][1]}</p>
      {settings.record === "take" && (
        <Row label="Its end">
          <Toggle
            label="Lengthen the part"
            title="On: the part becomes as long as the take. Off: what was played last of it goes into the loop"
            on={settings.lengthen}
            onClick={() => setSettings({ lengthen: !settings.lengthen })}
          />
        </Row>
      )}
      <Row label="Held over the end">
        <Choice
          label="Notes held over the loop's end"
          optionClass={option}
          value={settings.over}
          options={[
            { value: "tie", shown: "Tie", title: "They sound on into the next loop" },
            { value: "cut", shown: "Cut", title: "They end with the loop" },
          ]}
          onChange={(over) => setSettings({ over })}
        />
      </Row>
      <Row label="Count-in">
        <Choice
          label="Count-in"
          optionClass={option}
          value={String(settings.countIn)}
          options={["0", "1", "2"].map((value) => ({
            value,
            shown: value === "0" ? "None" : value === "1" ? "1 bar" : "2 bars",
          }))}
          onChange={(bars) => setSettings({ countIn: Number(bars) as 0 | 1 | 2 })}
        />
      </Row>
      <Row label="Metronome">
        <Choice
          label="When the metronome is heard"
          optionClass={option}
          value={
            click ? "always" : settings.clickWhen === "always" ? "recording" : settings.clickWhen
          }
          options={CLICK_WHEN.map((value) => ({ value, shown: WHEN_WORDS[value] }))}
          onChange={(clickWhen) => {
            setSettings({ clickWhen });
            store.getState().setHearing({ click: clickWhen === "always" });
          }}
        />
      </Row>
      <Row label="Its sound">
        <Choice
          label="Sound of the metronome"
          optionClass={option}
          value={settings.clickSound}
          options={CLICKS.map(({ id, label }) => ({ value: id, shown: label }))}
          onChange={(clickSound) => setSettings({ clickSound })}
        />
        <Toggle
          label="Accent"
          title="The first beat of the bar stands out"
          on={settings.clickAccent}
          onClick={() => setSettings({ clickAccent: !settings.clickAccent })}
        />
      </Row>
      <Row label="Clicks to a beat">
        <Choice
          label="Clicks to a beat"
          optionClass={option}
          value={String(settings.clickParts)}
          options={CLICK_PARTS.map((parts) => ({ value: String(parts), shown: String(parts) }))}
          onChange={(shown) => {
            const parts = CLICK_PARTS.find((one) => String(one) === shown);
            if (parts) setSettings({ clickParts: parts });
          }}
        />
      </Row>
      <SliderField
        label="Metronome level"
        shown="Level"
        value={settings.clickLevel}
        min={-60}
        max={6}
        reset={0}
        format={(value) => (value <= -60 ? "silent" : `${value} dB`)}
        onChange={(clickLevel) => setSettings({ clickLevel })}
      />
      <TapAlong />
    </>
  );
}

const Row = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="flex items-center gap-2">
    <span className="quiet w-[90px] shrink-0 leading-tight">{label}</span>
    <div className="flex flex-wrap items-center gap-1">{children}</div>
  </div>
);
