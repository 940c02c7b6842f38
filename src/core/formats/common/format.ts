import * as yup from "yup";
import type { ParamValue } from "../../params";
import type { Project } from "../../score";

/** A sample as it goes along in a project file: its bytes in base64. */
export interface SampleFile {
  id: string;
  name: string;
  data: string;
}

/** What a reader makes of a file. */
export interface ReadFile {
  project: Project;
  /** Samples that came along, to be kept with the project. */
  samples: readonly SampleFile[];
  /** What of the file the project does not hold, in words; empty when nothing is lost. */
  notKept: readonly string[];
  /** Whether a sustain pedal is pressed in it, which can lengthen notes. */
  pedal?: boolean;
  /** How its texts were read, one of `ENCODINGS`; left out where it makes no difference. */
  encoding?: string;
}

/** How a file is to be read, where it leaves a choice. */
export interface ReadOptions {
  /** Whether notes are held for as long as the sustain pedal is down. */
  pedal?: boolean;
  /** How its texts are read, one of `ENCODINGS`; left out to be told by the file. */
  encoding?: string;
}

/** Reads files of a format. */
export interface Reader {
  /** Whether bytes are of this format, by what they hold and not by a name. */
  matches(bytes: Uint8Array): boolean;
  /**
   * The project in the bytes. `name` serves where the file itself gives none. Throws a `FormatError`
   * that says what is wrong and where, or a `ProjectError` with the list of problems.
   */
  read(bytes: Uint8Array, name: string, options?: ReadOptions): ReadFile;
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
  /** Another ending and media type than the format's first. */
  extension?: string;
  type?: string;
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

/** How much of a project a file is to hold. `loop`: the pattern, its end leading into its beginning. */
export const EXTENTS = [
  "pattern",
  "song",
  "range",
  "loop",
  "track",
  "lane",
  "selection",
  "project",
] as const;
export type Extent = (typeof EXTENTS)[number];

/** What is current where a file is asked for. */
export interface Current {
  pattern: string;
  track: string;
  /** The current lane of a kit. */
  lane: number | null;
  /** Ids of the selected notes of the current part. */
  selection: readonly string[];
  /** Ticks that are looped: of the pattern, or of the song. */
  range: { pattern: string | null; ticks: readonly [number, number] } | null;
}

/** How a file is asked for in the interface: how much, and with which answers to what questions. */
export interface Asks {
  extents: readonly Extent[];
  /** Yup object of parameters; see `param`. */
  schema: yup.ObjectSchema<yup.AnyObject>;
  defaults: Readonly<Record<string, ParamValue>>;
  /** Options for the writer. Left out where the file is made of sound. */
  options?(
    answers: Readonly<Record<string, ParamValue>>,
    extent: Extent,
    current: Current,
  ): Record<string, unknown>;
}

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
  /** How it is asked for, where it can be. */
  asks?: Asks;
  /** Made of sound: rendered, not written. */
  sound?: "wav" | "flac";
  /** For which of several formats of a kind it is: a sentence. */
  about: string;
}
