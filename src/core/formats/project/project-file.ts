import { defineFormat } from "../common/format";
import { readProjectFile, writeProjectJson } from "./json";

/** First character that is not white space. */
const firstCharacter = (bytes: Uint8Array) =>
  String.fromCharCode(bytes.find((byte) => byte > 0x20) ?? 0);

/** The project with its samples as one JSON text; see docs/format.md. */
export const projectFile = defineFormat({
  label: "Project as text",
  extensions: ["json"],
  type: "application/json",
  words: "json backup whole",
  about: "The whole project as one JSON text, its samples inside",
  extents: ["project"],
  options: {},
  defaults: {},
  choices: [{ id: "project", label: "the project as text", extent: "project" }],
  reader: {
    matches: (bytes) => firstCharacter(bytes) === "{",
    read(bytes) {
      const { project, samples } = readProjectFile(new TextDecoder().decode(bytes));
      return { project, samples, notKept: [] };
    },
  },
  withSamples: true,
  write: (project, _scope, _options, samples) => ({
    body: writeProjectJson(project, samples),
    notKept: [],
  }),
});
