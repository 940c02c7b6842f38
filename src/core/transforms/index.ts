export { applyChain, chainWithin, contextOf, fitsPart, effectivePart } from "./chain";
export { fillOver } from "./drum-fill";
export { evenSpread } from "./fill";
export { type Effect, figure, foldPitch, spanOf } from "./kit";
export { PRESETS } from "./presets";
export { TRANSFORMS, trackParams, tracksNamedBy, transformOf } from "./registry";
export { nearestTone, rollRate } from "./roll";
export { stutterCurve } from "./stutter";
