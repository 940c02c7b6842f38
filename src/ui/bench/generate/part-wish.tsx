"use client";
import { Fragment, useState } from "react";
import type { ParamValue } from "@/core/params";
import { keyName, padName } from "@/core/pitch";
import { type Contour } from "@/core/generate";
import { type Track, patternOf, trackOf } from "@/core/score";
import {
  DRUM_FIELDS,
  IDEA_FIELDS,
  LINE_FIELDS,
  MELODY_CHOICES,
  PHRASE_FIELDS,
  asSetting,
} from "../../commands/ideas/fields";
import { changeSettings, settingsOf } from "../../commands/ideas/ideas";
import { isIdle, isPhrased, usualSettings } from "../../commands/ideas/settings";
import { barsOf, keptNotes } from "../../commands/ideas/wishes";
import { ParamFields } from "../../fields/param-fields";
import { useDesk, useWork } from "../../session/context";
import { currentPart, currentPlace } from "../../state/current";
import type { Settings } from "../../state/ideas";
import { ContourField } from "./contour-field";
import { KeepField } from "./keep-field";
import { FromTo, Mix } from "./mix-fields";
import { RhythmSourceField } from "./rhythm-source";
import { TasteField } from "./taste-field";
import { VaryPanel } from "./vary-panel";

type FieldName = keyof typeof IDEA_FIELDS.part;

/** What ideas for the current part are generated with. */
export function PartWish() {
  const wish = useWish();
  const { state, now } = wish;
  const track = trackOf(state.project, state.track);
  const drums = track.kind === "drums";
  const bars = barsOf(state.project, currentPlace(state));
  const { generated } = currentPart(state);
  const melody = now.role === "melody";
  return (
    <>
      <p className="quiet">
        {drums && !now.allLanes ? laneName(track, state.caret.pitch) : track.name},{" "}
        {bars === 1 ? "1 bar" : `${bars} bars`}
        {drums ? "" : ` in ${keyName(state.project.key)}`}
        {generated && `; these notes came from seed ${generated.seed}`}
      </p>
      {drums ? <BeatWish wish={wish} /> : <LineWish wish={wish} />}
      {(drums || now.role !== "pad") && (
        <KeepField
          bars={bars}
          drums={drums}
          melody={melody}
          phrased={melody && isPhrased(now.form)}
        />
      )}
      <TasteField kind={drums ? "drums" : "line"} />
      <VaryPanel />
    </>
  );
}

/** What a part is asked for with, and fields that set it. */
type Wish = ReturnType<typeof useWish>;

/** The settings of the current part, and fields that set them. */
function useWish() {
  const { store } = useDesk();
  const state = useWork();
  const now = settingsOf(state);
  const usual = usualSettings(trackOf(state.project, state.track));
  const set = (change: Partial<Settings>) => changeSettings(store, change);
  const fields = (
    names: readonly FieldName[],
    alter: (change: Partial<Settings>) => void = set,
  ) => (
    <ParamFields
      names={names}
      about={IDEA_FIELDS.part}
      values={now}
      reset={usual}
      onChange={(name, value: ParamValue) => alter({ [name]: asSetting(now[name], value) })}
    />
  );
  return { state, now, set, fields };
}

/** What a beat is asked for with. */
function BeatWish({ wish }: { wish: Wish }) {
  const { now, set, fields } = wish;
  return (
    <>
      {fields(["allLanes", "style"])}
      {fields(DRUM_FIELDS.filter((name) => name !== "fill" || now.allLanes))}
      <VelocityField now={now} onChange={set} />
    </>
  );
}

/** What a melody, a bass or chords are asked for with. */
function LineWish({ wish }: { wish: Wish }) {
  const { state, now, set, fields } = wish;
  const rhythmKept = state.ideas.keep.rhythm && keptNotes(state).length > 0;
  const offered = (name: keyof Settings) => !isIdle(name, now, rhythmKept);
  const chords = (patternOf(state.project, state.pattern).chords?.length ?? 0) > 0;
  const rhythmic = now.role !== "pad";
  return (
    <>
      {fields(["role"], ({ role = now.role }) =>
        // Chords have all their tones, a line is one.
        set({ role, voices: role === "pad" || role === "stabs" ? 4 : 1 }),
      )}
      <FromTo
        label="Register"
        low={now.low}
        high={now.high}
        onLow={(low) => set({ low })}
        onHigh={(high) => set({ high })}
        names={["Lowest note", "Highest note"]}
        pitch
      />
      {rhythmic && <RhythmSourceField now={now} onChange={set} />}
      {fields(LINE_FIELDS.filter(offered))}
      {rhythmic && offered("weights") && (
        <Mix weights={now.weights} onChange={(weights) => set({ weights })} />
      )}
      {offered("softest") && <VelocityField now={now} onChange={set} />}
      {now.role === "melody" ? (
        <MelodyChoices wish={wish} offered={offered} chords={chords} />
      ) : (
        !chords && (
          <p role="status">
            There are no chords over the bars yet: the key’s own chord is used. Ideas for the chord
            line are a step away, above.
          </p>
        )
      )}
    </>
  );
}

interface MelodyProps {
  wish: Wish;
  offered(name: keyof Settings): boolean;
  /** Whether there are chords over the bars. */
  chords: boolean;
}

/** Form and pitches of a melody; what is chosen more rarely is behind a press. */
function MelodyChoices({ wish, offered, chords }: MelodyProps) {
  const { now, fields } = wish;
  const [more, setMore] = useState(false);
  return (
    <>
      {(more ? MELODY_CHOICES : MELODY_CHOICES.slice(0, 2)).filter(offered).map((name) => (
        <Fragment key={name}>
          {fields([name])}
          {name === "form" && isPhrased(now.form) && <Phrases wish={wish} />}
        </Fragment>
      ))}
      {now.pool === "chords" && !chords && (
        <p role="status">There are no chords over the bars yet: the scale is used.</p>
      )}
      <button
        className="quiet min-h-6 self-start rounded px-1 text-[12px] underline underline-offset-2"
        aria-expanded={more}
        onClick={() => setMore(!more)}
      >
        {more
          ? "Fewer choices"
          : offered("startOn")
            ? "More choices: first and last note, velocity"
            : "More choices: velocity"}
      </button>
    </>
  );
}

/** How the phrases of a line go. */
function Phrases({ wish }: { wish: Wish }) {
  const { now, set, fields } = wish;
  const { contour, drawn, climax } = now;
  return (
    <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">Phrases</legend>
      {fields(["phraseBars", "contour"])}
      <ContourField
        wish={{ contour: contour as Contour, drawn, climax }}
        onDraw={(heights, was = "drawn") => set({ contour: was, drawn: heights })}
      />
      {fields(PHRASE_FIELDS)}
    </fieldset>
  );
}

const VelocityField = ({
  now,
  onChange,
}: {
  now: Settings;
  onChange(change: Partial<Settings>): void;
}) => (
  <FromTo
    label="Velocity"
    low={now.softest}
    high={now.loudest}
    onLow={(softest) => onChange({ softest })}
    onHigh={(loudest) => onChange({ loudest })}
    names={["Softest", "Loudest"]}
  />
);

const laneName = ({ lanes }: Track, pitch: number) =>
  lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);
