import * as yup from "yup";
import { TRANSFORMS, type Change } from "@/core";
import {
  partSchema,
  patternHeadSchema,
  problemsOf,
  projectHeadSchema,
  trackSchema,
  type Problem,
} from "@/core/score/schema";
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
  refuse(chainProblems(change));
  return { revision, change };
}

/** Throws an ApiError 422 that lists the problems; does nothing where there are none. */
export function refuse(problems: readonly Problem[]): void {
  if (problems.length === 0) return;
  const [first] = problems;
  const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : "";
  throw new ApiError(422, `Not valid: ${first!.path} ${first!.reason}${more}`, { problems });
}

function chainProblems(change: Change): Problem[] {
  return (change.parts ?? []).flatMap(({ part }, i) =>
    part.chain.flatMap((step, k) => {
      const path = `change.parts[${i}].part.chain[${k}]`;
      const transform = TRANSFORMS[step.transform];
      if (!transform) {
        return [{ path: `${path}.transform`, reason: `“${step.transform}” is no known transform` }];
      }
      return transform
        .problems(step.params)
        .map((p) => ({ path: `${path}.params.${p.path}`, reason: p.reason }));
    }),
  );
}
