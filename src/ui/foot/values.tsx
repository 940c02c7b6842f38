"use client";
import type { ComponentProps, ReactNode } from "react";
import { type NumberChange, readNumber } from "@/core/base";
import {
  MAX_EARLY,
  driftOf,
  formatLength,
  formatPosition,
  parsePosition,
  parseTicks,
  ticksToMs,
} from "@/core/time";
import { padName, parsePitch, pitchName } from "@/core/pitch";
import { LIMITS, type Note } from "@/core/score";
import { figure, nearestTone, rollRate } from "@/core/transforms";
import { countOf, selectedByPart, countText } from "../commands/notes/by-part";
import { gridOfNote } from "../commands/notes/notes";
import { selectedNotes, shiftPitches, shiftStarts, toggleSlide } from "../commands/notes/selected";
import { madeMessage, selectedMade, writeMade } from "../commands/tracks/made";
import { PAN_FIELD } from "../controls/pan-field";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { CutField } from "./cut-field";
import { LENGTH, changeSelected, changeValues } from "../commands/notes/values";
import { PROFILES } from "../geometry/profiles";
import { currentMetre } from "../state/current";
import { ChanceField, WhenField } from "./chance";
import { keyed } from "../person/keys";

/** Exact values of the selected notes. */
export function Values({ drums }: { drums: boolean }) {
  const selection = useSession((state) => state.selection);
  const project = useSession((state) => state.project);
  const pattern = useSession((state) => state.pattern);
  const track = useSession((state) => state.track);
  const beside = useSession((state) => state.beside);
  const held = track ? selectedByPart({ project, pattern, track, selection, beside }) : [];
  const [of] = held;
  const first = of?.notes[0];
  if (!first && track && selection.size > 0) return <MadeSelected drums={drums} />;
  if (!first) return <NothingSelected drums={drums} />;
  const several = countOf(held) > 1;
  const label = several ? countText(held) : drums ? "Hit" : "Note";
  return (
    <div className="flex h-[46px] items-center overflow-x-auto px-4">
      <Labelled label={label} width={HEAD}>
        <PitchField first={first} several={several} drums={of.drums} />
      </Labelled>
      <TimeFields first={first} several={several} />
      <SoundFields first={first} several={several} drums={of.drums} />
      <ConditionFields first={first} several={several} />
      <Readings first={first} />
      {of.drums ? (
        <Labelled label="Roll">
          <CutField />
        </Labelled>
      ) : (
        <MelodyFields first={first} />
      )}
    </div>
  );
}

/** What cards made is changed by them, or written first. */
function MadeSelected({ drums }: { drums: boolean }) {
  const { store } = useDesk();
  const made = useSession((state) => selectedMade(state).length);
  const message = useSession((state) => (selectedMade(state).length > 0 ? madeMessage(state) : ""));
  if (made === 0) return <NothingSelected drums={drums} />;
  return (
    <div className="flex h-[46px] items-center gap-3 px-4 text-[12px]">
      <span>{message}</span>
      <button className="btn btn-sm" onClick={() => writeMade(store)}>
        Write to notes
      </button>
    </div>
  );
}

/** Nothing is selected: each field stands empty in its place, but for what the next note takes over. */
function NothingSelected({ drums }: { drums: boolean }) {
  const touched = useSession((state) => state.touched);
  const next: Readonly<Record<string, string>> = {
    Velocity: String(touched.velocity),
    ...(touched.length !== null && { Length: formatLength(touched.length) }),
  };
  const labels = ["Start", "Length", "Velocity", "Pan", ...(drums ? ["Tune"] : [])];
  const rest = ["Chance", "Loops", "Timing offset", "Duration"];
  const own = drums ? ["Roll"] : ["Channel", "Slide"];
  return (
    <div className="flex h-[46px] items-center overflow-x-auto px-4" data-testid="no-values">
      <Labelled label={drums ? "Next hit" : "Next note"} width={HEAD}>
        <span className="quiet px-1">–</span>
      </Labelled>
      {[...labels, ...rest, ...own].map((label) => (
        <Labelled key={label} label={label}>
          <span className="figure quiet px-1">{next[label] ?? "–"}</span>
        </Labelled>
      ))}
    </div>
  );
}

