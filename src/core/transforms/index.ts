export { applyChain, chainWithin, contextOf, fitsPart, effectivePart } from "./chain";
export { fillOver } from "./drum-fill";
export { evenSpread } from "./fill";
export { type Effect, foldPitch } from "./kit";
export { PRESETS } from "./presets";
export { TRANSFORMS, trackParams, tracksNamedBy, transformOf } from "./registry";
export { nearestTone, rollRate } from "./roll";
export { figure } from "./kit";
export { stutterCurve } from "./stutter";
