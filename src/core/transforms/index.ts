export { applyChain, chainWithin, contextOf, fitsPart, effectivePart } from "./chain";
export { fillOver } from "./drum-fill";
export { evenSpread } from "./fill";
export { type Effect, FAMILIES, type Family, figure, foldPitch, spanOf } from "./kit";
export { PRESETS } from "./presets";
export { type SketchedOn, type SketchedNote, type TransformSketch, sketchOf } from "./sketch";
export { TRANSFORMS, trackParams, tracksNamedBy, transformOf } from "./registry";
export { nearestTone, rollRate } from "./roll";
export { stutterCurve } from "./stutter";
