"use client";
import { plural } from "@/core/base";
import { keyName } from "@/core/pitch";
import { patternOf, trackOf } from "@/core/score";
import { CHORD_ENDS, CHORD_RATES, SEVENTHS } from "@/core/generate";
import {
  ROUNDS,
  changeChords,
  chordTrack,
  rateOf,
  roundOf,
} from "../../commands/ideas/chord-ideas";
import { ChoiceField, SwitchField } from "../../controls/labelled";
import type { ChordSettings } from "../../state/ideas";
import { useDesk, useSession, useWork } from "../../session/context";
import { sheetPattern } from "../../state/current";
import { TasteField } from "./taste-field";
import { BarsField } from "./keep-field";

const CHOICES = [
  { id: "rate", label: "Changes", options: CHORD_RATES },
  { id: "end", label: "Ends", options: CHORD_ENDS },
  { id: "sevenths", label: "Sevenths", options: SEVENTHS },
] as const;

/** What lines of chords are made with. */
export function ChordWish() {
  const { store } = useDesk();
  const state = useWork();
  const none = useSession((state) => (sheetPattern(state).chords?.length ?? 0) === 0);
  const { project, ideas } = state;
  const now = ideas.chords;
  const set = (change: Partial<ChordSettings>) => changeChords(store, change);
  const bars = roundOf(state);
  const on = chordTrack(state);
  const { bars: whole, name } = patternOf(project, state.pattern);
  return (
    <>
      <p className="quiet">
        Chords for pattern {name}, {plural(bars, "bar")}
        {bars < whole ? ` again and again` : ""}, in {keyName(project.key)}
        {on ? `; heard on ${trackOf(project, on).name}` : ""}
      </p>
      {CHOICES.map(({ id, label, options }) => (
        <ChoiceField
          key={id}
          label={label}
          value={id === "rate" ? rateOf(state) : now[id]}
          options={options}
          size="select-xs w-40"
          onChange={(value) => set({ [id]: value })}
        />
      ))}
      <ChoiceField
        label="Round of"
        value={String(now.round)}
        options={ROUNDS.map(String)}
        text={(round) => (round === "0" ? "the whole pattern" : plural(Number(round), "bar"))}
        size="select-xs w-40"
        onChange={(round) => set({ round: Number(round) })}
      />
      <SwitchField
        label={on ? `As notes on ${trackOf(project, on).name} too` : "As notes too"}
        value={now.asNotes}
        className="min-h-[26px]"
        onChange={(asNotes) => set({ asNotes })}
      />
      <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
        <legend className="quiet px-1">Keep from the chord line</legend>
        <BarsField
          label="Bars whose chords stay"
          count={Math.min(bars, 16)}
          kept={now.keepBars}
          disabled={none}
          onChange={(keepBars) => set({ keepBars })}
        />
      </fieldset>
      <TasteField kind="chords" />
    </>
  );
}
