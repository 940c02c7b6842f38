"use client";
import { Dices } from "lucide-react";
import { Fragment, useState } from "react";
import { plural } from "@/core/base";
import { keyName, padName, parsePitch, pitchName } from "@/core/pitch";
import { patternOf, trackOf } from "@/core/score";
import {
  CONTOURS,
  type Contour,
  DRUM_STYLES,
  PHRASE_BARS,
  ROLES,
  type Role,
} from "@/core/generate";
import { changeChords } from "../../commands/ideas/chord-ideas";
import { askIdeas, changeSettings, ideasHere, settingsOf } from "../../commands/ideas/ideas";
import { barsOf, keptNotes } from "../../commands/ideas/wishes";
import {
  CHOICES,
  NUMBERS,
  PHRASE_NUMBERS,
  VALUES,
  isIdle,
  isPhrased,
} from "../../commands/ideas/settings";
import { ChordWish } from "./chord-wish";
import { ContourField } from "./contour-field";
import { KeepField } from "./keep-field";
import { RhythmSourceField } from "./rhythm-source";
import { TasteField } from "./taste-field";
import type { Settings } from "../../state/ideas";
import { useDesk, useWork } from "../../session/context";
import { currentPart, currentPlace } from "../../state/current";
import { VaryPanel } from "./vary-panel";
import { Choice } from "../../controls/choice";
import { ChoiceField, SwitchField } from "../../controls/labelled";
import { SliderField } from "../../controls/slider-field";
import { ValueField } from "../../controls/value-field";

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

