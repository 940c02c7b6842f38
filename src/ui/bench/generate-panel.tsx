"use client";
import { Dices } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import {
  IDEA_DEFAULTS,
  barTicks,
  edits,
  generateIdeas,
  parsePitch,
  partOf,
  patternOf,
  keyName,
  pitchName,
  type Idea,
  type ValueWeight,
} from "@/core";
import { useDesk, useSession } from "../session/context";
import { SliderField } from "../shared/slider-field";
import { ValueField } from "../shared/value-field";
import { ScorePicture } from "./score-picture";

/** Note values offered in the mix; each weight is a share of the time. */
const VALUES: readonly (ValueWeight & { label: string })[] = [
  { label: "1/2", value: 2, kind: "straight", weight: 0 },
  { label: "1/4", value: 4, kind: "straight", weight: 1 },
  { label: "1/8", value: 8, kind: "straight", weight: 3 },
  { label: "1/16", value: 16, kind: "straight", weight: 1 },
  { label: "1/8T", value: 8, kind: "triplet", weight: 0 },
  { label: "1/16T", value: 16, kind: "triplet", weight: 0 },
  { label: "1/8.", value: 8, kind: "dotted", weight: 0 },
];

interface Settings {
  low: number;
  high: number;
  density: number;
  weights: number[];
  repetition: number;
  leap: number;
  seed: number;
  keepRhythm: boolean;
}

/** The register a sound is usually played in, as a start. */
function registerOf(sound: string): [number, number] {
  return sound === "reed-bass" ? [33, 55] : [57, 81];
}

