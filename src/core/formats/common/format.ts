import * as yup from "yup";
import { type Params, closed } from "../../params";
import type { Project } from "../../score";
import { type Extent, type Scope, scopeShape } from "./scope";

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

/** What a writer makes of a project. */
export interface WrittenFile {
  body: Uint8Array | string;
  /** Added to the project's name in the file's. */
  suffix?: string;
  /** Another ending and media type than the format's first. */
  extension?: string;
  type?: string;
  /** The body is a drawing that is to become a picture of this kind, which takes a browser. */
  paintAs?: "png";
  /** What of the project the file does not hold, in words; empty when nothing is lost. */
  notKept: readonly string[];
}

/** What is asked for: a scope's names, and options by their names. What is in it is checked by the format's schema. */
export type FileRequest = Readonly<Record<string, unknown>>;

/** What is rendered for a file of sound, and how its samples are written. */
export interface SoundRequest {
  file: "wav" | "flac";
  /** What each file holds. */
  stems: "mix" | "tracks" | "lanes" | "buses";
  /** Where the reverb and the echo of stems are: in files of their own, with each, or nowhere. */
  sends: "apart" | "with" | "without";
  /** Whether it goes through the limiter of the whole mix. */
  limited: boolean;
  bits: 16 | 24 | 32;
  /** Samples a second. */
  rate: number;
  /** How often the pattern is played. */
  loops: number;
  /** Whether what rings on is waited for. */
  ring: boolean;
  /** Whether notes for broadcast (`bext`) are written. */
  broadcast: boolean;
  /** What everything is multiplied by, given the highest sample and the loudness in LUFS. */
  gain(peak: number, loudness: number): number;
}

/** A way to ask for a file without the dialog, as a menu and the palette offer it. */
interface Choice<Options> {
  id: string;
  /** After the word Export: “this pattern as MIDI”. */
  label: string;
  extent: Extent;
  options?: Partial<Options>;
}

/** A format as it is described: once, for the dialog, the routes, the menus and the palette. */
interface FormatDefinition<Options extends Params> {
  label: string;
  /** File endings without the dot; the first is the one written. */
  extensions: readonly string[];
  /** Media type (IANA where it has one). */
  type: string;
  /** Other words that find it in the palette. */
  words: string;
  /** For which of several formats of a kind it is: a sentence. */
  about: string;
  /** How much of a project a file can hold. */
  extents: readonly Extent[];
  /** A schema piece for each option, see `param`: they build the questions of the dialog. */
  options: Readonly<Record<keyof Options, yup.Schema>>;
  defaults: Options;
  choices?: readonly Choice<Options>[];
  reader?: Reader;
  /** Whether the files of the samples in use are wanted. */
  withSamples?: true;
  /** The project as a file. Throws a RangeError for ids that are not there. */
  write?(
    project: Project,
    scope: Scope,
    options: Options,
    samples: readonly SampleFile[],
  ): WrittenFile;
  /** Made of sound: what is rendered. */
  sound?(options: Options): SoundRequest;
}

/** A file format: read, written, made of sound, or several of these. */
export interface Format extends Omit<
  FormatDefinition<Params>,
  "options" | "choices" | "write" | "sound"
> {
  /** Yup object of the options alone, each a question. */
  questions: yup.ObjectSchema<yup.AnyObject>;
  /** Yup object of what may be asked for: scope and options; an unknown one is an error that names it. */
  request: yup.ObjectSchema<yup.AnyObject>;
  choices: readonly Choice<Params>[];
  /** The project as a file. The request, the defaults under it, has passed the schema. */
  write?(project: Project, request: FileRequest, samples: readonly SampleFile[]): WrittenFile;
  /** What is rendered. Options left out take their defaults. */
  sound?(options: Partial<Params>): SoundRequest;
}

/** Makes a format of its description: adds the schemas, and the defaults of options that are left out. */
export function defineFormat<Options extends Params>(
  definition: FormatDefinition<Options>,
): Format {
  const { options, choices = [], write, sound, ...rest } = definition;
  const { defaults, extents } = definition;
  const full = (given: object): Options => ({ ...defaults, ...given });
  return {
    ...rest,
    questions: yup.object(options as yup.ObjectShape),
    request: closed({ ...scopeShape(extents), ...options }, "unknown options: ${unknown}"),
    choices: choices as readonly Choice<Params>[],
    ...(write && {
      write: (project: Project, request: FileRequest, samples: readonly SampleFile[]) =>
        write(project, request as Scope, full(request), samples),
    }),
    ...(sound && { sound: (given: Partial<Params>) => sound(full(given)) }),
  };
}
