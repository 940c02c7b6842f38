import { referenceProblems } from "./references";
import { type Problem, firstProblems, problemsOf } from "../params";
import { type Project, projectSchema } from "../score";
import { withoutDeadSources } from "./sources";
import { upgrade } from "./upgrade";

/** Input was not a valid project. `problems` lists the first paths with their reasons, and how many more there are; nothing was kept of it. */
export class ProjectError extends Error {
  readonly problems: readonly Problem[];
  constructor(problems: readonly Problem[]) {
    super(
      `Not a valid project: ${problems.map((problem) => `${problem.path} ${problem.reason}`).join("; ")}`,
    );
    this.name = "ProjectError";
    this.problems = problems;
  }
}

/**
 * Checks unknown JSON against the whole model: types, ranges, and that everything referred to
 * exists. Returns it as a project: unchanged, or, where an earlier version made it, with what has
 * been added since (see `upgrade`). Throws a `ProjectError` that lists the first problems, and how many more there are.
 */
export function parseProject(value: unknown): Project {
  return checked(shaped(value));
}

/**
 * The same for what an earlier version may have written: steps could name a track that was deleted
 * as the one they take their timing from, which did nothing; here they name none.
 */
export function parseKeptProject(value: unknown): Project {
  return checked(withoutDeadSources(shaped(value)));
}

function shaped(value: unknown): Project {
  const problems = problemsOf(projectSchema, value);
  if (problems.length > 0) throw new ProjectError(problems);
  return value as Project;
}

function checked(project: Project): Project {
  const broken = referenceProblems(project);
  if (broken.length > 0) throw new ProjectError(firstProblems(broken));
  return upgrade(project);
}
