import { FORMATS, readFile, writeFile, requestOfTexts } from "@/core/formats";
import { parseChangeBody } from "../change";
import { ApiError } from "../errors";
import { parseJson, refuseVast } from "../json";
import { zipAll, type ZipResult } from "./zip";
import type { ProjectService } from "../projects";

/** Bytes to be answered with, and what they are. */
export interface FileAnswer {
  body: Uint8Array<ArrayBuffer>;
  name: string;
  extension: string;
  type: string;
}

/** Whether the first byte that is no white space opens an object or a list. */
const isJson = (bytes: Uint8Array) => {
  const first = bytes.find((byte) => byte > 0x20);
  return first === 0x7b || first === 0x5b;
};

const asJson = (value: unknown) => new TextEncoder().encode(JSON.stringify(value));

/** The most that the samples of a file may hold together: what is exported can be imported again. */
const MAX_SAMPLES_MB = 192;

/**
 * What may take longer than others should wait, by name. Runs in a thread of its own with a connection of
 * its own, or, where it is known to be little, at once. Arguments and results can be handed to a thread.
 */
export const tasks = (service: ProjectService) => ({
  /** Answers with the project as JSON. */
  read: (id: string) => asJson(service.read(id)),

  /** Saves a change; the body is what was sent. */
  change: (id: string, body: Uint8Array) => {
    const { revision, stamp, change } = parseChangeBody(parseJson(body));
    return service.change(id, revision, change, stamp);
  },

  /** Takes a file in as a new project and answers with it as JSON. */
  import: (body: Uint8Array, fileName: string) => {
    if (isJson(body)) refuseVast(body);
    const { project, samples, notKept } = readFile(body, fileName);
    return asJson({ ...service.import(project, samples), notKept });
  },

  /** A project as a file of a format. */
  export: (id: string, wanted: string, options: Record<string, string>): FileAnswer => {
    const found = Object.entries(FORMATS).find(
      ([name, { write, extensions }]) => write && (name === wanted || extensions[0] === wanted),
    );
    if (!found) throw new ApiError(400, `format must be one of ${written()}`);
    const [format, { withSamples }] = found;
    const { project } = service.read(id);
    if (withSamples) refuseTooMuch(service.samples.sizeOf(project));
    const samples = withSamples ? service.samples.filesOf(project) : [];
    const request = requestOfTexts(format, options);
    const { body, extension, type, paintAs } = writeFile(project, format, request, samples);
    if (paintAs) throw new ApiError(400, "A picture is painted by a browser; ask for the drawing");
    const bytes = typeof body === "string" ? new TextEncoder().encode(body) : new Uint8Array(body);
    return { body: bytes, name: project.name, extension, type };
  },

  /** Brings what the library shows of a project up to date. */
  summarise: (id: string) => {
    service.summarise(id);
  },

  /** Writes all projects into a zip file. */
  zip: (file: string): Promise<ZipResult> => zipAll(service.database, service, file),

  duplicate: (id: string) => asJson(service.duplicate(id)),
});

export type Tasks = ReturnType<typeof tasks>;

/** The endings of what can be written, to be named in an error. */
const written = () =>
  Object.values(FORMATS)
    .flatMap(({ write, extensions }) => (write ? [extensions[0]] : []))
    .join(", ");

function refuseTooMuch(bytes: number): void {
  const mb = Math.ceil(bytes / 1024 / 1024);
  if (mb <= MAX_SAMPLES_MB) return;
  throw new ApiError(
    422,
    `The samples of this project hold ${mb} MB together; a project file takes ${MAX_SAMPLES_MB} MB. Export fewer of them, or trim them.`,
  );
}
