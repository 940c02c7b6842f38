import * as yup from "yup";
import type { Project } from "../score/model";
import type { SampleFile } from "./json";

/** What a reader makes of a file. */
export interface ReadFile {
  project: Project;
  /** Samples that came along, to be kept with the project. */
  samples: readonly SampleFile[];
  /** What of the file the project does not hold, in words; empty when nothing is lost. */
  notKept: readonly string[];
}

/** Reads files of a format. */
export interface Reader {
  /** Whether bytes are of this format, by what they hold and not by a name. */
  matches(bytes: Uint8Array): boolean;
  /**
   * The project in the bytes. `name` serves where the file itself gives none. Throws a `FormatError`
   * that says what is wrong and where, or a `ProjectError` with the list of problems.
   */
  read(bytes: Uint8Array, name: string): ReadFile;
}

/** One way to ask for a file, as a menu offers it. */
export interface ExportChoice {
  id: string;
  /** After the word Export: “this pattern as MIDI”. */
  label: string;
  /** The options of this choice, given the pattern that is current. */
  options(current: { pattern: string }): Record<string, unknown>;
}

/** What a writer makes of a project. */
export interface WrittenFile {
  body: Uint8Array | string;
  /** Added to the project's name in the file's. */
  suffix?: string;
  /** What of the project the file does not hold, in words; empty when nothing is lost. */
  notKept: readonly string[];
}

/** Writes files of a format. */
export interface Writer {
  /** Yup object of the options; what it refuses is refused with the option's name. */
  options: yup.ObjectSchema<yup.AnyObject>;
  choices: readonly ExportChoice[];
  /** Whether the files of the samples in use are wanted. */
  withSamples: boolean;
  /** The project as a file. `options` have passed the schema. Throws a RangeError for ids that are not there. */
  write(
    project: Project,
    options: Record<string, unknown>,
    samples: readonly SampleFile[],
  ): WrittenFile;
}

/** A closed object of options: an unknown one is an error that names it. */
export const options = (shape: yup.ObjectShape): yup.ObjectSchema<yup.AnyObject> =>
  yup.object(shape).strict().noUnknown("unknown options: ${unknown}").required();

/** A file format: read, written, or both. */
export interface Format {
  label: string;
  /** File endings without the dot; the first is the one written. */
  extensions: readonly string[];
  /** Media type (IANA where it has one). */
  type: string;
  /** Other words that find it in the palette. */
  words: string;
  reader?: Reader;
  writer?: Writer;
}