interface FirstProps {
  /** The first of the selected notes, and whether there are others. */
  first: Note;
  several: boolean;
}

function PitchField({ first, several, drums }: FirstProps & { drums: boolean }) {
  const { store } = useDesk();
  const key = useSession((state) => state.project.key);
  if (drums) return <span className="figure px-1 font-medium">{padName(first.pitch)}</span>;
  return (
    <ValueField
      label="Pitch"
      className="w-16"
      value={first.pitch}
      min={0}
      max={127}
      format={(pitch) => pitchName(pitch, key)}
      parse={parsePitch}
      parseAmount={(text) => readNumber(text, "st")}
      several={several}
      scales={false}
      onChange={(pitch, change) => shiftPitches(store, byOf(change, pitch - first.pitch))}
    />
  );
}

/** Where they start, moved as one, and how long they are. */
function TimeFields({ first, several }: FirstProps) {
  const { store } = useDesk();
  const metre = useSession(currentMetre);
  const tempo = useSession((state) => state.project.tempo);
  return (
    <>
      <Field
        label="Start"
        className="w-[104px]"
        value={first.start}
        min={-MAX_EARLY}
        max={LIMITS.ticks}
        format={(tick) => formatPosition(tick, metre)}
        parse={(text) => parsePosition(text, metre)}
        parseAmount={(text) => parseTicks(text, tempo)}
        several={several}
        scales={false}
        onChange={(start, change) => shiftStarts(store, byOf(change, start - first.start))}
      />
      <Field
        label="Length"
        className="w-[72px]"
        value={first.length}
        {...LENGTH.range}
        step={10}
        format={formatLength}
        parse={(text) => parseTicks(text, tempo)}
        several={several}
        onChange={(_, change) => changeValues(store, LENGTH, change)}
      />
    </>
  );
}

/** Velocity, pan and tune: as typed, for all of them; a change keeps their differences. */
function SoundFields({ first, several, drums }: FirstProps & { drums: boolean }) {
  const { store } = useDesk();
  const { velocity, pan, tune } = PROFILES;
  return (
    <>
      <Field
        label="Velocity"
        name="Velocity of the selection"
        className="w-14"
        value={first.velocity}
        {...velocity.range}
        reset={96}
        several={several}
        onChange={(_, change) => {
          changeValues(store, velocity, change);
          const [now] = selectedNotes(store.getState());
          if (now) store.getState().setTouched({ velocity: now.velocity });
        }}
      />
      <Field
        label="Pan"
        name="Pan of the selection"
        className="w-[72px]"
        value={Math.round(first.pan * 100)}
        {...PAN_FIELD}
        several={several}
        onChange={(_, change) => changeValues(store, pan, ofHundred(change))}
      />
      {drums && (
        <Field
          label="Tune"
          name="Tune of the selection"
          className="w-[68px]"
          value={first.tune}
          {...tune.range}
          reset={0}
          format={tune.text}
          several={several}
          onChange={(_, change) => changeValues(store, tune, change)}
        />
      )}
    </>
  );
}

/** By how much it is changed: by as much as the first is where that was set. */
const byOf = (change: NumberChange, first: number) =>
  change.how === "shift" ? Math.round(change.by) : first;

/** A change of a value that is shown as hundredths of it. */
const ofHundred = (change: NumberChange): NumberChange => {
  if (change.how === "scale") return change;
  return change.how === "set"
    ? { how: "set", to: change.to / 100 }
    : { how: "shift", by: change.by / 100 };
};

