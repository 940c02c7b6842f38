import { samplesOf } from "../../score";
import { ProjectError } from "../../stored";
import { audioKind } from "../sound/audio-file";
import { base64Of, bytesOfBase64 } from "../container/base64";
import { FormatError } from "../container/bytes";
import { defineFormat, type SampleFile } from "../common/format";
import { readProjectFile, writeProjectJson } from "./json";
import { patternPicture } from "../picture/picture";
import { isZip, unzipped, zipEntries, zipOf } from "../container/zip";
import { nth } from "../../base";

const PROJECT = "project.json";
const PICTURE = "picture.svg";
const SAMPLE = /^samples\/([0-9a-f]{32})\.(wav|flac|mp3|ogg)$/;

/** More than any project may hold. */
const LIMITS = { files: 200, bytes: 512 * 1024 * 1024 };

/** The project, its samples as they were, and a picture of it, in one zip; see docs/format.md. */
export const archive = defineFormat({
  label: "Project",
  extensions: ["hailstep"],
  type: "application/zip",
  words: "hailstep zip backup whole archive",
  about: "The whole project with its samples as they were, to be opened again",
  reader: {
    matches: (bytes) => isZip(bytes) && holds(bytes, PROJECT),
    read(bytes) {
      const files = unzipped(bytes, LIMITS);
      const text = new TextDecoder().decode(files[PROJECT]);
      const { project } = readProjectFile(text);
      const refs = new Map(samplesOf(project).map((ref) => [ref.id, ref.name]));
      const samples: SampleFile[] = [];
      for (const [path, body] of Object.entries(files)) {
        const id = SAMPLE.exec(path)?.[1];
        if (id === undefined) continue;
        try {
          audioKind(body);
        } catch (error) {
          throw new FormatError(`“${path}” in the zip: ${(error as Error).message}`);
        }
        const known = refs.get(id);
        if (known !== undefined) samples.push({ id, name: known, data: base64Of(body) });
      }
      const have = new Set(samples.map(({ id }) => id));
      for (const [id, name] of refs) {
        if (have.has(id)) continue;
        const reason = `holds no file for the sample “${name}” (${id})`;
        throw new ProjectError([{ path: "samples", reason }]);
      }
      const others = Object.keys(files).filter(
        (path) => path !== PROJECT && path !== PICTURE && !SAMPLE.test(path),
      );
      return {
        project,
        samples,
        notKept: others.map((path) => `“${path}”, which is no part of a project`),
      };
    },
  },
  extents: ["project"],
  options: {},
  defaults: {},
  choices: [{ id: "archive", label: "the project as a file", extent: "project" }],
  withSamples: true,
  write(project, _scope, _options, samples) {
    const files: Record<string, Uint8Array> = {
      [PROJECT]: new TextEncoder().encode(writeProjectJson(project)),
      [PICTURE]: new TextEncoder().encode(
        patternPicture(project, nth(project.patterns, 0).id, { width: 640, names: false }),
      ),
    };
    for (const { id, data } of samples) {
      const body = bytesOfBase64(data);
      files[`samples/${id}.${audioKind(body)}`] = body;
    }
    return { body: zipOf(files, (path) => SAMPLE.test(path)), notKept: [] };
  },
});

/** Whether a zip has a file of a name; not where its list is broken, unless it is the first. */
function holds(bytes: Uint8Array, name: string): boolean {
  try {
    return zipEntries(bytes).some((entry) => entry.name === name);
  } catch {
    const first = new TextDecoder().decode(bytes.subarray(30, 30 + name.length));
    return first === name;
  }
}
