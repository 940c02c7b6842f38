import * as yup from "yup";
import { param } from "../../params";
import { options, type Format } from "../common/format";
import { PICTURE_INKS } from "./colours";
import { patternPicture } from "./picture";

const INKS = ["light", "dark"] as const;

const WIDTHS = { min: 320, max: 8000 };

/** A pattern to be read or printed, as a drawing: Scalable Vector Graphics 1.1. */
export const drawing: Format = {
  label: "Sheet as a drawing",
  extensions: ["svg"],
  type: "image/svg+xml",
  words: "svg png picture image print sheet",
  about: "A pattern to be read or printed, sharp at any size",
  writer: {
    options: options({
      pattern: yup.string().strict().max(64).label("Pattern"),
      inks: yup
        .string()
        .strict()
        .oneOf([...INKS])
        .label("Colours"),
      width: yup.number().strict().integer().min(WIDTHS.min).max(WIDTHS.max).label("Width"),
    }),
    choices: [
      {
        id: "drawing",
        label: "this pattern as a drawing",
        options: ({ pattern }) => ({ pattern }),
      },
    ],
    withSamples: false,
    write(project, { pattern = project.patterns[0]!.id, inks = "light", width = 1280 }) {
      const body = patternPicture(project, pattern as string, {
        width: width as number,
        inks: PICTURE_INKS[inks as (typeof INKS)[number]],
      });
      return { body, suffix: project.patterns.find((p) => p.id === pattern)!.name, notKept: [] };
    },
  },
  asks: {
    extents: ["pattern"],
    schema: yup.object({
      kind: param.choice("As", ["drawing (SVG)", "picture (PNG)"]),
      inks: param.choice("Colours", INKS),
      width: param.whole("Width", WIDTHS.min, WIDTHS.max, { unit: "px", step: 10 }),
    }),
    defaults: { kind: "drawing (SVG)", inks: "light", width: 1280 },
    options: ({ inks, width }, _, { pattern }) => ({ pattern, inks, width }),
  },
};
