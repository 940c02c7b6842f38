"use client";
import type { ReactNode } from "react";
import { CLICKS } from "@/audio/click";
import { SOUNDS } from "@/audio/sounds";
import { KEY_LAYOUTS } from "@/core/perform";
import { LIMITS } from "@/core/score";
import { ValueField } from "../controls/value-field";
import { KEY_SENSES } from "../person/presses";
import {
  CLICK_WHEN,
  HIT_CLICKS,
  MESSAGE_PLACES,
  MOTIONS,
  RECORD_MODES,
  setSettings,
  TRACK_COLOURS,
  useSetting,
  type Settings,
} from "../person/settings";
import { chooseTheme } from "../person/theme";

/** One thing that can be set: its name, what it is about, other words that find it, and its field. */
export interface Row {
  label: string;
  group: string;
  about: string;
  words: readonly string[];
  Field: () => ReactNode;
}

type Names<T> = {
  [Name in keyof Settings]: Settings[Name] extends T ? Name : never;
}[keyof Settings];

type Words = Pick<Row, "label" | "about"> & { words?: string };

const row = (group: string, { words = "", ...about }: Words, Field: Row["Field"]): Row => ({
  ...about,
  group,
  words: words.split(" ").filter(Boolean),
  Field,
});

/** One of a few, each with what it is called. */
function choose<Name extends Names<string | number | null>>(
  group: string,
  name: Name,
  words: Words,
  options: readonly (readonly [Settings[Name], string])[],
  set: (value: Settings[Name]) => void = (value) =>
    setSettings({ [name]: value } as Partial<Settings>),
): Row {
  const Field = () => {
    const value = useSetting(name);
    return (
      <select
        className="select select-sm w-56"
        aria-label={words.label}
        value={options.findIndex(([one]) => one === value)}
        onChange={(event) => {
          const chosen = options[Number(event.target.value)];
          if (chosen) set(chosen[0]);
        }}
      >
        {options.map(([one, shown], i) => (
          <option key={String(one)} value={i}>
            {shown}
          </option>
        ))}
      </select>
    );
  };
  return row(group, words, Field);
}

/** A number within its limits. */
const figure = (
  group: string,
  name: Names<number>,
  words: Words,
  { min, max, unit = "" }: { min: number; max: number; unit?: string },
): Row =>
  row(group, words, () => (
    <ValueField
      label={words.label}
      className="input input-sm w-24 text-right"
      value={useSetting(name) as number}
      min={min}
      max={max}
      format={(value) => `${value}${unit}`}
      onChange={(value) => setSettings({ [name]: value })}
    />
  ));

/** On or off. */
const flag = (group: string, name: Names<boolean>, words: Words): Row =>
  row(group, words, () => (
    <input
      type="checkbox"
      className="toggle toggle-primary toggle-sm"
      aria-label={words.label}
      checked={useSetting(name) as boolean}
      onChange={(event) => setSettings({ [name]: event.target.checked })}
    />
  ));

const named = <T extends string>(
  values: readonly T[],
  words: Readonly<Record<T, string>>,
): (readonly [T, string])[] => values.map((one) => [one, words[one]] as const);

const [LOOK, EDIT, NEW, PLAY, SENSE] = [
  "Look",
  "Editing",
  "New projects",
  "Metronome and recording",
  "Keyboard",
];

