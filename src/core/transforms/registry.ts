import { byId, must } from "../base";
import type { ChainStep } from "../score";
import { alternatePan } from "./alternate-pan";
import { arpeggiate } from "./arpeggiate";
import { echo } from "./echo";
import { drumFill } from "./drum-fill";
import { fill } from "./fill";
import { groove } from "./groove";
import { humanize } from "./humanize";
import { inversion } from "./inversion";
import { invert } from "./invert";
import type { ParamMeta } from "../params";
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
import { strays } from "./strays";
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
  groove,
  "drum-fill": drumFill,
  swing,
  humanize,
  quantize,
  thin,
  strays,
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
  inversion,
  "snap-to-scale": snapToScale,
});

/** The transform of an id. Throws where there is none. */
export const transformOf = (id: string): Transform => must(TRANSFORMS[id], `a transform “${id}”`);

const naming = new Map<string, readonly string[]>();

/** Parameters of a transform that name a track, by what its schema says of them; none of an unknown one. */
export function trackParams(id: string): readonly string[] {
  let names = naming.get(id);
  if (!names) {
    const fields = Object.entries(TRANSFORMS[id]?.schema.fields ?? {});
    names = fields.flatMap(([name, field]) =>
      (field as { spec?: { meta?: ParamMeta } }).spec?.meta?.role === "track" ? [name] : [],
    );
    naming.set(id, names);
  }
  return names;
}

/** Ids of tracks that a step of a chain names. */
export const tracksNamedBy = ({ transform, params }: ChainStep): string[] =>
  trackParams(transform).flatMap((name) => {
    const value = params[name];
    return typeof value === "string" && value !== "" ? [value] : [];
  });
