"use client";
import { Dices } from "lucide-react";
import { Fragment, useState } from "react";
import {
  CONTOURS,
  DRUM_STYLES,
  PHRASE_BARS,
  keyName,
  padName,
  parsePitch,
  patternOf,
  pitchName,
  plural,
  trackOf,
  type Contour,
} from "@/core";
import {
  barsOf,
  changeKeep,
  changeSettings,
  generate,
  ideasHere,
  keptNotes,
  settingsOf,
} from "../commands/ideas";
import { CHOICES, NUMBERS, PHRASE_NUMBERS, VALUES, isPhrased } from "../commands/idea-settings";
import { ContourField } from "./contour-field";
import type { Settings } from "../session/ideas";
import { useDesk, useSession, useWork } from "../session/context";
import { currentPart, currentPlace } from "../session/current";
import { VaryPanel } from "./vary-panel";
import { ChoiceField, SwitchField } from "../controls/labelled";
import { SliderField } from "../controls/slider-field";
import { ValueField } from "../controls/value-field";

/** What ideas for the current part are generated with. */
export function GeneratePanel() {
  const { store } = useDesk();
  const state = useWork();
  const [more, setMore] = useState(false);
  if (!state.track) return <p className="quiet p-4">Add a track first, on the left.</p>;

  const { project } = state;
  const track = trackOf(project, state.track);
  const drums = track.kind === "drums";
  const now = settingsOf(state);
  const set = (change: Partial<Settings>) => changeSettings(store, change);
  const bars = barsOf(project, currentPlace(state));
  const { generated } = currentPart(state);
  const chords = (patternOf(project, state.pattern).chords?.length ?? 0) > 0;
  const numbers = NUMBERS.filter((field) => (drums ? field.drums : field.melody));

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col gap-2.5 overflow-y-auto p-3.5 text-[12px]">
        <p className="quiet">
          {drums && !now.allLanes ? laneName(track.lanes, state.caret.pitch) : track.name},{" "}
          {bars === 1 ? "1 bar" : `${bars} bars`}
          {drums ? "" : ` in ${keyName(project.key)}`}
          {generated && `; these notes came from seed ${generated.seed}`}
        </p>
        {drums && (
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
        )}
        {!drums && (
          <FromTo
            label="Register"
            low={now.low}
            high={now.high}
            onLow={(low) => set({ low })}
            onHigh={(high) => set({ high })}
            names={["Lowest note", "Highest note"]}
            pitch
          />
        )}
        {numbers.map(({ id, label, min, max, unit }) => (
          <SliderField
            key={id}
            label={label}
            value={Number(now[id])}
            min={min}
            max={max}
            format={(v) => `${v}${unit}`}
            onChange={(v) => set({ [id]: Math.round(v) })}
          />
        ))}
        {!drums && <Mix weights={now.weights} onChange={(weights) => set({ weights })} />}
        <FromTo
          label="Velocity"
          low={now.softest}
          high={now.loudest}
          onLow={(softest) => set({ softest })}
          onHigh={(loudest) => set({ loudest })}
          names={["Softest", "Loudest"]}
        />
        {!drums && (
          <>
            {(more ? CHOICES : CHOICES.slice(0, 2)).map(({ id, label, options }) => (
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
              {more ? "Fewer choices" : "More choices: first and last note, velocity"}
            </button>
            <Keep bars={bars} />
          </>
        )}
        <VaryPanel />
      </div>
      <div className="flex items-center gap-2 border-t border-base-300 p-3.5 text-[12px]">
        <span className="quiet">Seed</span>
        <ValueField
          label="Seed"
          className="w-20"
          value={now.seed}
          min={0}
          max={999_999}
          onChange={(v) => {
            set({ seed: Math.round(v) });
            // Another seed is another question: it is asked at once where ideas are shown.
            if (state.ideas.of?.kind !== "vary" && ideasHere(state).length > 0)
              void generate(store);
          }}
        />
        <button className="btn btn-primary btn-sm ml-auto" onClick={() => void generate(store)}>
          Generate
        </button>
        <button
          className="btn btn-sm px-2"
          aria-label="Generate with a new seed"
          title="Generate with a new seed"
          onClick={() => void generate(store, { seed: Math.floor(Math.random() * 1_000_000) })}
        >
          <Dices size={16} />
        </button>
      </div>
    </div>
  );
}

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
        onDraw={(heights) => onChange({ contour: "drawn", drawn: heights })}
      />
      {PHRASE_NUMBERS.map(({ id, label }) => (
        <SliderField
          key={id}
          label={label}
          value={Number(now[id])}
          min={0}
          max={100}
          format={(v) => `${v} %`}
          onChange={(v) => onChange({ [id]: Math.round(v) })}
        />
      ))}
    </fieldset>
  );
}

const laneName = (lanes: readonly { pitch: number; name: string }[], pitch: number) =>
  lanes.find((lane) => lane.pitch === pitch)?.name ?? padName(pitch);

/** What of the current notes (or of a previewed idea) stays when ideas are generated. */
function Keep({ bars }: { bars: number }) {
  const { store } = useDesk();
  const keep = useSession((s) => s.ideas.keep);
  const none = useSession((s) => keptNotes(s).length === 0);
  const previewing = useSession((s) => s.preview !== null);
  const toggle = (bar: number) =>
    changeKeep(store, {
      bars: keep.bars.includes(bar) ? keep.bars.filter((b) => b !== bar) : [...keep.bars, bar],
    });
  return (
    <fieldset className="rounded-box flex flex-col gap-1.5 border border-base-300 px-3 pt-1 pb-2">
      <legend className="quiet px-1">
        Keep from {previewing ? "the previewed idea" : "current notes"}
      </legend>
      {(
        [
          ["rhythm", "Rhythm", { rhythm: !keep.rhythm, pitches: false }],
          ["pitches", "Pitches", { pitches: !keep.pitches, rhythm: false }],
        ] as const
      ).map(([id, label, change]) => (
        <label key={id} className="flex h-[26px] items-center justify-between">
          <span className="quiet">{label}</span>
          <input
            type="checkbox"
            className="toggle toggle-primary toggle-xs"
            checked={keep[id]}
            disabled={none}
            onChange={() => changeKeep(store, change)}
          />
        </label>
      ))}
      <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Bars to keep">
        <span className="quiet mr-auto">Bars</span>
        {Array.from({ length: Math.min(bars, 16) }, (_, bar) => (
          <button
            key={bar}
            className={`figure h-[24px] w-[24px] rounded-full border text-[11px] ${
              keep.bars.includes(bar)
                ? "border-primary bg-primary text-primary-content"
                : "border-base-300"
            }`}
            aria-pressed={keep.bars.includes(bar)}
            aria-label={`Keep bar ${bar + 1}`}
            disabled={none}
            onClick={() => toggle(bar)}
          >
            {bar + 1}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

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
    ? { format: (p: number) => pitchName(p), parse: (text: string) => parsePitch(text) }
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
          onChange={(v) => onLow(Math.round(v))}
        />
        to
        <ValueField
          {...field}
          label={names[1]}
          value={high}
          min={low}
          max={127}
          onChange={(v) => onHigh(Math.round(v))}
        />
      </span>
    </div>
  );
}
