import { copyAsFile } from "../../commands/files/drag-out";
import { EXPORTS, exportAs } from "../../commands/files/export";
import type { SessionStore } from "../../state/store";
import { actions } from "../action";

/** Files out and in: one action for each export that the formats offer. */
export const FILE = actions("File", [
  {
    id: "export",
    label: "Export",
    words: "save file download share wav flac audio stems",
    keys: "$mod+e",
    run: (store) => store.getState().request("export-dialog"),
  },
  {
    id: "export-again",
    label: "Export again as last time",
    keys: "$mod+Alt+e",
    words: "save file download repeat render bounce",
    run: (store) => store.getState().request("export-again"),
  },
  ...EXPORTS.map((choice) => ({
    id: `export-${choice.id}`,
    label: `Export ${choice.label}`,
    words: `save file download ${choice.words}`,
    run: (store: SessionStore) => void exportAs(store, choice),
  })),
  {
    id: "copy-midi",
    label: "Copy as a MIDI file",
    words: "clipboard drag out selection lane part",
    run: (store) => void copyAsFile(store),
  },
  {
    id: "import",
    label: "Import a file",
    words: "open load midi mid json",
    run: (store) => store.getState().request("import-file"),
  },
]);
