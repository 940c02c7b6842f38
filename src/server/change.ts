import * as yup from "yup";
import type { Change } from "@/core";
import { chordProblems, partProblems, songProblems, trackProblems } from "@/core/score/references";
import { firstProblems, problemsOf, type Problem } from "@/core/score/check";
import { partSchema, patternHeadSchema, projectHeadSchema, trackSchema } from "@/core/score/schema";
import { ApiError } from "./errors";

const order = () => yup.array(yup.string().strict().min(1).max(64).required()).strict();

const changeSchema = yup
  .object({
    head: projectHeadSchema.optional().default(undefined),
    trackOrder: order().optional(),
    tracks: yup.array(trackSchema).strict().optional(),
    patternOrder: order().min(1).optional(),
    patterns: yup.array(patternHeadSchema).strict().optional(),
    parts: yup
      .array(
        yup
          .object({ pattern: yup.string().strict().required(), part: partSchema })
          .strict()
          .noUnknown()
          .required(),
      )
      .strict()
      .optional(),
  })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

const bodySchema = yup
  .object({ revision: yup.number().strict().integer().min(1).required(), change: changeSchema })
  .strict()
  .noUnknown("has unknown fields: ${unknown}")
  .required();

/** Checks a request to change a project; throws an ApiError 422 that lists every problem. */
export function parseChangeBody(body: unknown): { revision: number; change: Change } {
  refuse(problemsOf(bodySchema, body));
  const { revision, change } = body as { revision: number; change: Change };
  refuse([...insideProblems(change), ...chainProblems(change, null)]);
  return { revision, change };
}

/** What the rows of a change hold twice: what the reader of a file refuses too. */
function insideProblems({ head, tracks = [], patterns = [] }: Change): Problem[] {
  return [
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
  if (problems.length === 0) return;
  const [first] = problems;
  const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : "";
  const message = `Not valid: ${first!.path} ${first!.reason}${more}`;
  throw new ApiError(422, message, { problems: firstProblems(problems) });
}
