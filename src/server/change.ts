import * as yup from "yup";
import { type Problem, firstProblems, problemsOf } from "@/core/params";
import {
  LIMITS,
  id,
  isIdList,
  partSchema,
  patternHeadSchema,
  projectHeadSchema,
  trackSchema,
} from "@/core/score";
import {
  type Change,
  type SentChange,
  chordProblems,
  partProblems,
  songProblems,
  trackProblems,
} from "@/core/stored";
import { ApiError } from "./errors";

const order = (most: number) => yup.array(id()).strict().max(most);
const MAX_PARTS = LIMITS.tracks * LIMITS.patterns;

const { track: _, notes, ...restFields } = partSchema.fields;
const closed = <T extends yup.ObjectShape>(shape: T) =>
  yup.object(shape).strict().noUnknown("has unknown fields: ${unknown}");

const partEditSchema = closed({
  pattern: id(),
  track: id(),
  removed: yup.mixed().required().test("ids", "${path} must be a list of ids of notes", isIdList),
  put: notes,
  rest: closed(restFields).optional().default(undefined),
}).required();

const changeSchema = yup
  .object({
    head: projectHeadSchema.optional().default(undefined),
    trackOrder: order(LIMITS.tracks).optional(),
    tracks: yup.array(trackSchema).strict().max(LIMITS.tracks).optional(),
    patternOrder: order(LIMITS.patterns).min(1).optional(),
    patterns: yup.array(patternHeadSchema).strict().max(LIMITS.patterns).optional(),
    parts: yup
      .array(
        yup
          .object({ pattern: yup.string().strict().required(), part: partSchema })
          .strict()
          .noUnknown()
          .required(),
      )
      .strict()
      .max(MAX_PARTS)
      .optional(),
    partEdits: yup.array(partEditSchema).strict().max(MAX_PARTS).optional(),
  })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

const bodySchema = yup
  .object({
    revision: yup.number().strict().integer().min(1).required(),
    stamp: yup.string().strict().max(64).optional(),
    change: changeSchema,
  })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

/** Checks a request to change a project; throws an ApiError 422 that lists what is wrong. */
export function parseChangeBody(body: unknown): ChangeBody {
  refuse(problemsOf(bodySchema, body));
  const { revision, stamp, change } = body as ChangeBody;
  refuse([...insideProblems(change), ...chainProblems(change, null)]);
  return { revision, change, ...(stamp !== undefined && { stamp }) };
}

/** A request to change a project: on which save of it, and how. */
export interface ChangeBody {
  revision: number;
  stamp?: string;
  change: SentChange;
}

/** Ids that are in a list twice. */
function doubled(ids: readonly string[], path: string): Problem[] {
  const seen = new Set<string>();
  return ids.flatMap((id, i) => {
    if (!seen.has(id)) {
      seen.add(id);
      return [];
    }
    return [{ path: `${path}[${i}]`, reason: `“${id}” is there twice` }];
  });
}

/** What the rows of a change hold twice: what the reader of a file refuses too. */
function insideProblems(change: SentChange): Problem[] {
  const { head, tracks = [], patterns = [], parts = [], partEdits = [] } = change;
  const { trackOrder = [], patternOrder = [] } = change;
  return [
    ...doubled(trackOrder, "change.trackOrder"),
    ...doubled(patternOrder, "change.patternOrder"),
    ...doubled(
      tracks.map((track) => track.id),
      "change.tracks",
    ),
    ...doubled(
      patterns.map((pattern) => pattern.id),
      "change.patterns",
    ),
    ...doubled(
      [
        ...parts.map(({ pattern, part }) => `${pattern} ${part.track}`),
        ...partEdits.map(({ pattern, track }) => `${pattern} ${track}`),
      ],
      "change.parts",
    ),
    ...(head ? songProblems(head.song, "change.head.song") : []),
    ...tracks.flatMap((track, i) => trackProblems(track, `change.tracks[${i}]`)),
    ...patterns.flatMap(({ chords = [] }, i) =>
      chordProblems(chords, `change.patterns[${i}].chords`),
    ),
  ];
}

/** What is wrong in the chains of a change's parts; in a project of these tracks, where they are known. */
export const chainProblems = (
  { parts = [] }: Change,
  tracks: ReadonlySet<string> | null,
): Problem[] =>
  parts.flatMap(({ part }, i) => partProblems(part, tracks, `change.parts[${i}].part`));

/** Throws an ApiError 422 that lists the problems; does nothing where there are none. */
export function refuse(problems: readonly Problem[]): void {
  const [first] = problems;
  if (!first) return;
  const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : "";
  const message = `Not valid: ${first.path} ${first.reason}${more}`;
  throw new ApiError(422, message, { problems: firstProblems(problems) });
}
