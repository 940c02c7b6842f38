import type { SampleFile } from "../common/format";
import { type Project, SAMPLE_ID } from "../../score";
import { ProjectError, parseKeptProject } from "../../stored";
import { FormatError } from "../container/bytes";
import { parseJsonText } from "../container/parse-json";

/** Name and version at the head of a project file; see docs/format.md. */
const FORMAT = "hailstep-project";
const VERSION = 1;

/** The project as one open JSON text, with the samples it uses. */
export function writeProjectJson(project: Project, samples: readonly SampleFile[] = []): string {
  const file = { format: FORMAT, version: VERSION, project };
  return JSON.stringify(samples.length > 0 ? { ...file, samples } : file, null, 1);
}

/** Reads the project of what `writeProjectJson` writes; see `readProjectFile`. */
export function readProjectJson(text: string): Project {
  return readProjectFile(text).project;
}

/**
 * Reads what `writeProjectJson` writes, samples included. Throws a `FormatError` when it is no such
 * file and a `ProjectError` when what it holds is not valid.
 */
export function readProjectFile(text: string): { project: Project; samples: SampleFile[] } {
  let value: unknown;
  try {
    value = parseJsonText(text);
  } catch (error) {
    throw new FormatError(`Not valid JSON: ${(error as Error).message}`);
  }
  if (typeof value !== "object" || value === null || Array.isArray(value)) {
    throw new FormatError("Not a Hailstep project: the file holds no object");
  }
  const { format, version, project, samples = [] } = value as Record<string, unknown>;
  if (format !== FORMAT) {
    throw new FormatError(`Not a Hailstep project: “format” is not “${FORMAT}”`);
  }
  if (version !== VERSION) {
    throw new ProjectError([
      { path: "version", reason: `is ${JSON.stringify(version)}; this program reads ${VERSION}` },
    ]);
  }
  return { project: parseKeptProject(project), samples: sampleFiles(samples) };
}

const BASE64 = /^[A-Za-z0-9+/]*={0,2}$/;
const MAX_SAMPLES = 128;

function sampleFiles(value: unknown): SampleFile[] {
  if (!Array.isArray(value) || value.length > MAX_SAMPLES) {
    const reason = `must be a list of at most ${MAX_SAMPLES} samples`;
    throw new ProjectError([{ path: "samples", reason }]);
  }
  const problems = value.flatMap((sample: Partial<SampleFile> | null, i) => {
    const wrong = (field: string, reason: string) => [{ path: `samples[${i}]${field}`, reason }];
    if (typeof sample !== "object" || sample === null) return wrong("", "must be a sample");
    if (!SAMPLE_ID.test(String(sample.id))) return wrong(".id", "must be the id of a sample");
    if (typeof sample.name !== "string") return wrong(".name", "must be a text");
    const { data } = sample;
    return typeof data === "string" && data.length % 4 === 0 && BASE64.test(data)
      ? []
      : wrong(".data", "must be bytes in base64");
  });
  if (problems.length > 0) throw new ProjectError(problems);
  return value as SampleFile[];
}
