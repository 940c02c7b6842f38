export {
  BEND_LIMITS,
  BEND_RANGE,
  type BendPiece,
  bendAt,
  bendSemitones,
  fromMiddle,
  overlaid,
  rearranged,
  repeated,
  thinned,
  bendCurve,
  withBend,
} from "./bend";
export { chordsOfText, textOfChords } from "./chord-text";
export { COLOURS, type Colour } from "./colours";
export {
  type Condition,
  type CountedLoops,
  MAX_LOOPS,
  conditionName,
  conditionOfCopy,
  countedCondition,
  countedLoops,
  holds,
  isCondition,
  withChance,
  withCondition,
} from "./condition";
export { createProject, lanesInMetre, makeLane, makeNote, makePart, makeTrack } from "./create";
export {
  KIT_RANGES,
  type KitShape,
  MAX_VARIANTS,
  PAD_FILTERS,
  PAD_RANGES,
  PLAIN_KIT,
  type PadField,
  type PadFilter,
  type PadShape,
  type SampleRef,
  padShapeOf,
  plainPad,
} from "./kit-shape";
export {
  type BendPoint,
  type ChainStep,
  type ChordMark,
  type Generated,
  LIMITS,
  type Lane,
  type Note,
  type Part,
  type Pattern,
  type Project,
  type Recording,
  SPREADS,
  type SongEntry,
  type Spread,
  type Starred,
  type Track,
  compareNotes,
  drawId,
  drawnWith,
  rootId,
  sortChords,
  sortNotes,
} from "./model";
export {
  type PartAddress,
  changePart,
  changePattern,
  changeTrackOf,
  hasTimes,
  partOf,
  patternOf,
  pitched,
  trackOf,
} from "./parts";
export { type UsesSamples, samplesOf } from "./samples";
export {
  noteProblems,
  SAMPLE_ID,
  gridSchema,
  id,
  isIdList,
  kitPresetSchema,
  partSchema,
  patternHeadSchema,
  projectHeadSchema,
  projectSchema,
  shapingPresetSchema,
  trackSchema,
} from "./schema";
export {
  type Arrangement,
  type ArrangementOptions,
  type Section,
  type SongPosition,
  arrangementOf,
  metreOf,
  patternBar,
  patternTicks,
  sectionAfter,
  sectionBars,
  sectionsOf,
  songBar,
  songPositionAt,
  tempoAt,
  tickInLoop,
  tickInPattern,
  totalTicks,
} from "./sections";
export { shapeOf, starSign, withStars } from "./stars";
export { timeMap } from "./time-map";
export { chordSpans } from "./chord-spans";
export { writtenOut } from "./written-out";
export { ownLoops } from "./lane-loops";
