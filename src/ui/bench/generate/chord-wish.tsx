"use client";
import { plural } from "@/core/base";
import { keyName } from "@/core/pitch";
import { patternOf, trackOf } from "@/core/score";
import { changeChords, chordTrack, rateOf, roundOf } from "../../commands/ideas/chord-ideas";
import { IDEA_FIELDS, asSetting } from "../../commands/ideas/fields";
import { ParamFields } from "../../fields/param-fields";
import type { ChordSettings } from "../../state/ideas";
import { useDesk, useSession, useWork } from "../../session/context";
import { sheetPattern } from "../../state/current";
import { TasteField } from "./taste-field";
import { BarsField } from "./keep-field";

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
  const about = IDEA_FIELDS.chords;
  const asNotes = on ? `As notes on ${trackOf(project, on).name} too` : "As notes too";
  return (
    <>
      <p className="quiet">
        Chords for pattern {name}, {plural(bars, "bar")}
        {bars < whole ? ` again and again` : ""}, in {keyName(project.key)}
        {on ? `; heard on ${trackOf(project, on).name}` : ""}
      </p>
      <ParamFields
        names={["rate", "end", "sevenths", "round", "asNotes"]}
        about={{ ...about, asNotes: { ...about.asNotes, label: asNotes } }}
        values={{ ...now, rate: rateOf(state) }}
        reset={now}
        onChange={(name, value) => set({ [name]: asSetting(now[name], value) })}
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
