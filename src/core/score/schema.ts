import * as yup from "yup";
import { GRID_KINDS, GRID_VALUES, MAX_EARLY, SWING_RANGE } from "../time";
import { isScale, parseChord } from "../pitch";
import {
  MIX_RANGES,
  PAD_SENDS,
  SEND_EFFECT_RANGES,
  type Range,
  SOUND_CONTROLS,
  SYNCED,
  TIME_VALUES,
} from "../sound";
import { type Problem, TOLD } from "../params";
import { BEND_LIMITS } from "./bend";
import { KIT_RANGES, MAX_VARIANTS, PAD_FILTERS, PAD_RANGES, type PadField } from "./kit-shape";
import { COLOURS } from "./colours";
import { MAX_LOOPS, isCondition } from "./condition";
import { LIMITS, SPREADS, type Note } from "./model";

const whole = () => yup.number().strict().integer().required();
const real = () =>
  yup
    .number()
    .strict()
    .required()
    .test("finite", "${path} must be a finite number", (v) => Number.isFinite(v));
export const id = () => yup.string().strict().min(1).max(64).required();
const name = () => yup.string().strict().trim().min(1).max(LIMITS.name).required();
const flag = () => yup.boolean().strict().required();

const closed = <T extends yup.ObjectShape>(shape: T) =>
  yup.object(shape).strict().noUnknown("${path} has unknown fields: ${unknown}").required();

export const gridSchema = closed({
  value: whole().oneOf([...GRID_VALUES]),
  kind: yup
    .string()
    .strict()
    .oneOf([...GRID_KINDS])
    .required(),
  swing: real().min(SWING_RANGE.min).max(SWING_RANGE.max),
});

const metreSchema = closed({ beats: whole().min(1).max(32), unit: whole().oneOf([2, 4, 8, 16]) });

const keySchema = closed({
  root: whole().min(0).max(11),
  scale: yup
    .string()
    .strict()
    .required()
    .test(
      "scale",
      "${path} must be the name of a known scale",
      (v) => typeof v === "string" && isScale(v),
    ),
});

/**
 * What a note's fields must be. A part may hold many thousand notes, so they are checked by this
 * plain loop inside the Yup schema instead of a Yup object each; the reports are the same.
 */
const NOTE_FIELDS: Record<keyof Note, (v: unknown, note: object) => string | null> = {
  id: (v) =>
    typeof v === "string" && v.length >= 1 && v.length <= 64
      ? null
      : "must be a text of 1 to 64 characters",
  start: wholeIn(-MAX_EARLY, LIMITS.ticks),
  length: wholeIn(1, LIMITS.ticks),
  pitch: wholeIn(0, 127),
  velocity: wholeIn(1, 127),
  pan: realIn(-1, 1),
  tune: realIn(LIMITS.tune.min, LIMITS.tune.max),
  slide: (v) => (typeof v === "boolean" ? null : "must be true or false"),
  channel: (v, note) => ("channel" in note ? wholeIn(1, 16)(v) : null),
  unpitched: (v, note) =>
    !("unpitched" in note) || v === true ? null : "must be true or be left out",
  chance: (v, note) => ("chance" in note ? wholeIn(1, 99)(v) : null),
  when: (v, note) =>
    !("when" in note) || isCondition(v)
      ? null
      : `must be “not-first”, “last”, “not-last”, or “k/n” with n from 2 to ${MAX_LOOPS}`,
};
const NOTE_KEYS = Object.keys(NOTE_FIELDS) as (keyof Note)[];

function wholeIn(min: number, max: number) {
  return (v: unknown) =>
    Number.isInteger(v) && (v as number) >= min && (v as number) <= max
      ? null
      : `must be a whole number from ${min} to ${max}`;
}
function realIn(min: number, max: number) {
  return (v: unknown) =>
    typeof v === "number" && v >= min && v <= max ? null : `must be a number from ${min} to ${max}`;
}

const MAX_TOLD = 2 * TOLD;

