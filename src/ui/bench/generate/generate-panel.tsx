"use client";
import { Dices } from "lucide-react";
import { changeChords } from "../../commands/ideas/chord-ideas";
import { askIdeas, changeSettings, ideasHere, settingsOf } from "../../commands/ideas/ideas";
import { Choice } from "../../controls/choice";
import { ValueField } from "../../controls/value-field";
import { useDesk, useWork } from "../../session/context";
import { ChordWish } from "./chord-wish";
import { PartWish } from "./part-wish";

const AIMS = [
  { value: "part", shown: "This part", title: "Ideas for the current track" },
  { value: "chords", shown: "Chord line", title: "Ideas for the chords of the pattern" },
] as const;

/** What ideas are generated with: for the current part, or for the chord line. */
export function GeneratePanel() {
  const { store } = useDesk();
  const state = useWork();
  if (!state.track) return <p className="quiet p-4">Add a track first, on the left.</p>;
  const { aim } = state.ideas;
  const shown = ideasHere(state).length > 0;
  const seed = aim === "chords" ? state.ideas.chords.seed : settingsOf(state).seed;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-y-auto p-3.5 text-[12px]">
        <Choice
          label="Ideas for"
          value={aim}
          options={AIMS}
          className="grid grid-cols-2 gap-1.5"
          optionClass="border-base-300 px-2 py-1"
          onChange={(next) => store.getState().setIdeas({ aim: next })}
        />
        {aim === "chords" ? <ChordWish /> : <PartWish />}
      </div>
      <div className="flex items-center gap-2 border-t border-base-300 p-3.5 text-[12px]">
        <span className="quiet">Seed</span>
        <ValueField
          label="Seed"
          className="w-20"
          value={seed}
          min={0}
          max={999_999}
          onChange={(value) => {
            const next = Math.round(value);
            if (aim === "chords") changeChords(store, { seed: next });
            else changeSettings(store, { seed: next });
            // Another seed is another question: it is asked at once where ideas are shown.
            if (state.ideas.of?.kind !== "vary" && shown) void askIdeas(store);
          }}
        />
        <button className="btn btn-primary btn-sm ml-auto" onClick={() => void askIdeas(store)}>
          Generate
        </button>
        <button
          className="btn btn-sm px-2"
          aria-label="Generate with a new seed"
          title="Generate with a new seed"
          onClick={() => void askIdeas(store, { seed: Math.floor(Math.random() * 1_000_000) })}
        >
          <Dices size={16} />
        </button>
      </div>
    </div>
  );
}