/** Generates lines in the key for the melodic track in hand. */
export function GeneratePanel() {
  const { store } = useDesk();
  const project = useSession((s) => s.project);
  const pattern = useSession((s) => s.pattern);
  const trackId = useSession((s) => s.track);
  const trial = useSession((s) => s.trial);
  const track = project.tracks.find((t) => t.id === trackId);
  const [ideas, setIdeas] = useState<{ track: string; list: Idea[] }>({ track: "", list: [] });
  const [settings, setSettings] = useState<Settings | null>(null);

  if (!track || track.kind === "drums") {
    const melodic = project.tracks.filter((t) => t.kind === "melody");
    return (
      <div className="flex flex-col items-start gap-2 p-4">
        <p className="quiet">Lines are generated for a melodic track. Take one in hand:</p>
        {melodic.map((t) => (
          <button
            key={t.id}
            className="btn btn-sm"
            onClick={() => store.getState().takeTrack(t.id)}
          >
            {t.name}
          </button>
        ))}
        {melodic.length === 0 && <p className="quiet">There is none yet; add one on the left.</p>}
      </div>
    );
  }

  const [low, high] = registerOf(track.sound);
  const now: Settings = settings ?? {
    low,
    high,
    density: IDEA_DEFAULTS.density,
    weights: VALUES.map((v) => v.weight),
    repetition: IDEA_DEFAULTS.repetition,
    leap: IDEA_DEFAULTS.leap,
    seed: 1,
    keepRhythm: false,
  };
  const set = (change: Partial<Settings>) => setSettings({ ...now, ...change });
  const at = { pattern, track: trackId };
  const part = partOf(project, at);
  const bars = Math.max(
    1,
    Math.min(patternOf(project, pattern).bars, Math.ceil(part.length / barTicks(project.metre))),
  );
  const shown = ideas.track === trackId ? ideas.list : [];

  const generate = (seed: number) => {
    try {
      const list = generateIdeas({
        key: project.key,
        metre: project.metre,
        bars: Math.min(64, bars),
        low: now.low,
        high: now.high,
        density: now.density,
        values: VALUES.map(({ value, kind }, i) => ({ value, kind, weight: now.weights[i]! })),
        repetition: now.repetition,
        leap: now.leap,
        seed,
        rhythm: now.keepRhythm && part.notes.length > 0 ? part.notes : null,
      });
      setIdeas({ track: trackId, list });
      if (list[0]) hear(list[0]);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  const hear = (idea: Idea) =>
    store.setState({
      trial: { place: at, notes: idea.notes, label: `idea ${idea.seed}` },
      selection: new Set(),
    });
  const next = () => {
    const index = shown.findIndex((idea) => idea.notes === trial?.notes);
    if (shown.length > 0) hear(shown[(index + 1) % shown.length]!);
  };
  const keep = () => {
    if (!trial) return;
    store
      .getState()
      .edit(`Keep ${trial.label}`, (p) => edits.setNotes(p, trial.place, trial.notes));
    store.setState({ trial: null });
    toast.success("Written to notes. Undo brings the old line back.");
  };

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-3.5 text-[12px]">
        <p className="quiet">
          {track.name}, {bars === 1 ? "1 bar" : `${bars} bars`} in {keyName(project.key)}
        </p>
        <div className="flex items-center justify-between">
          <span className="quiet">Register</span>
          <span className="flex items-center gap-1">
            <PitchField
              label="Lowest note"
              value={now.low}
              max={now.high}
              onChange={(v) => set({ low: v })}
            />
            to
            <PitchField
              label="Highest note"
              value={now.high}
              min={now.low}
              onChange={(v) => set({ high: v })}
            />
          </span>
        </div>
        <SliderField
          label="Density"
          value={now.density}
          min={0}
          max={100}
          format={(v) => `${v} %`}
          onChange={(v) => set({ density: v })}
        />
        <SliderField
          label="Repetition"
          value={now.repetition}
          min={0}
          max={100}
          format={(v) => `${v} %`}
          onChange={(v) => set({ repetition: v })}
        />
        <SliderField
          label="Largest leap"
          value={now.leap}
          min={1}
          max={24}
          format={(v) => `${v} st`}
          onChange={(v) => set({ leap: v })}
        />
        <fieldset className="rounded-box border border-base-300 px-3 py-2">
          <legend className="quiet px-1">Note values, share of the time</legend>
          <div className="grid grid-cols-7 gap-1">
            {VALUES.map((v, i) => (
              <label key={v.label} className="flex flex-col items-center gap-1">
                <input
                  type="range"
                  className="h-14 w-4 accent-[var(--color-primary)] [direction:rtl] [writing-mode:vertical-lr]"
                  aria-label={`Share of ${v.label}`}
                  min={0}
                  max={5}
                  step={1}
                  value={now.weights[i]}
                  onChange={(event) =>
                    set({
                      weights: now.weights.map((w, k) =>
                        k === i ? Number(event.target.value) : w,
                      ),
                    })
                  }
                />
                <span className="figure text-[10px]">{v.label}</span>
              </label>
            ))}
          </div>
        </fieldset>
        <label className="flex items-center justify-between">
          <span className="quiet">Keep the rhythm that is there</span>
          <input
            type="checkbox"
            className="toggle toggle-primary toggle-xs"
            checked={now.keepRhythm}
            disabled={part.notes.length === 0}
            onChange={(event) => set({ keepRhythm: event.target.checked })}
          />
        </label>
        <div className="flex items-center gap-2">
          <span className="quiet">Seed</span>
          <ValueField
            label="Seed"
            className="w-20"
            value={now.seed}
            min={0}
            max={999_999}
            onChange={(v) => set({ seed: Math.round(v) })}
          />
          <button className="btn btn-primary btn-sm ml-auto" onClick={() => generate(now.seed)}>
            Generate
          </button>
          <button
            className="btn btn-sm px-2"
            aria-label="Generate with a new seed"
            title="Generate with a new seed"
            onClick={() => {
              const seed = Math.floor(Math.random() * 100_000);
              set({ seed });
              generate(seed);
            }}
          >
            <Dices size={16} />
          </button>
        </div>
        <ol className="flex flex-col gap-1.5" aria-label="Ideas">
          {shown.map((idea) => (
            <li key={idea.seed}>
              <button
                className={`rounded-box w-full border p-1.5 text-left ${trial?.notes === idea.notes ? "border-primary bg-primary/10" : "border-base-300 hover:border-base-content"}`}
                aria-pressed={trial?.notes === idea.notes}
                aria-label={`Idea ${idea.seed}, ${idea.notes.length} notes`}
                onClick={() => hear(idea)}
              >
                <ScorePicture
                  notes={idea.notes}
                  bars={bars}
                  metre={project.metre}
                  ink={`var(--track-${project.tracks.indexOf(track) % 8})`}
                />
              </button>
            </li>
          ))}
        </ol>
      </div>
      {trial && (
        <div className="flex gap-2 border-t border-base-300 p-3.5">
          <button
            className="btn btn-sm flex-1 px-1"
            onClick={() => store.setState({ trial: null })}
          >
            Back to mine
          </button>
          <button className="btn btn-sm flex-1 px-1" onClick={next}>
            Next idea
          </button>
          <button className="btn btn-primary btn-sm flex-1 px-1" onClick={keep}>
            Keep
          </button>
        </div>
      )}
    </div>
  );
}

function PitchField(props: {
  label: string;
  value: number;
  min?: number;
  max?: number;
  onChange(value: number): void;
}) {
  return (
    <ValueField
      className="w-12 text-center"
      min={0}
      max={127}
      format={(p) => pitchName(p)}
      parse={(text) => parsePitch(text)}
      {...props}
    />
  );
}