/** Problems of a list of notes; stops soon, so that a broken file gets a readable answer. */
export function noteProblems(notes: unknown, path: string): Problem[] {
  if (!Array.isArray(notes)) return [{ path, reason: "must be a list of notes" }];
  if (notes.length > LIMITS.notesPerPart) {
    return [{ path, reason: `holds ${notes.length} notes; at most ${LIMITS.notesPerPart} fit` }];
  }
  const problems: Problem[] = [];
  const ids = new Set<unknown>();
  for (let i = 0; i < notes.length && problems.length < MAX_TOLD; i++) {
    const note = notes[i] as Record<string, unknown> | null;
    if (typeof note !== "object" || note === null || Array.isArray(note)) {
      problems.push({ path: `${path}[${i}]`, reason: "must be a note" });
      continue;
    }
    for (const key of NOTE_KEYS) {
      const reason = NOTE_FIELDS[key](note[key], note);
      if (reason) problems.push({ path: `${path}[${i}].${key}`, reason });
    }
    for (const key in note) {
      if (Object.hasOwn(NOTE_FIELDS, key)) continue;
      problems.push({ path: `${path}[${i}].${key}`, reason: "is not a field of a note" });
      if (problems.length > MAX_TOLD) break;
    }
    if (ids.has(note.id)) {
      problems.push({ path: `${path}[${i}].id`, reason: `“${String(note.id)}” is used twice` });
    }
    ids.add(note.id);
  }
  return problems;
}

const notesSchema = yup
  .mixed()
  .required()
  .test("notes", "${path} is not a list of notes", (value, context) => {
    const problems = noteProblems(value, context.path);
    if (problems.length === 0) return true;
    return new yup.ValidationError(
      problems.map(
        (problem) =>
          new yup.ValidationError(`${problem.path} ${problem.reason}`, undefined, problem.path),
      ),
    );
  });

/** Ids of notes, as many as there are notes: checked by a plain loop like them. */
export const isIdList = (value: unknown): value is string[] =>
  Array.isArray(value) &&
  value.length <= LIMITS.notesPerPart &&
  value.every((one) => typeof one === "string" && one.length >= 1 && one.length <= 64);

const scopeSchema = yup
  .mixed()
  .nullable()
  .defined()
  .test(
    "scope",
    "${path} must be null or a list of ids of notes",
    (value) => value === null || isIdList(value),
  );

const chainStepSchema = closed({
  id: id(),
  transform: yup.string().strict().required(),
  on: flag(),
  params: yup.object().strict().required(),
  scope: scopeSchema,
  lane: yup.number().strict().integer().min(0).max(127).optional(),
});

/** Settings of a generator as text at most this long. */
const MAX_SETTINGS = 20_000;

const generatedSchema = closed({
  kind: yup.string().strict().oneOf(["line", "drums"]).required(),
  seed: whole()
    .min(0)
    .max(2 ** 31 - 1),
  settings: yup
    .object()
    .strict()
    .required()
    .test(
      "size",
      "${path} is too long",
      (value) => (JSON.stringify(value) ?? "").length <= MAX_SETTINGS,
    ),
});

const chordSchema = closed({
  id: id(),
  start: whole().min(0).max(LIMITS.ticks),
  name: yup
    .string()
    .strict()
    .defined()
    .max(24)
    .test(
      "chord",
      ({ path, value }) => `${path} “${String(value)}” is no chord`,
      (v) => typeof v === "string" && (v === "" || parseChord(v) !== null),
    ),
  inversion: whole().min(0).max(6),
  spread: yup
    .string()
    .strict()
    .oneOf([...SPREADS])
    .required(),
});

/** A plain loop, as for notes: a curve may have thousands of points. */
function bendProblem(value: unknown): string | null {
  if (!Array.isArray(value)) return "must be a list of points";
  if (value.length > LIMITS.bend) {
    return `holds ${value.length} points; the limit is ${LIMITS.bend.toLocaleString("en-GB")}`;
  }
  let last = -Infinity;
  for (let i = 0; i < value.length; i++) {
    const point = value[i] as Record<string, unknown> | null;
    if (typeof point !== "object" || point === null) return `[${i}] must be a point`;
    const { tick, value: bend, ...more } = point;
    if (Object.keys(more).length > 0) return `[${i}] has unknown fields`;
    if (!Number.isInteger(tick) || (tick as number) < 0 || (tick as number) > LIMITS.ticks) {
      return `[${i}].tick must be a whole number from 0 to ${LIMITS.ticks}`;
    }
    if ((tick as number) <= last) return `[${i}].tick must come after the one before`;
    if (
      !Number.isInteger(bend) ||
      (bend as number) < BEND_LIMITS.min ||
      (bend as number) > BEND_LIMITS.max
    ) {
      return `[${i}].value must be a whole number from −8192 to 8191`;
    }
    last = tick as number;
  }
  return null;
}

