import * as yup from "yup";
import { param } from "../../params";
import { options, type Format } from "../common/format";
import { compressed, musicXmlText } from "./container";
import { readMusicXml } from "./read";
import { writeMusicXml } from "./write";

const VALUES = ["8", "16", "32"] as const;
const EXTENTS = ["song", "pattern"] as const;

/** MusicXML 4.0, plain or compressed; see docs/format.md. */
export const musicXml: Format = {
  label: "Score",
  extensions: ["musicxml", "mxl", "xml"],
  type: "application/vnd.recordare.musicxml+xml",
  words: "musicxml mxl sheet music notation score staff xml",
  about: "Written music (MusicXML), for programs that set or print it",
  reader: {
    matches: (bytes) => musicXmlText(bytes, "look") !== null,
    read: (bytes, name) => ({ ...readMusicXml(musicXmlText(bytes, "read")!, name), samples: [] }),
  },
  writer: {
    options: options({
      pattern: yup.string().strict().max(64).label("Pattern"),
      smallest: yup
        .string()
        .strict()
        .oneOf([...VALUES])
        .label("Smallest value"),
      triplets: yup.boolean().strict().label("Triplets"),
      compressed: yup.boolean().strict().label("Compressed"),
    }),
    choices: [
      { id: "score", label: "this pattern as a score", options: ({ pattern }) => ({ pattern }) },
    ],
    withSamples: false,
    write(project, { pattern, smallest = "16", triplets = true, compressed: small = false }) {
      const id = pattern as string | undefined;
      const { text, notKept } = writeMusicXml(project, {
        ...(id !== undefined && { pattern: id }),
        smallest: Number(smallest) as 8 | 16 | 32,
        triplets: triplets as boolean,
      });
      return {
        body: small ? compressed(text) : text,
        suffix: project.patterns.find((p) => p.id === id)?.name ?? "",
        ...(small === true && { extension: "mxl", type: "application/vnd.recordare.musicxml" }),
        notKept,
      };
    },
  },
  asks: {
    extents: EXTENTS,
    schema: yup.object({
      kind: param.choice("As", ["text (.musicxml)", "compressed (.mxl)"]),
      smallest: param.value("Smallest value", VALUES),
      triplets: param.flag("Beats in three"),
    }),
    defaults: { kind: "text (.musicxml)", smallest: "16", triplets: true },
    options: ({ kind, smallest, triplets }, extent, { pattern }) => ({
      ...(extent === "pattern" && { pattern }),
      smallest,
      triplets,
      compressed: kind !== "text (.musicxml)",
    }),
  },
};
