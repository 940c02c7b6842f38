import { byId } from "../base";
import { problemsOf } from "../params";
import type { Project } from "../score";
import { FormatError } from "./container/bytes";
import type { Format, ReadFile, ReadOptions, WrittenFile, SampleFile } from "./common/format";
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
 * Writes a project in a format, with its ending and media type. Throws a RangeError for a format
 * that is unknown or cannot be written, for wrong options, and for ids that are not there.
 */
export function writeFile(
  project: Project,
  id: string,
  options: Record<string, unknown> = {},
  samples: readonly SampleFile[] = [],
): WrittenFile & { extension: string; type: string } {
  const { writer, extensions, type, label } = formatOf(id);
  if (!writer) throw new RangeError(`${label} cannot be written`);
  const wrong = problemsOf(writer.options, options);
  if (wrong.length > 0) {
    throw new RangeError(`${label}: ${wrong.map((p) => `${p.path} ${p.reason}`).join("; ")}`);
  }
  return { extension: extensions[0]!, type, ...writer.write(project, options, samples) };
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
