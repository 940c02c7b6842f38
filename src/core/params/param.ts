import * as yup from "yup";
import { RHYTHM, STEPS } from "./step-pattern";

/** A value of a parameter, and parameters by name: plain data that is stored with a project. */
export type ParamValue = number | string | boolean;
export type Params = Record<string, ParamValue>;

interface Condition {
  param: string;
  is: readonly string[];
}

/** Whether a parameter with this metadata has a meaning next to the values of the others. */
export function isShown({ when = [] }: ParamMeta, params: Params): boolean {
  const conditions = "param" in when ? [when] : when;
  return conditions.every(({ param, is }) => is.includes(String(params[param])));
}

/** Metadata of a parameter: how the interface shows its control, and when. */
export interface ParamMeta {
  unit?: string;
  step?: number;
  /** Shown only while other parameters have one of these values each. */
  when?: Condition | readonly Condition[];
  /** Choices in words, where they are others than their names. */
  texts?: Readonly<Record<string, string>>;
  /** Asked only where so much of the project is meant: see `Extent`. */
  extents?: readonly string[];
  /** A control of its own: the beats of a bar, a track of the project, a time in ms with the tempo table, a note value. */
  role?: "beats" | "track" | "rhythm" | "steps" | "rate" | "value" | "groove" | "bends";
}

/** Schema pieces for parameters. Metadata tells the interface how to show the control. */
export const param = {
  number: (label: string, min: number, max: number, meta: ParamMeta = {}) =>
    yup
      .number()
      .strict()
      .required()
      .min(min, `must be at least ${min}`)
      .max(max, `must be at most ${max}`)
      .test("finite", "must be a finite number", (value) => Number.isFinite(value))
      .label(label)
      .meta({ min, max, step: 1, ...meta }),
  whole: (label: string, min: number, max: number, meta: ParamMeta = {}) =>
    param.number(label, min, max, meta).integer("must be a whole number"),
  choice: (label: string, options: readonly string[], meta: ParamMeta = {}) =>
    yup
      .string()
      .strict()
      .required()
      .oneOf([...options], `must be one of ${options.join(", ")}`)
      .label(label)
      .meta(meta),
  /** A note value by its divisor: `"16"`; `"own"` may stand for each note's own grid. */
  value: (label: string, options: readonly string[], meta: ParamMeta = {}) =>
    param.choice(label, options, { ...meta, role: "value" }),
  flag: (label: string, meta: ParamMeta = {}) =>
    yup.boolean().strict().required().label(label).meta(meta),
  /** Beats of a bar, counted from 1: `"2 4"`. */
  beats: (label: string, meta: ParamMeta = {}) =>
    yup
      .string()
      .strict()
      .defined()
      .matches(/^(\d{1,2}( \d{1,2})*)?$/, "must be numbers of beats with a space between")
      .label(label)
      .meta({ ...meta, role: "beats" }),
  /** Lengths in steps, one after another: `"3 3 2"`. */
  rhythm: (label: string, meta: ParamMeta = {}) =>
    yup
      .string()
      .strict()
      .required()
      .max(64)
      .matches(RHYTHM, "must be whole numbers of steps from 1 to 99, with a space between")
      .label(label)
      .meta({ ...meta, role: "rhythm" }),
  /** Steps played over and over, see `parseSteps`; nothing for every step alike. */
  steps: (label: string, meta: ParamMeta = {}) =>
    yup
      .string()
      .strict()
      .defined()
      .max(256)
      .matches(STEPS, "must be steps such as “100 60+1 r t”, at most 32")
      .label(label)
      .meta({ ...meta, role: "steps" }),
  /** Id of a track, or nothing. */
  track: (label: string, meta: ParamMeta = {}) =>
    yup
      .string()
      .strict()
      .defined()
      .max(64, "must be the id of a track")
      .label(label)
      .meta({ ...meta, role: "track" }),
  seed: () => param.whole("Seed", 0, 999_999),
};

/** A closed object: an unknown field is an error that names it. */
export const closed = (shape: yup.ObjectShape, message: string): yup.ObjectSchema<yup.AnyObject> =>
  yup.object(shape).strict().noUnknown(message).required();

/** A closed object of parameters. */
export const params = (shape: yup.ObjectShape): yup.ObjectSchema<yup.AnyObject> =>
  closed(shape, "has unknown parameters: ${unknown}");
