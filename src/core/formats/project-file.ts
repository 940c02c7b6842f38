import { options, type Format } from "./format";
import { readProjectFile, writeProjectJson } from "./json";

/** First character that is not white space. */
const firstCharacter = (bytes: Uint8Array) =>
  String.fromCharCode(bytes.find((byte) => byte > 0x20) ?? 0);

/** The project with its samples as one JSON text; see docs/format.md. */
export const projectFile: Format = {
  label: "Project file",
  extensions: ["json"],
  type: "application/json",
  words: "json backup whole archive",
  reader: {
    matches: (bytes) => firstCharacter(bytes) === "{",
    read(bytes) {
      const { project, samples } = readProjectFile(new TextDecoder().decode(bytes));
      return { project, samples, notKept: [] };
    },
  },
  writer: {
    options: options({}),
    choices: [{ id: "project", label: "the project as a file", options: () => ({}) }],
    withSamples: true,
    write: (project, _, samples) => ({ body: writeProjectJson(project, samples), notKept: [] }),
  },
};
