import { param } from "../../params";
import { defineFormat } from "../common/format";
import { compressed, musicXmlText } from "./container";
import { readMusicXml } from "./read";
import { writeMusicXml } from "./write";

const VALUES = ["8", "16", "32"] as const;
const KINDS = ["text (.musicxml)", "compressed (.mxl)"] as const;

/** MusicXML 4.0, plain or compressed; see docs/format.md. */
export const musicXml = defineFormat({
  label: "Score",
  extensions: ["musicxml", "mxl", "xml"],
  type: "application/vnd.recordare.musicxml+xml",
  words: "musicxml mxl sheet music notation score staff xml",
  about: "Written music (MusicXML), for programs that set or print it",
  extents: ["song", "pattern"],
  options: {
    kind: param.choice("As", KINDS),
    smallest: param.value("Smallest value", VALUES),
    triplets: param.flag("Beats in three"),
  },
  defaults: { kind: KINDS[0] as string, smallest: "16", triplets: true },
  choices: [{ id: "score", label: "this pattern as a score", extent: "pattern" }],
  reader: {
    matches: (bytes) => musicXmlText(bytes, "look") !== null,
    read: (bytes, name) => ({ ...readMusicXml(musicXmlText(bytes, "read")!, name), samples: [] }),
  },
  write(project, { pattern }, { kind, smallest, triplets }) {
    const { text, notKept } = writeMusicXml(project, {
      ...(pattern !== undefined && { pattern }),
      smallest: Number(smallest) as 8 | 16 | 32,
      triplets,
    });
    const small = kind === KINDS[1];
    return {
      body: small ? compressed(text) : text,
      suffix: project.patterns.find(({ id }) => id === pattern)?.name ?? "",
      ...(small && { extension: "mxl", type: "application/vnd.recordare.musicxml" }),
      notKept,
    };
  },
});
