import * as yup from "yup";

/** Schema pieces for options that no control shows: a number, a whole one, one of some names. */
export const inRange = (min: number, max: number) =>
  yup
    .number()
    .strict()
    .required()
    .min(min, `must be at least ${min}`)
    .max(max, `must be at most ${max}`);
export const wholeIn = (min: number, max: number) =>
  inRange(min, max).integer("must be a whole number");
export const oneOf = (choices: readonly string[]) =>
  yup
    .string()
    .strict()
    .required()
    .oneOf([...choices], `must be one of ${choices.join(", ")}`);
