import {
  FormatError,
  readProjectFile,
  readSmf,
  type Project,
  type SampleFile,
  type SmfReport,
} from "@/core";

const MIDI_HEAD = [0x4d, 0x54, 0x68, 0x64];

/**
 * Reads a file by what it holds, not by its name: a Standard MIDI File or a project's JSON. The
 * name is used where the file itself gives none. Throws a `FormatError` or `ProjectError`.
 */
export function importFile(
  bytes: Uint8Array,
  fileName: string,
): { project: Project; report: SmfReport | null; samples: SampleFile[] } {
  if (bytes.length === 0) throw new FormatError("The file is empty");
  if (MIDI_HEAD.every((byte, i) => bytes[i] === byte)) {
    return { ...readSmf(bytes, fileName.replace(/\.[^.]*$/, "") || "Imported"), samples: [] };
  }
  const text = new TextDecoder().decode(bytes);
  if (text.trimStart().startsWith("{")) return { ...readProjectFile(text), report: null };
  throw new FormatError("This is neither a MIDI file nor a Hailstep project");
}