function ConditionFields({ first, several }: FirstProps) {
  const { store } = useDesk();
  const change = (label: string, of: (note: Note) => Note) => changeSelected(store, label, of);
  return (
    <>
      <Labelled label="Chance">
        <ChanceField
          first={first}
          several={several}
          onChange={(by) => changeValues(store, PROFILES.chance, by)}
        />
      </Labelled>
      <Labelled label="Loops">
        <WhenField first={first} change={change} />
      </Labelled>
    </>
  );
}

/** What is read off the first note: how far it lies from its line, and how long it is. */
function Readings({ first }: Pick<FirstProps, "first">) {
  const { store } = useDesk();
  const tempo = useSession((state) => state.project.tempo);
  // A row of such is heard as a pitch: told over it, so that nothing beside it is pushed away.
  const ms = ticksToMs(first.length, tempo);
  const tone = nearestTone(ms);
  return (
    <>
      <Labelled label="Timing offset">
        <span className="figure px-1 text-[12px] whitespace-nowrap" data-testid="drift">
          {offsetText(driftOf(gridOfNote(store.getState(), first), first.start), tempo)}
        </span>
      </Labelled>
      <Labelled label="Duration">
        <span
          className="figure px-1 text-[12px] whitespace-nowrap"
          data-testid="rate"
          title={rollRate(ms)}
        >
          {figure(ms)} ms{tone !== null && ` ${pitchName(tone)}`}
        </span>
      </Labelled>
    </>
  );
}

/** What notes of a melodic track have beside. */
function MelodyFields({ first }: Pick<FirstProps, "first">) {
  const { store } = useDesk();
  return (
    <>
      <Field
        label="Channel"
        className="w-[60px]"
        value={first.channel ?? 0}
        min={0}
        max={16}
        reset={0}
        format={(channel) => (channel === 0 ? "track" : String(channel))}
        parse={(text) => (/^\s*t/i.test(text) ? 0 : wholeNumber(text))}
        onChange={(channel) =>
          changeSelected(store, "Channel", (was, { drums }) => {
            const { channel: _, ...note } = was;
            if (drums) return was;
            return channel === 0 ? note : { ...note, channel };
          })
        }
      />
      <Labelled label="Slide">
        <button
          className="px-1 text-[13px]"
          aria-pressed={first.slide}
          aria-label="Slide into the next note"
          {...keyed("Slide into the next note", "slide")}
          onClick={() => toggleSlide(store)}
        >
          {first.slide ? "yes" : "no"}
        </button>
      </Labelled>
    </>
  );
}

/** `+10.4 ms, 14 t` */
function offsetText(ticks: number, tempo: number): string {
  if (ticks === 0) return "none";
  const of = Math.abs(ticks);
  return `${ticks > 0 ? "+" : "−"}${ticksToMs(of, tempo).toFixed(1)} ms, ${of} t`;
}

/** `name` is what the field is called where its label alone would be that of another. */
const Field = ({ name, ...props }: ComponentProps<typeof ValueField> & { name?: string }) => (
  <Labelled label={props.label}>
    <ValueField {...props} label={name ?? props.label} />
  </Labelled>
);

/** Widths in pixels of what has a label of its own: each keeps its place, whatever is selected. */
const WIDTHS: Readonly<Record<string, number>> = {
  Start: 106,
  Length: 74,
  Velocity: 64,
  Pan: 74,
  Tune: 72,
  Chance: 66,
  Loops: 122,
  "Timing offset": 112,
  Duration: 90,
  Channel: 64,
};
const HEAD = 92;

function Labelled({
  label,
  width = WIDTHS[label],
  children,
}: {
  label: string;
  width?: number | undefined;
  children: ReactNode;
}) {
  return (
    <div className="flex shrink-0 flex-col" style={{ width }}>
      <span className="quiet px-1 text-[12px] leading-tight whitespace-nowrap">{label}</span>
      <span className="text-[15px] font-medium">{children}</span>
    </div>
  );
}

const wholeNumber = (text: string) => (/^\s*\d+\s*$/.test(text) ? Number(text) : null);