const bendSchema = yup
  .mixed()
  .optional()
  .test(
    "bend",
    ({ path }) => `${path} is no bend curve`,
    (value, context) => {
      const reason = value === undefined ? null : bendProblem(value);
      return reason === null || context.createError({ message: `${context.path} ${reason}` });
    },
  );

export const partSchema = closed({
  track: id(),
  length: whole().min(1).max(LIMITS.ticks),
  grid: gridSchema,
  notes: notesSchema,
  chain: yup.array(chainStepSchema).strict().max(LIMITS.chain).defined(),
  generated: generatedSchema.optional().default(undefined),
  bend: bendSchema,
});

const laneSchema = closed({
  id: id(),
  name: name(),
  pitch: whole().min(0).max(127),
  grid: gridSchema,
  steps: yup.number().strict().integer().min(1).max(LIMITS.steps).nullable().defined(),
  mute: flag(),
  solo: flag(),
});

const inRange = ({ min, max }: { min: number; max: number }) => real().min(min).max(max);

/** Numbers in their ranges, each of which may be left out. */
const sparse = <K extends string>(ranges: Readonly<Record<K, Range>>) =>
  Object.fromEntries(
    Object.entries<Range>(ranges).map(([key, { label, min, max }]) => [
      key,
      yup
        .number()
        .strict()
        .label(label)
        .min(min, `\${path} must be from ${min} to ${max}`)
        .max(max, `\${path} must be from ${min} to ${max}`)
        .test(
          "finite",
          "${path} must be a finite number",
          (v) => v === undefined || Number.isFinite(v),
        )
        .optional(),
    ]),
  ) as Record<K, yup.NumberSchema<number | undefined>>;

const open = <T extends yup.ObjectShape>(shape: T) =>
  yup
    .object(shape)
    .strict()
    .noUnknown("${path} has unknown fields: ${unknown}")
    .optional()
    .default(undefined);

/** How a sound is shaped, from the controls there are. */
const shapingSchema = open(sparse(SOUND_CONTROLS));

const mixSchema = open({
  ...sparse(MIX_RANGES),
  duckBy: yup.string().strict().min(1).max(64).optional(),
  duckPad: yup.number().strict().integer().min(0).max(127).optional(),
});

const noteValue = () =>
  yup
    .string()
    .strict()
    .oneOf(["", ...TIME_VALUES], "${path} must be a note value of the tempo table, such as 1/8.")
    .optional();

const roomSchema = open({
  ...sparse(SEND_EFFECT_RANGES),
  ...(Object.fromEntries(Object.values(SYNCED).map((field) => [field, noteValue()])) as Record<
    (typeof SYNCED)[keyof typeof SYNCED],
    ReturnType<typeof noteValue>
  >),
  pingPong: yup.boolean().strict().optional(),
});

/** What the server names a sample: the first half of the SHA-256 of its bytes. */
export const SAMPLE_ID = /^[0-9a-f]{32}$/;

const sampleSchema = yup
  .object({
    id: yup.string().strict().matches(SAMPLE_ID, "${path} must be the id of a sample").required(),
    name: name(),
  })
  .strict()
  .noUnknown("${path} has unknown fields: ${unknown}");

const padSchema = closed({
  pitch: whole().min(0).max(127),
  sample: sampleSchema.nullable().defined(),
  ...(Object.fromEntries(
    Object.entries(PAD_RANGES).map(([field, range]) => [field, inRange(range)]),
  ) as Record<PadField, ReturnType<typeof real>>),
  choke: whole().min(PAD_RANGES.choke.min).max(PAD_RANGES.choke.max),
  filter: yup
    .string()
    .strict()
    .oneOf([...PAD_FILTERS])
    .required(),
  from: yup.string().strict().min(1).max(64).optional(),
  variant: yup.number().strict().integer().min(1).max(MAX_VARIANTS).optional(),
  ...sparse(PAD_SENDS),
});

