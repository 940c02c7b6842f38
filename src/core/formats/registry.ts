import { byId, nth } from "../base";
import { problemsOf } from "../params";
import type { Project } from "../score";
import { FormatError } from "./container/bytes";
import type {
  FileRequest,
  Format,
  ReadFile,
  ReadOptions,
  SampleFile,
  WrittenFile,
} from "./common/format";
import { archive } from "./project/archive";
import { drawing } from "./picture/drawing";
import { midi } from "./smf/midi";
import { musicXml } from "./musicxml/format";
import { projectFile } from "./project/project-file";
import { flac, wave } from "./sound/sound";

/** All file formats by id, in the order they are offered. One line adds one. */
export const FORMATS = byId<Format>({
  wave,
  flac,
  midi,
  score: musicXml,
  archive,
  project: projectFile,
  drawing,
});

/** The format that notes leave the window in, dragged out or copied; it is offered first. */
export const DRAGGED_FORMAT = "midi";

/** File endings that can be read, with the dot: for a file picker. */
export const READABLE: readonly string[] = Object.values(FORMATS).flatMap((format) =>
  format.reader ? format.extensions.map((ending) => `.${ending}`) : [],
);

/**
 * Reads a file by what it holds, not by its name; the name serves where the file gives none. Throws
 * a `FormatError` for a file of no known format or a broken one, a `ProjectError` for one whose
 * project is not valid.
 */
export function readFile(
  bytes: Uint8Array,
  fileName: string,
  options: ReadOptions = {},
): ReadFile & { format: string } {
  if (bytes.length === 0) throw new FormatError("The file is empty");
  const name = fileName.replace(/\.[^.]*$/, "") || "Imported";
  for (const [format, { reader }] of Object.entries(FORMATS)) {
    if (reader?.matches(bytes)) return { ...reader.read(bytes, name, options), format };
  }
  const known = Object.values(FORMATS).filter((format) => format.reader);
  const labels = known.map(({ label }) => label.replace(/^[A-Z](?=[a-z])/, (c) => c.toLowerCase()));
  throw new FormatError(`This file is of no known format: ${labels.join(" or ")} expected`);
}

/**
 * Writes a project in a format, with its ending and media type: as much of it as the request names, with its options.
 * Throws a RangeError for a format that is unknown or cannot be written, for wrong options, and for ids that are not
 * there.
 */
export function writeFile(
  project: Project,
  id: string,
  request: FileRequest = {},
  samples: readonly SampleFile[] = [],
): WrittenFile & { extension: string; type: string } {
  const { write, request: schema, defaults, extensions, type, label } = formatOf(id);
  if (!write) throw new RangeError(`${label} cannot be written`);
  const wrong = problemsOf(schema, { ...defaults, ...request });
  if (wrong.length > 0) {
    throw new RangeError(
      `${label}: ${wrong.map((problem) => `${problem.path} ${problem.reason}`).join("; ")}`,
    );
  }
  return { extension: nth(extensions, 0), type, ...write(project, request, samples) };
}

/** A request as it stands in an address, each value as text, in the types that the format's options have. */
export function requestOfTexts(id: string, texts: Readonly<Record<string, string>>): FileRequest {
  const { fields } = formatOf(id).request.describe();
  const typed = ([name, text]: [string, string]) => {
    const type = fields[name]?.type;
    if (type === "number" && text.trim() !== "" && Number.isFinite(Number(text)))
      return [name, Number(text)];
    if (type === "boolean" && (text === "true" || text === "false")) return [name, text === "true"];
    return [name, type === "array" ? text.split(" ") : text];
  };
  return Object.fromEntries(Object.entries(texts).map(typed)) as FileRequest;
}

/** The format of an id, or a RangeError that names those there are. */
export function formatOf(id: string): Format {
  const format = FORMATS[id];
  if (!format) {
    throw new RangeError(
      `“${id}” is no known format; known are ${Object.keys(FORMATS).join(", ")}`,
    );
  }
  return format;
}
