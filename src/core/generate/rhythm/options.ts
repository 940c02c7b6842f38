import * as yup from "yup";
import { inRange, oneOf, wholeIn } from "../../params";
import { GRID_KINDS, GRID_VALUES, SWING_RANGE, type Grid } from "../../time";
import type { Bars, Locks, Returns, Role } from "../common/options";
import type { ValueWeight } from "./slots";
import { WITH, type RhythmSource } from "./source";

/** What the rhythm of a line is made of. */
export interface RhythmOptions extends Bars, Locks, Returns {
  role: Role;
  /** What its phrases are to be; null for a line as the first version made it. */
  phrases: object | null;
  /** Share of the rhythm's places that hold a note, 0–100 %. */
  density: number;
  /**
   * Of phrases, basses and stabs: which of the places hold one, 0 those on strong beats, 100 those beside them; null for
   * any. At a density of 100 all do.
   */
  syncopation: number | null;
  /** Of the places without a note, how many are silent, 0–100 %; through the others the note before holds on. */
  rests: number;
  /** Note values and their shares of the time. */
  values: readonly ValueWeight[];
  /** The grid whose swing, if it has any, a new rhythm has; null for a straight one. */
  swing: Grid | null;
  /** Takes the rhythm from another part; null for one of its own. */
  follow: RhythmSource | null;
}

export const rhythmDefaults = {
  density: 80,
  syncopation: null,
  rests: 100,
  values: [
    { value: 4, kind: "straight", weight: 1 },
    { value: 8, kind: "straight", weight: 3 },
    { value: 16, kind: "straight", weight: 1 },
  ],
  swing: null,
  follow: null,
} satisfies Partial<RhythmOptions>;

export const rhythmShape = {
  follow: yup
    .object({
      how: oneOf(WITH),
      hits: yup.array(yup.number().strict().required()).required(),
      pitches: yup.array(wholeIn(0, 127)).optional(),
      loud: yup.array(yup.number().strict().required()).optional(),
    })
    .nullable(),
  density: inRange(0, 100),
  syncopation: yup.number().strict().min(0).max(100).nullable().defined(),
  rests: inRange(0, 100),
  swing: yup
    .object({
      value: wholeIn(1, 128).oneOf([...GRID_VALUES]),
      kind: oneOf(GRID_KINDS),
      swing: inRange(SWING_RANGE.min, SWING_RANGE.max),
    })
    .nullable()
    .default(undefined),
  values: yup
    .array(
      yup.object({
        value: wholeIn(1, 128).oneOf([...GRID_VALUES]),
        kind: yup.string().required().oneOf(["straight", "triplet", "dotted"]),
        weight: inRange(0, 1000),
      }),
    )
    .required()
    .test("some", "must give at least one note value a weight above 0", (list) =>
      (list ?? []).some((v) => Number(v?.weight) > 0),
    ),
};
