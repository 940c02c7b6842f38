import * as yup from "yup";

const text = () => yup.string().strict().defined();
const number = () => yup.number().strict().required();
const shape = <T extends yup.ObjectShape>(fields: T) => yup.object(fields).strict().required();
const list = () => yup.array().strict().required();

/**
 * What the server may answer: as much of it as must be there for the page to go on with it. What it
 * holds has been checked by the server; these find an answer that was cut, empty or somebody else's.
 */
export const ANSWERS = {
  any: shape({}),
  saved: shape({ revision: number().integer().min(1), stamp: text() }),
  stored: shape({
    id: text().min(1),
    revision: number().integer().min(1),
    stamp: text(),
    project: shape({
      name: text(),
      tempo: number(),
      metre: shape({ beats: number(), unit: number() }),
      key: shape({ root: number(), scale: text() }),
      tracks: list(),
      patterns: list().min(1),
      song: list(),
    }),
  }),
  unchanged: shape({ unchanged: yup.boolean().strict().isTrue().required() }),
  library: shape({ projects: list(), total: number(), deleted: number() }),
  user: shape({ grids: shape({ recent: list(), pinned: list() }), presets: list() }),
  grids: shape({ recent: list(), pinned: list() }),
  preset: shape({ id: text(), transform: text(), name: text(), params: shape({}) }),
  sample: shape({ id: text().min(1), name: text() }),
} as const;

export type Answer = (typeof ANSWERS)[keyof typeof ANSWERS];

/** Whether an answer is one of these. */
export const isAnswer = (value: unknown, ...wanted: readonly Answer[]): boolean =>
  wanted.some((schema) => schema.isValidSync(value, { strict: true }));
