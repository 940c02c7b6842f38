import { humanize } from "./humanize";
import type { Transform } from "./kit";
import { quantize } from "./quantize";
import { reverse } from "./reverse";
import { roll } from "./roll";
import { snapToScale } from "./snap-to-scale";
import { stretch } from "./stretch";
import { transpose } from "./transpose";

/** All transforms by id, in the order the interface offers them. One line adds one. */
export const TRANSFORMS: Readonly<Record<string, Transform>> = {
  roll,
  reverse,
  stretch,
  humanize,
  quantize,
  transpose,
  "snap-to-scale": snapToScale,
};
