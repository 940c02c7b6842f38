import { type Problem, problemsOf } from "../params";
import { kitPresetSchema, shapingPresetSchema } from "../score";
import { TRANSFORMS } from "../transforms";

/** What the values of a sound's shape are kept under. */
export const soundPresets = (sound: string): string => `sound:${sound}`;

/** What whole kits are kept under. */
export const KIT_PRESETS = "kit";

/**
 * What is wrong with values to be kept under a name (see `Preset`); null where it is not known what they
 * would be values of.
 */
export function presetProblems(
  of: string,
  params: Readonly<Record<string, unknown>>,
): Problem[] | null {
  const within = (problems: readonly Problem[]) =>
    problems.map((problem) => ({
      ...problem,
      path: problem.path ? `params.${problem.path}` : "params",
    }));
  if (of === KIT_PRESETS) return within(problemsOf(kitPresetSchema, params));
  if (/^sound:[a-z-]{1,50}$/.test(of)) return within(problemsOf(shapingPresetSchema, params));
  const known = TRANSFORMS[of];
  return known ? within(known.problems({ ...known.defaults, ...params } as never)) : null;
}