const kitSchema = closed({
  level: inRange(KIT_RANGES.level),
  pitch: inRange(KIT_RANGES.pitch),
  time: inRange(KIT_RANGES.time),
  pads: yup.array(padSchema).strict().max(128).defined(),
});

/** The shape of a sound kept under a name. */
export const shapingPresetSchema = closed(sparse(SOUND_CONTROLS));

/** A kit kept under a name: its sound, and how its pads are shaped. */
export const kitPresetSchema = closed({
  sound: yup.string().strict().min(1).max(64).required(),
  kit: kitSchema,
});

export const trackSchema = closed({
  id: id(),
  kind: yup.string().strict().oneOf(["drums", "melody"]).required(),
  name: name(),
  sound: yup.string().strict().min(1).max(64).required(),
  level: real().min(LIMITS.level.min).max(LIMITS.level.max),
  pan: real().min(-1).max(1),
  mute: flag(),
  solo: flag(),
  lanes: yup.array(laneSchema).strict().max(LIMITS.lanes).defined(),
  kit: kitSchema.optional().default(undefined),
  shaping: shapingSchema,
  mix: mixSchema,
});

const chordsSchema = yup
  .array(chordSchema)
  .strict()
  .max(LIMITS.chords)
  .optional()
  .default(undefined);

export const patternHeadSchema = closed({
  id: id(),
  name: name(),
  bars: whole().min(1).max(LIMITS.bars),
  colour: yup
    .string()
    .strict()
    .oneOf([...COLOURS])
    .optional(),
  metre: metreSchema.optional().default(undefined),
  chords: chordsSchema,
  recording: open({
    sample: sampleSchema.required(),
    tempo: real().min(LIMITS.tempo.min).max(LIMITS.tempo.max),
    first: real().min(0).max(LIMITS.recording),
  }),
  stars: yup
    .array(
      closed({
        track: id().nullable(),
        seed: whole()
          .min(0)
          .max(2 ** 31 - 1),
        notes: notesSchema.test(
          "many",
          `\${path} holds more than ${LIMITS.starNotes} notes`,
          (value) => (value as readonly unknown[]).length <= LIMITS.starNotes,
        ),
        says: yup.string().strict().max(400).optional(),
        chords: chordsSchema,
        generated: generatedSchema.optional().default(undefined),
      }),
    )
    .strict()
    .max(LIMITS.stars)
    .optional()
    .default(undefined),
});

const patternSchema = closed({
  ...patternHeadSchema.fields,
  parts: yup.array(partSchema).strict().max(LIMITS.tracks).defined(),
});

const songSchema = yup
  // Sections of projects made before sections had ids have none; `upgrade` gives them.
  .array(
    closed({
      id: id().optional(),
      pattern: id(),
      times: whole().min(1).max(LIMITS.times),
      name: name().optional(),
      bars: yup.number().strict().integer().min(1).max(LIMITS.bars).optional(),
      skip: yup.number().strict().integer().min(1).max(LIMITS.bars).optional(),
      continues: yup.boolean().strict().oneOf([true]).optional(),
      tempo: yup.number().strict().min(LIMITS.tempo.min).max(LIMITS.tempo.max).optional(),
      mutes: yup.array(id()).strict().max(LIMITS.tracks).optional(),
      chords: chordsSchema,
    }),
  )
  .strict()
  .max(LIMITS.song)
  .defined();

export const projectHeadSchema = closed({
  name: name(),
  tempo: real().min(LIMITS.tempo.min).max(LIMITS.tempo.max),
  metre: metreSchema,
  key: keySchema,
  song: songSchema,
  seed: yup.number().strict().integer().min(1).max(LIMITS.seed).optional(),
  room: roomSchema,
});

export const projectSchema = closed({
  ...projectHeadSchema.fields,
  tracks: yup.array(trackSchema).strict().max(LIMITS.tracks).defined(),
  patterns: yup.array(patternSchema).strict().min(1).max(LIMITS.patterns).defined(),
});
