export { type FreeTempo, freeTempo } from "./free-tempo";
export { HeldNotes } from "./held-notes";
export {
  KEY_LAYOUTS,
  type KeyLayout,
  type KeyPlace,
  PIANO_PLACES,
  keyAt,
  keyPitch,
  keyPlaces,
} from "./key-layout";
export { tapOffset } from "./latency";
export { type PlayedLoop, loopsPlayed } from "./loops-played";
export { type MidiMessage, MidiStream, midiBytes } from "./midi-stream";
export {
  type LoopOf,
  OVER_END,
  type Placed,
  inLine,
  placeInLoop,
  loopCountOf,
  startInLoop,
  laneStepTicks,
  tickInPart,
} from "./place";
export {
  type LoopPlace,
  type PlayedBend,
  PlayedLog,
  type PlayedNote,
  REMEMBERED_MS,
  lastEnd,
} from "./played";
export { tappedTempo } from "./tap-tempo";
