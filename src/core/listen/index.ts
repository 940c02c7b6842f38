export { bandsOf } from "./bands";
export { beatOf } from "./beat";
export { drumHits } from "./drum-hits";
export { type Listened, PLAIN_SENSITIVITY, listenTo, mixedDown, onsetsOf } from "./listen";
export { pitchLine } from "./pitch-line";
export { KIND_PADS, barsHeard, hitNotes, lineNotes, rhythmNotes, sliceNotes, tickAt } from "./put";
export { slicesOf } from "./slices";
