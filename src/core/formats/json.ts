import { ProjectError, parseProject } from "../score/parse";
import type { Project } from "../score/model";
import { FormatError } from "./bytes";

/** Name and version at the head of a project file; see docs/format.md. */
const FORMAT = "hailstep-project";
const VERSION = 1;

/** The project as one open JSON text. */
export function writeProjectJson(project: Project): string {
  return JSON.stringify({ format: FORMAT, version: VERSION, project }, null, 1);
}

/**
 * Reads what `writeProjectJson` writes. Throws a `FormatError` when it is no such file and a
 * `ProjectError` when what it holds is not valid.
 */
export function readProjectJson(text: string): Project {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new FormatError(`Not valid JSON: ${(error as Error).message}`);
  }
  if (typeof value !== "object" || value === null || Array.isArray(value)) {
    throw new FormatError("Not a Hailstep project: the file holds no object");
  }
  const { format, version, project } = value as Record<string, unknown>;
  if (format !== FORMAT) {
    throw new FormatError(`Not a Hailstep project: “format” is not “${FORMAT}”`);
  }
  if (version !== VERSION) {
    throw new ProjectError([
      { path: "version", reason: `is ${JSON.stringify(version)}; this program reads ${VERSION}` },
    ]);
  }
  return parseProject(project);
}
