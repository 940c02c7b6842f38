import { param } from "../../params";
import { defineFormat } from "../common/format";
import { PICTURE_COLOURS } from "./colours";
import { patternPicture } from "./picture";
import { must, nth } from "../../base";

const KINDS = ["drawing (SVG)", "picture (PNG)"] as const;
const COLOURS = ["light", "dark"] as const;

/** A pattern to be read or printed, as a drawing: Scalable Vector Graphics 1.1. */
export const drawing = defineFormat({
  label: "Sheet as a drawing",
  extensions: ["svg"],
  type: "image/svg+xml",
  words: "svg png picture image print sheet",
  about: "A pattern to be read or printed, sharp at any size",
  extents: ["pattern"],
  options: {
    kind: param.choice("As", KINDS),
    inks: param.choice("Colours", COLOURS),
    width: param.whole("Width", 320, 8000, { unit: "px", step: 10 }),
  },
  defaults: { kind: KINDS[0] as string, inks: COLOURS[0] as string, width: 1280 },
  choices: [{ id: "drawing", label: "this pattern as a drawing", extent: "pattern" }],
  write(project, { pattern = nth(project.patterns, 0).id }, { kind, inks, width }) {
    const colours = PICTURE_COLOURS[inks as (typeof COLOURS)[number]];
    return {
      body: patternPicture(project, pattern, { width, colours }),
      suffix: must(project.patterns.find(({ id }) => id === pattern)).name,
      ...(kind === KINDS[1] && { paintAs: "png" }),
      notKept: [],
    };
  },
});
