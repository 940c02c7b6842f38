import { byId } from "../registry";
import { alternatePan } from "./alternate-pan";
import { arpeggiate } from "./arpeggiate";
import { echo } from "./echo";
import { fill } from "./fill";
import { humanize } from "./humanize";
import { invert } from "./invert";
import type { Transform } from "./kit";
import { legato } from "./legato";
import { length } from "./length";
import { quantize } from "./quantize";
import { repeat } from "./repeat";
import { reverse } from "./reverse";
import { roll } from "./roll";
import { rotate } from "./rotate";
import { snapToScale } from "./snap-to-scale";
import { split } from "./split";
import { stretch } from "./stretch";
import { strum } from "./strum";
import { stutter } from "./stutter";
import { swing } from "./swing";
import { thin } from "./thin";
import { transpose } from "./transpose";
import { velocity } from "./velocity";

/** All transforms by id, in the order the interface offers them. One line adds one. */
export const TRANSFORMS = byId<Transform>({
  roll,
  fill,
  rotate,
  velocity,
  swing,
  humanize,
  quantize,
  thin,
  "alternate-pan": alternatePan,
  reverse,
  invert,
  legato,
  length,
  strum,
  arpeggiate,
  echo,
  stutter,
  repeat,
  split,
  stretch,
  transpose,
  "snap-to-scale": snapToScale,
});
