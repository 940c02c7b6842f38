import { EXPORTS, exportAs } from "../../commands/export";
import type { SessionStore } from "../../session/store";
import { actions } from "../action";

/** Files out and in: one action for each export that the formats offer. */
export const FILE = actions("File", [
  {
    id: "export",
    label: "Export",
    words: "save file download share",
    keys: "$mod+e",
    run: (s) => s.getState().call("export-dialog"),
  },
  {
    id: "export-again",
    label: "Export again as last time",
    keys: "$mod+Alt+e",
    words: "save file download repeat render bounce",
    run: (s) => s.getState().call("export-again"),
  },
  ...EXPORTS.map((choice) => ({
    id: `export-${choice.id}`,
    label: `Export ${choice.label}`,
    words: `save file download ${choice.words}`,
    run: (s: SessionStore) => void exportAs(s, choice),
  })),
  {
    id: "import",
    label: "Import a file as a new project",
    words: "open load midi mid json",
    run: (s) => s.getState().call("import-file"),
  },
]);