/** All that can be set, but for the keys of actions. A line adds one. */
export const ROWS: readonly Row[] = [
  choose<"theme">(
    LOOK,
    "theme",
    { label: "Theme", about: "Light, dark, or as the system is", words: "dark night colours" },
    [
      [null, "As the system"],
      ["overcast", "Light"],
      ["slate", "Dark"],
    ],
    chooseTheme,
  ),
  choose<"trackColours">(
    LOOK,
    "trackColours",
    {
      label: "Colours of tracks",
      about: "Those told apart by any eyes differ in lightness, too",
      words: "colour-blind blind contrast",
    },
    named(TRACK_COLOURS, { theme: "Of the theme", apart: "Told apart by any eyes" }),
  ),
  choose<"motion">(
    LOOK,
    "motion",
    { label: "Motion", about: "Whether things slide and fade", words: "animation reduced" },
    named(MOTIONS, { system: "As the system", less: "Nothing slides or fades" }),
  ),
  choose<"messages">(
    LOOK,
    "messages",
    { label: "Messages appear", about: "Where short messages come up", words: "toast notice" },
    named(MESSAGE_PLACES, {
      "bottom-left": "At the bottom, left",
      "bottom-center": "At the bottom, in the middle",
      "top-center": "At the top, in the middle",
      "top-right": "At the top, right",
    }),
  ),
  choose<"hitClick">(
    EDIT,
    "hitClick",
    {
      label: "A click on a hit",
      about: "With the pointer that draws",
      words: "delete select press",
    },
    named(HIT_CLICKS, { delete: "Deletes it", select: "Selects it, the next deletes it" }),
  ),
  flag(EDIT, "hitsSwing", {
    label: "Hits go along with swing",
    about: "Hits on the lines of a grid move when its swing is changed",
  }),
  figure(
    NEW,
    "newTempo",
    { label: "Tempo of a new project", about: "Beats in a minute", words: "bpm default" },
    LIMITS.tempo,
  ),
  choose<"newKit">(
    NEW,
    "newKit",
    { label: "Kit of a new project", about: "What its drums sound like", words: "default drums" },
    SOUNDS.filter(({ kind }) => kind === "drums").map(({ id, label }) => [id, label] as const),
  ),
  choose<"countIn">(
    PLAY,
    "countIn",
    { label: "Count-in", about: "Bars counted before a recording begins", words: "precount" },
    [
      [0, "None"],
      [1, "1 bar"],
      [2, "2 bars"],
    ],
  ),
  choose<"clickWhen">(
    PLAY,
    "clickWhen",
    { label: "Metronome is heard", about: "Once it is on", words: "click" },
    named(CLICK_WHEN, {
      "count-in": "In the count-in",
      recording: "While recording",
      always: "Whenever it plays",
    }),
  ),
  choose<"clickSound">(
    PLAY,
    "clickSound",
    { label: "Sound of the metronome", about: "What clicks", words: "click" },
    CLICKS.map(({ id, label }) => [id, label] as const),
  ),
  figure(
    PLAY,
    "clickLevel",
    { label: "Level of the metronome", about: "−60 dB is silence", words: "click volume" },
    { min: -60, max: 6, unit: " dB" },
  ),
  flag(PLAY, "clickAccent", { label: "First beat is accented", about: "By the metronome" }),
  choose<"record">(
    PLAY,
    "record",
    { label: "Recording", about: "What becomes of what is there", words: "overdub replace take" },
    named(RECORD_MODES, {
      overdub: "Overdub: adds to it",
      replace: "Replace: takes its place",
      take: "One take of any length",
    }),
  ),
  figure(
    PLAY,
    "latency",
    {
      label: "Input delay",
      about: "What a key or pad takes to be told; notes are put earlier by it",
      words: "latency lag midi audio",
    },
    { min: -200, max: 500, unit: " ms" },
  ),
  figure(
    PLAY,
    "velocity",
    { label: "Velocity of the computer's keys", about: "1 to 127", words: "default" },
    { min: 1, max: 127 },
  ),
  choose<"layout">(
    SENSE,
    "layout",
    { label: "Notes on the computer's keys", about: "While playing by keys", words: "piano" },
    named(KEY_LAYOUTS, {
      piano: "Piano",
      "two-row piano": "Piano in two rows",
      pads: "Pads",
      "scale rows": "The scale in rows",
    }),
  ),
  choose<"keySense">(
    SENSE,
    "keySense",
    {
      label: "A key is known by",
      about: "Its sign, wherever that lies; or its place, as on a keyboard of the United States",
      words: "german french swiss qwertz azerty keyboard layout bracket",
    },
    named(KEY_SENSES, { sign: "Its sign", place: "Its place" }),
  ),
];
