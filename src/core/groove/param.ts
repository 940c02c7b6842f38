import * as yup from "yup";
import type { ParamMeta } from "../params";
import { parseGroove } from "./groove";

/** Schema piece for a groove as its text: see `parseGroove`. */
export const grooveParam = (label: string) =>
  yup
    .string()
    .strict()
    .required()
    .max(2000)
    .test("groove", "is no groove", (v) => typeof v === "string" && parseGroove(v) !== null)
    .label(label)
    .meta({ role: "groove" } satisfies ParamMeta);