/** What ideas for the current part are generated with. */
function PartWish() {
  const { store } = useDesk();
  const state = useWork();
  const [more, setMore] = useState(false);
  const { project } = state;
  const track = trackOf(project, state.track);
  const drums = track.kind === "drums";
  const now = settingsOf(state);
  const set = (change: Partial<Settings>) => changeSettings(store, change);
  const bars = barsOf(project, currentPlace(state));
  const { generated } = currentPart(state);
  const chords = (patternOf(project, state.pattern).chords?.length ?? 0) > 0;
  const numbers = NUMBERS.filter(({ drums: of, melody, roles }) =>
    drums ? of : melody && (!roles || roles.includes(now.role)),
  );
  const rhythmKept = state.ideas.keep.rhythm && keptNotes(state).length > 0;
  const offered = (id: keyof Settings) =>
    drums ? id !== "fill" || now.allLanes : !isIdle(id, now, rhythmKept);
  const melody = now.role === "melody";
  const rhythmic = now.role !== "pad";
  return (
    <>
      <p className="quiet">
        {drums && !now.allLanes ? laneName(track.lanes, state.caret.pitch) : track.name},{" "}
        {bars === 1 ? "1 bar" : `${bars} bars`}
        {drums ? "" : ` in ${keyName(project.key)}`}
        {generated && `; these notes came from seed ${generated.seed}`}
      </p>
      {drums ? (
        <>
          <SwitchField
            label="All lanes together"
            value={now.allLanes}
            onChange={(allLanes) => set({ allLanes })}
          />
          <ChoiceField
            label="Style"
            value={now.style}
            options={[...DRUM_STYLES.map(({ id }) => id), ""]}
            text={styleText}
            size="select-xs w-40"
            onChange={(style) => set({ style })}
          />
        </>
      ) : (
        <>
          <ChoiceField
            label="As"
            value={now.role}
            options={ROLES}
            text={(role) => ROLE_TEXT[role as Role]}
            size="select-xs w-40"
            // Chords have all their tones, a line is one.
            onChange={(role) => set({ role, voices: role === "pad" || role === "stabs" ? 4 : 1 })}
          />
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
        </>
      )}
      {numbers
        .filter(({ id }) => offered(id))
        .map(({ id, label, min, max, unit }) => (
          <SliderField
            key={id}
            label={label}
            value={Number(now[id])}
            min={min}
            max={max}
            format={(value) => `${value}${unit}`}
            onChange={(value) => set({ [id]: Math.round(value) })}
          />
        ))}
      {!drums && rhythmic && offered("weights") && (
        <Mix weights={now.weights} onChange={(weights) => set({ weights })} />
      )}
      {offered("softest") && (
        <FromTo
          label="Velocity"
          low={now.softest}
          high={now.loudest}
          onLow={(softest) => set({ softest })}
          onHigh={(loudest) => set({ loudest })}
          names={["Softest", "Loudest"]}
        />
      )}
      {!drums && !melody && !chords && (
        <p role="status">
          There are no chords over the bars yet: the key’s own chord is used. Ideas for the chord
          line are a step away, above.
        </p>
      )}
      {!drums && melody && (
        <>
          {(more ? CHOICES : CHOICES.slice(0, 2))
            .filter((choice) => offered(choice.id))
            .map(({ id, label, options }) => (
              <Fragment key={id}>
                <ChoiceField
                  label={label}
                  value={String(now[id])}
                  options={options}
                  size="select-xs w-40"
                  onChange={(value) => set({ [id]: value })}
                />
                {id === "form" && isPhrased(now.form) && <Phrases now={now} onChange={set} />}
              </Fragment>
            ))}
          {now.pool === "chords" && !chords && (
            <p role="status">There are no chords over the bars yet: the scale is used.</p>
          )}
          <button
            className="quiet min-h-6 self-start rounded px-1 text-[11px] underline underline-offset-2"
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
      )}
      {(drums || rhythmic) && (
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

const ROLE_TEXT: Readonly<Record<Role, string>> = {
  melody: "melody",
  bass: "bass line",
  pad: "pad, chords held",
  stabs: "stabs, chords struck",
};

const styleText = (style: string) =>
  DRUM_STYLES.find(({ id }) => id === style)?.label ?? "By chance";

/** How the phrases of a line go. */
function Phrases({ now, onChange }: { now: Settings; onChange(change: Partial<Settings>): void }) {
  const contour = now.contour as Contour;
  const { drawn, climax } = now;
  return (
    <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">Phrases</legend>
      <div className="flex items-center gap-2">
        <select
          className="select select-xs min-w-0 flex-1"
          aria-label="Length of a phrase"
          value={now.phraseBars}
          disabled={now.form === "sentence" || now.form === "AABA"}
          onChange={(event) => onChange({ phraseBars: Number(event.target.value) })}
        >
          {PHRASE_BARS.map((bars) => (
            <option key={bars} value={bars}>
              {plural(bars, "bar")}
            </option>
          ))}
        </select>
        <select
          className="select select-xs min-w-0 flex-1"
          aria-label="Contour"
          value={contour}
          onChange={(event) => onChange({ contour: event.target.value })}
        >
          {CONTOURS.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </div>
      <ContourField
        wish={{ contour, drawn, climax }}
        onDraw={(heights, was = "drawn") => onChange({ contour: was, drawn: heights })}
      />
      <SwitchField
        label="Pick-up notes"
        value={now.pickup}
        className="min-h-[26px]"
        onChange={(pickup) => onChange({ pickup })}
      />
      {PHRASE_NUMBERS.map(({ id, label }) => (
        <SliderField
          key={id}
          label={label}
          value={Number(now[id])}
          min={0}
          max={100}
          format={(value) => `${value} %`}
          onChange={(value) => onChange({ [id]: Math.round(value) })}
        />
      ))}
    </fieldset>
  );
}

const laneName = (lanes: readonly { pitch: number; name: string }[], pitch: number) =>
  lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);

/** The note values in the mix, each with its share of the time. */
function Mix({ weights, onChange }: { weights: number[]; onChange(weights: number[]): void }) {
  return (
    <fieldset className="rounded-box border border-base-300 px-2 pt-1 pb-1.5">
      <legend className="quiet px-1">Note values, share of the time</legend>
      <div className="grid grid-cols-9">
        {VALUES.map((v, i) => (
          <label key={v.label} className="flex flex-col items-center gap-1">
            <input
              type="range"
              className="h-12 w-4 accent-[var(--color-primary)] [direction:rtl] [writing-mode:vertical-lr]"
              aria-label={`Share of ${v.label}`}
              min={0}
              max={5}
              step={1}
              value={weights[i]}
              onChange={(event) =>
                onChange(weights.map((w, k) => (k === i ? Number(event.target.value) : w)))
              }
            />
            <span className="figure text-[9.5px]">{v.label}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function FromTo(props: {
  label: string;
  low: number;
  high: number;
  onLow(value: number): void;
  onHigh(value: number): void;
  names: [string, string];
  pitch?: boolean;
}) {
  const { label, low, high, onLow, onHigh, names, pitch = false } = props;
  const shown = pitch
    ? { format: (pitch: number) => pitchName(pitch), parse: (text: string) => parsePitch(text) }
    : {};
  const field = { className: "w-12 text-center", ...shown };
  return (
    <div className="flex items-center justify-between">
      <span className="quiet">{label}</span>
      <span className="flex items-center gap-1">
        <ValueField
          {...field}
          label={names[0]}
          value={low}
          min={pitch ? 0 : 1}
          max={high}
          onChange={(value) => onLow(Math.round(value))}
        />
        to
        <ValueField
          {...field}
          label={names[1]}
          value={high}
          min={low}
          max={127}
          onChange={(value) => onHigh(Math.round(value))}
        />
      </span>
    </div>
  );
}
